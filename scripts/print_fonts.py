"""Make the print fonts from the web fonts, so that paper and screen look alike.

Run by hand after the web fonts change: `pip install fonttools brotli`, Debian's fonts-dejavu-core
and fonts-droid-fallback for the faces of other scripts, then this. What it makes is kept in the
tree, for a PDF wants plain TrueType files and no machine should need these tools.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

from fontTools import subset
from fontTools.merge import Merger
from fontTools.ttLib import TTFont
from fontTools.varLib.instancer import instantiateVariableFont

ROOT = Path(__file__).resolve().parents[1]
WEB = ROOT / "web/node_modules/@fontsource-variable"
OUT = ROOT / "src/oddkettle/formats/booklet/fonts"
FACES = (
    ("text.ttf", "atkinson-hyperlegible-next", 400),
    ("text-bold.ttf", "atkinson-hyperlegible-next", 700),
    ("head.ttf", "bricolage-grotesque", 700),
)

DEBIAN = Path("/usr/share")
WIDE = (
    (0x20, 0x52F),
    (0x531, 0x6FF),
    (0x750, 0x77F),
    (0x10A0, 0x10FF),
    (0x1E00, 0x1FFF),
    (0x2000, 0x27BF),
    (0xFB00, 0xFEFF),
    (0xFFFD, 0xFFFD),
)
"""Latin, Greek, Cyrillic, Armenian, Hebrew, Arabic with its joined forms, Georgian, signs."""
EAST = ((0x1100, 0xFFFF),)
FALLBACKS = (
    ("wide.ttf", "fonts/truetype/dejavu/DejaVuSans.ttf", WIDE),
    ("east.ttf", "fonts-droid-fallback/truetype/DroidSansFallback.ttf", EAST),
)


def main() -> None:
    """Make the house's own faces and those of other scripts."""
    own_faces()
    for name, path, ranges in FALLBACKS:
        options = subset.Options()
        options.hinting = False
        options.layout_features = []
        options.name_IDs = [1, 4, 6]
        options.drop_tables += ["GSUB", "GPOS", "GDEF", "kern", "JSTF", "BASE", "vhea", "vmtx"]
        font = subset.load_font(DEBIAN / path, options)
        reduced = subset.Subsetter(options)
        reduced.populate(unicodes=[c for low, high in ranges for c in range(low, high + 1)])
        reduced.subset(font)
        for record in font["name"].names:
            record.string = f"OddKettle{Path(name).stem.title()}"
        subset.save_font(font, OUT / name, options)


def own_faces() -> None:
    """Freeze the weight of each face and join its two ranges of letters."""
    for name, face, weight in FACES:
        with tempfile.TemporaryDirectory() as folder:
            parts = []
            for letters in ("latin", "latin-ext"):
                font = TTFont(WEB / face / "files" / f"{face}-{letters}-wght-normal.woff2")
                font = instantiateVariableFont(font, {"wght": weight})
                font.flavor = None
                for table in ("GSUB", "GPOS", "GDEF"):
                    if table in font:
                        del font[table]
                path = f"{folder}/{letters}.ttf"
                font.save(path)
                parts.append(path)
            whole = Merger().merge(parts)
            # A PDF tells faces apart by this name: two weights must not share one.
            for record in whole["name"].names:
                if record.nameID in {1, 4, 6}:
                    record.string = f"OddKettle{Path(name).stem.title().replace('-', '')}"
            whole.save(OUT / name)


if __name__ == "__main__":
    main()

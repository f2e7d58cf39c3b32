"""GPX files: points of tracks and routes, with height and time where they have them."""

from __future__ import annotations

import io
from dataclasses import dataclass
from datetime import UTC, datetime
from xml.etree import ElementTree

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.values.cancellation import while_waited_for
from oddkettle.formats.untrusted.xml_bounds import OutOfBounds, check_bounds
from oddkettle.plan.quantities import FIRST_YEAR, LAST_YEAR

MAX_POINTS = 400_000
LET_GO = ("trkpt", "rtept", "wpt", "extensions", "metadata")
"""Elements of which nothing is wanted any more when they end."""


@dataclass(frozen=True, slots=True)
class Fix:
    """One point: degrees north and east, metres above the sea, UTC."""

    latitude: float
    longitude: float
    height_m: float | None = None
    at: datetime | None = None


def read_gpx(data: bytes) -> list[list[Fix]]:
    """The file's lines: a segment of a track each, then each route. Raises PlanError.

    Read element by element, and each is let go when it was read: a whole tree of the largest file
    would take half a gigabyte. What a receiver adds of its own is passed over.
    """
    try:
        check_bounds(data)
        tracks, routes = _lines(data)
    except OutOfBounds as error:
        raise _refused(str(error)) from None
    except (ElementTree.ParseError, ValueError, LookupError) as error:
        raise _refused(f"It cannot be read as GPX ({str(error)[:80]}).") from None
    kept = [line for line in (*tracks, *routes) if len(line) > 1]
    if not kept:
        raise _refused("It has no track and no route of two points or more.")
    return kept


Lines = list[list[Fix]]


def _lines(data: bytes) -> tuple[Lines, Lines]:
    """(segments of tracks, routes). Raises OutOfBounds, and what the parser raises."""
    tracks: Lines = []
    routes: Lines = []
    homes = {"trkseg": tracks, "rte": routes}
    # Where a point's line goes, as elements are open: a point outside of any is none.
    line: list[Fix] | None = None
    points = 0
    seen = ElementTree.iterparse(io.BytesIO(data), events=("start", "end"))
    root: ElementTree.Element | None = None
    for event, element in while_waited_for(seen):
        name = element.tag.rpartition("}")[2]
        if event == "start":
            if root is None:
                root = element
                if name != "gpx":
                    raise OutOfBounds(f"It is {name[:40]} and not gpx.")
            if name in homes:
                line = []
                homes[name].append(line)
            continue
        if name in ("trkpt", "rtept"):
            points += 1
            if points > MAX_POINTS:
                raise OutOfBounds(f"It has more than {MAX_POINTS:,} points.")
            fix = _fix(element)
            if line is not None and fix is not None:
                line.append(fix)
        elif name in homes:
            line = None
        if name in LET_GO:
            element.clear()
    return tracks, routes


def _fix(point: ElementTree.Element) -> Fix | None:
    latitude, longitude = _number(point.get("lat")), _number(point.get("lon"))
    if latitude is None or longitude is None:
        return None
    if not (-90 <= latitude <= 90 and -180 <= longitude <= 180):
        return None
    told = {child.tag.rpartition("}")[2]: child.text for child in point}
    height, at = _number(told.get("ele")), _moment(told.get("time"))
    if height is not None and not -430 <= height <= 9000:
        height = None
    return Fix(latitude, longitude, height, at)


def _number(text: str | None) -> float | None:
    try:
        return None if text is None else float(text)
    except ValueError:
        return None


def _moment(text: str | None) -> datetime | None:
    """UTC; None for what is no time, and for a year that no receiver has lived in."""
    try:
        at = datetime.fromisoformat((text or "").strip())
    except ValueError:
        return None
    aware = at.replace(tzinfo=UTC) if at.tzinfo is None else at
    return aware.astimezone(UTC) if FIRST_YEAR <= aware.year <= LAST_YEAR else None


def _refused(text: str) -> PlanError:
    return PlanError(
        text,
        where=("file",),
        value="this file",
        limit="a GPX file with a track or a route",
        remedy="Export the track from the map or the receiver as GPX, and bring that.",
    )

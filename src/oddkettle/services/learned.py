"""What readings say about the numbers that were typed, and edits that take it over."""

from __future__ import annotations

from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel

from oddkettle.core.tracker import Tracked
from oddkettle.plan import Plan
from oddkettle.services.improve.candidates import edit
from oddkettle.services.odds import Band
from oddkettle.services.remedies import Edit, Remedy

Floats = NDArray[np.float64]
NARROWED = 0.8
"""Readings have something to say when they narrow a number to this share of its doubt."""
MOVED = 0.5
"""Or move it by this share of it."""
MOST_DIRT = 50.0
LEAST_DOUBT_PERCENT = 2.0


class Learned(BaseModel):
    """One typed number after the readings; factors are over what was typed, 1 is as typed."""

    key: str
    kind: Literal["appliance", "use", "sun", "battery", "monitor"]
    name: str
    typed: str
    before: Band
    after: Band
    told: bool
    """Whether the readings say anything of it."""
    says: str
    take_over: Remedy | None


def learn(plan: Plan, tracked: Tracked) -> list[Learned]:
    """What the readings say, the surest first; numbers they do not touch come last."""
    if not tracked.taken:
        return []
    before, after = tracked.before, tracked.after
    found = [_use(plan, tracked), _sun(plan, before.sun, after.sun),
             _battery(plan, before.capacity, after.capacity)]  # fmt: skip
    found += [
        _appliance(plan, place, before.load[a.id], after.load[a.id])
        for place, a in enumerate(plan.use.appliances)
        if a.id in after.load
    ]
    if any(taken.key and "%" in taken.key for taken in tracked.taken) or _percents(tracked):
        found.append(_monitor(before.bias, after.bias))
    kept = [one for one in found if one is not None]
    return sorted(kept, key=lambda one: not one.told)


def _percents(tracked: Tracked) -> bool:
    return float(tracked.after.bias.std()) < NARROWED * float(tracked.before.bias.std())


def _band(values: Floats) -> Band:
    low, middle, high = np.quantile(values, (0.1, 0.5, 0.9))
    return Band(low=float(low), middle=float(middle), high=float(high))


def _told(before: Floats, after: Floats) -> bool:
    spread = float(before.std())
    narrowed = float(after.std()) < NARROWED * spread
    return narrowed or abs(float(after.mean() - before.mean())) > MOVED * spread


def _times(band: Band) -> str:
    return f"{band.middle:.2f} times, between {band.low:.2f} and {band.high:.2f}"


def _appliance(plan: Plan, place: int, before: Floats, after: Floats) -> Learned:
    appliance = plan.use.appliances[place]
    band = _band(after)
    told = _told(before, after)
    where = ("use", "appliances", place)
    watts = round(appliance.power_w * band.middle, 2)
    edits = [edit(*where, "power_w", to=watts), edit(*where, "figure", to="measured")]
    for part in ("receive_w", "sleep_w"):
        if hasattr(appliance.pattern, part):
            value = round(getattr(appliance.pattern, part) * band.middle, 4)
            edits.append(edit(*where, "pattern", part, to=value))
    says = f"{appliance.name}: {_times(band)}"
    return Learned(
        key=f"appliance:{appliance.id}",
        kind="appliance",
        name=appliance.name,
        typed=f"{appliance.power_w:g} W, {appliance.figure}",
        before=_band(before),
        after=band,
        told=told,
        says=f"{says}." if told else f"{appliance.name}: the readings do not tell it apart yet.",
        take_over=Remedy(says=f"Take {watts:g} W as measured", edits=edits) if told else None,
    )


def _use(plan: Plan, tracked: Tracked) -> Learned | None:
    """All use together: what the counters really see."""
    keys = [key for key in tracked.draw_keys if key in tracked.after.load]
    weight = np.array([float(tracked.used[:, :, n].mean()) for n in range(len(keys))])
    if weight.sum() <= 0.0:
        return None
    weight /= weight.sum()
    before = np.stack([tracked.before.load[k] for k in keys], axis=1) @ weight
    after = np.stack([tracked.after.load[k] for k in keys], axis=1) @ weight
    band, told = _band(after), _told(before, after)
    more = "as much as you wrote" if abs(band.middle - 1) < 0.03 else (
        "more than you wrote" if band.middle > 1 else "less than you wrote"
    )  # fmt: skip
    return Learned(
        key="use",
        kind="use",
        name="All use together",
        typed=f"{len(plan.use.appliances)} appliances",
        before=_band(before),
        after=band,
        told=told,
        says=f"All use together is {_times(band)}: {more}.",
        take_over=None,
    )


def _sun(plan: Plan, before: Floats, after: Floats) -> Learned | None:
    arrays = [(n, array) for n, array in enumerate(plan.box.sun) if array.on]
    if not arrays:
        return None
    band, told = _band(after), _told(before, after)
    edits: list[Edit] = []
    for n, array in arrays:
        dirt = 100.0 - (100.0 - array.dirt_percent) * band.middle
        edits.append(edit("box", "sun", n, "dirt_percent",
                          to=round(min(max(dirt, 0.0), MOST_DIRT), 1)))  # fmt: skip
    doubt = max(50.0 * (band.high - band.low) / 1.2816, LEAST_DOUBT_PERCENT)
    edits.append(edit("assumptions", "panel_doubt_percent", to=round(doubt, 1)))
    return Learned(
        key="sun",
        kind="sun",
        name="The panels",
        typed=f"{sum(p.power_w * p.count for _, a in arrays for p in a.panels):g} W",
        before=_band(before),
        after=band,
        told=told,
        says=f"The panels give {_times(band)} what they should.",
        take_over=Remedy(says="Take it over as dirt and wear", edits=edits) if told else None,
    )


def _battery(plan: Plan, before: Floats, after: Floats) -> Learned:
    band, told = _band(after), _told(before, after)
    unit = plan.box.unit
    typed = plan.box.battery.capacity_ah if unit is None else unit.capacity_wh
    name, where = ("Ah", ("box", "battery", "capacity_ah")) if unit is None else (
        "Wh", ("box", "unit", "capacity_wh")
    )  # fmt: skip
    holds = round(typed * band.middle, 1)
    doubt = max(50.0 * (band.high - band.low) / 1.2816, LEAST_DOUBT_PERCENT)
    edits = [edit(*where, to=holds),
             edit("assumptions", "capacity_doubt_percent", to=round(doubt, 1))]  # fmt: skip
    return Learned(
        key="battery",
        kind="battery",
        name="The battery",
        typed=f"{typed:g} {name}",
        before=_band(before),
        after=band,
        told=told,
        says=f"The battery holds {_times(band)} its label."
        if told
        else "The battery's capacity: the readings do not tell it yet.",
        take_over=Remedy(says=f"Take {holds:g} {name} as measured", edits=edits) if told else None,
    )


def _monitor(before: Floats, after: Floats) -> Learned:
    band = _band(100 * after)
    side = "high" if band.middle >= 0 else "low"
    return Learned(
        key="monitor",
        kind="monitor",
        name="The monitor",
        typed="percent as shown",
        before=_band(100 * before),
        after=band,
        told=_told(before, after),
        says=f"The monitor's percent reads about {abs(band.middle):.0f} points {side} "
        f"(between {band.low:+.0f} and {band.high:+.0f}); a full charge sets it right.",
        take_over=None,
    )

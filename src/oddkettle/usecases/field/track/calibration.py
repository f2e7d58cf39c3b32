"""What readings say about the numbers that were typed, and edits that take it over."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.tracker import Tracked
from oddkettle.core.simulation.ensemble_statistics import MIDDLE_80
from oddkettle.plan import Plan
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.judgements import Edit, Remedy
from oddkettle.results.odds import Band
from oddkettle.usecases.simulate.edits import edit

Floats = NDArray[np.float64]
NARROWED = 0.8
"""Readings have something to say when they narrow a number to this share of its doubt."""
MOVED = 0.5
"""Or move it by this share of it."""
CLEARLY, MIN_LEARNED_PERCENT = 0.75, 15.0
"""What one load draws is offered to be taken over once its doubt is down to this share, and keeps
at least this spread: in 24 weeks of a foreign world such a number was 20 % off rms and its narrow
band held half of them [judgement]."""
MAX_DIRT = 50.0
MIN_DOUBT_PERCENT = 2.0
AS_TYPED = 0.03
"""A factor this near to 1 is called as typed."""

Kind = Literal["appliance", "use", "sun", "battery", "monitor", "counters"]


class Learned(LazyModel):
    """One typed number after the readings; factors are over what was typed, 1 is as typed."""

    key: str
    kind: Kind
    name: str
    typed: str
    before: Band
    after: Band
    told: bool
    """Whether the readings say anything of it."""
    text: str
    take_over: Remedy | None


def learn(plan: Plan, tracked: Tracked) -> list[Learned]:
    """What the readings say, the surest first; numbers they do not touch come last."""
    if not tracked.taken:
        return []
    before, after = tracked.before, tracked.after
    found = [
        _use(plan, tracked),
        _sun(plan, before.sun, after.sun),
        _battery(plan, before.capacity, after.capacity),
    ]
    found += [
        _appliance(plan, place, before.load[a.id], after.load[a.id])
        for place, a in enumerate(plan.use.appliances)
        if a.id in after.load
    ]
    found += [_monitor(before.bias, after.bias), _counters(before.gain, after.gain)]
    kept = [one for one in found if one is not None]
    return sorted(kept, key=lambda one: not one.told)


def _band(values: Floats) -> Band:
    low, middle, high = np.quantile(values, (0.1, 0.5, 0.9))
    return Band(low=float(low), middle=float(middle), high=float(high))


def _times(band: Band) -> str:
    return f"{band.middle:.2f} times, between {band.low:.2f} and {band.high:.2f}"


@dataclass(frozen=True)
class _Number:
    """One typed number, and what the particles held of it before and hold of it now."""

    key: str
    kind: Kind
    name: str
    typed: str
    before: Floats
    after: Floats

    @property
    def told(self) -> bool:
        """Whether the readings narrowed it, or moved it."""
        spread = float(self.before.std())
        narrowed = float(self.after.std()) < NARROWED * spread
        return narrowed or abs(float(self.after.mean() - self.before.mean())) > MOVED * spread

    @property
    def band(self) -> Band:
        """The middle 80 % of what is held now."""
        return _band(self.after)

    def learned(self, text: str, take_over: Remedy | None = None) -> Learned:
        """As a line of the report."""
        return Learned(
            key=self.key,
            kind=self.kind,
            name=self.name,
            typed=self.typed,
            before=_band(self.before),
            after=self.band,
            told=self.told,
            text=text,
            take_over=take_over if self.told else None,
        )


def _appliance(plan: Plan, place: int, before: Floats, after: Floats) -> Learned:
    appliance = plan.use.appliances[place]
    typed = f"{appliance.power_w:g} W, {appliance.figure}"
    number = _Number(f"appliance:{appliance.id}", "appliance", appliance.name, typed, before, after)
    factor = number.band.middle
    where = ("use", "appliances", place)
    watts = round(appliance.power_w * factor, 2)
    edits = [
        edit(*where, "power_w", to=watts),
        edit(*where, "figure", to="learned"),
        edit(*where, "spread_percent", to=_spread_learned(number.band)),
    ]
    for part in ("receive_w", "sleep_w"):
        if hasattr(appliance.pattern, part):
            value = round(getattr(appliance.pattern, part) * factor, 4)
            edits.append(edit(*where, "pattern", part, to=value))
    text = (
        f"{appliance.name}: {_times(number.band)}."
        if number.told
        else f"{appliance.name}: the readings do not tell it apart yet."
    )
    better = float(number.after.std()) < CLEARLY * float(number.before.std())
    remedy = Remedy(text=f"Take {watts:g} W as learned", edits=edits)
    return number.learned(text, remedy if better else None)


def _spread_learned(band: Band) -> float:
    """The spread of a learned load in percent, never narrower than such numbers turned out."""
    return max(one_spread_percent(band), MIN_LEARNED_PERCENT)


def _use(plan: Plan, tracked: Tracked) -> Learned | None:
    """All use together: what the counters really see."""
    keys = [key for key in tracked.draw_keys if key in tracked.after.load]
    weight = np.array([float(tracked.used[:, :, n].mean()) for n in range(len(keys))])
    if weight.sum() <= 0.0:
        return None
    weight /= weight.sum()
    before, after = (
        np.stack([held.load[key] for key in keys], axis=1) @ weight
        for held in (tracked.before, tracked.after)
    )
    typed = f"{len(plan.use.appliances)} appliances"
    number = _Number("use", "use", "All use together", typed, before, after)
    off = number.band.middle - 1.0
    more = "as much as" if abs(off) < AS_TYPED else ("more than" if off > 0 else "less than")
    return number.learned(f"All use together is {_times(number.band)}: {more} you wrote.")


def _sun(plan: Plan, before: Floats, after: Floats) -> Learned | None:
    arrays = [(n, array) for n, array in enumerate(plan.box.sun) if array.on]
    if not arrays:
        return None
    watts = sum(p.power_w * p.count for _, a in arrays for p in a.panels)
    number = _Number("sun", "sun", "The panels", f"{watts:g} W", before, after)
    edits: list[Edit] = []
    for n, array in arrays:
        dirt = 100.0 - (100.0 - array.dirt_percent) * number.band.middle
        rounded = round(min(max(dirt, 0.0), MAX_DIRT), 1)
        edits.append(edit("box", "sun", n, "dirt_percent", to=rounded))
    edits.append(edit("assumptions", "panel_doubt_percent", to=one_spread_percent(number.band)))
    return number.learned(
        f"The panels give {_times(number.band)} what they should.",
        Remedy(text="Take it over as dirt and wear", edits=edits),
    )


def _battery(plan: Plan, before: Floats, after: Floats) -> Learned:
    unit = plan.box.unit
    if unit is None:
        typed, name, where = plan.box.battery.capacity_ah, "Ah", ("box", "battery", "capacity_ah")
    else:
        typed, name, where = unit.capacity_wh, "Wh", ("box", "unit", "capacity_wh")
    number = _Number("battery", "battery", "The battery", f"{typed:g} {name}", before, after)
    holds = round(typed * number.band.middle, 1)
    sure = [
        edit("box", "battery", "age", to="measured"),
        edit("assumptions", "capacity_doubt_percent", to=one_spread_percent(number.band)),
    ]
    text = (
        f"The battery holds {_times(number.band)} its label."
        if number.told
        else "The battery's capacity: the readings do not tell it yet."
    )
    remedy = Remedy(
        text=f"Take {holds:g} {name} as learned",
        edits=[edit(*where, to=holds), *sure],
    )
    return number.learned(text, remedy)


def one_spread_percent(band: Band) -> float:
    """One spread of a band of factors, in percent, as the assumptions hold it."""
    return round(max(100.0 * (band.high - band.low) / (2 * MIDDLE_80), MIN_DOUBT_PERCENT), 1)


def _monitor(before: Floats, after: Floats) -> Learned:
    number = _Number(
        "monitor", "monitor", "The monitor", "percent as shown", 100 * before, 100 * after
    )
    band = number.band
    side = "high" if band.middle >= 0 else "low"
    return number.learned(
        f"The monitor's percent reads about {abs(band.middle):.0f} points {side} "
        f"(between {band.low:+.0f} and {band.high:+.0f}); a full charge sets it right."
    )


def _counters(before: Floats, after: Floats) -> Learned:
    number = _Number("counters", "counters", "The counters", "as they count", before, after)
    text = (
        f"The counters count {_times(number.band)} what went through."
        if number.told
        else "The counters' own error: the readings do not tell it yet."
    )
    return number.learned(text)

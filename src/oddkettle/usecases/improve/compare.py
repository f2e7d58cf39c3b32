"""Variants side by side: their odds under the same skies, and what differs between them."""

from __future__ import annotations

from typing import Any

from oddkettle.core.simulation.ensemble import Ensemble
from oddkettle.core.simulation.ensemble_statistics import difference
from oddkettle.plan import Plan
from oddkettle.plan.box import UnitModel
from oddkettle.plan.parts import bank_from
from oddkettle.plan.plan_errors import Complaint, PlanRefused
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.odds import OddsReport
from oddkettle.usecases.plans import plans
from oddkettle.usecases.simulate.edits import edit
from oddkettle.usecases.simulate.odds import report_odds
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_cache import ensemble_of

FEWEST, MAX = 2, 3
MAX_DIFFERENCES = 60
UNIT_INPUT_W, UNIT_STANDBY_W = 300.0, 6.0
"""What the inputs of a ready-made unit of a battery box's size take together, and what its
electronics draw [judgement]."""


class Differs(LazyModel):
    """One value that is not the same in all, by variant."""

    where: str
    values: list[str]


class Variant(LazyModel):
    """One plan of the comparison."""

    plan_id: int
    name: str
    odds: OddsReport
    points: float
    """More scenarios in a hundred that last than in the first."""
    clear: bool
    """Whether that is more than the luck of so many scenarios."""
    text: str


class Comparison(LazyModel):
    """Two or three plans on one board."""

    same_skies: bool
    """Whether place, dates and weather are the same, so that every future meets the same sky."""
    variants: list[Variant]
    differences: list[Differs]


def compare(plan_ids: list[int]) -> Comparison:
    """Compare saved plans. Raises NoSuchPlan and PlanRefused."""
    if not FEWEST <= len(plan_ids) <= MAX:
        raise PlanRefused(
            [
                Complaint(
                    where="plan",
                    value=str(len(plan_ids)),
                    limit=f"{FEWEST} or {MAX} plans",
                    remedy="Choose two or three.",
                    text=f"{len(plan_ids)} plans were chosen.",
                )
            ]
        )
    opened = [plans.open_plan(plan_id) for plan_id in plan_ids]
    documents = [plan.document for plan in opened]
    ran = [ensemble_of(document) for document in documents]
    same = all(_same_skies(ran[0], other) for other in ran)
    return Comparison(
        same_skies=same,
        variants=[
            _variant(plan.id, plan.document.name, ensemble, None if n == 0 else ran[0], same)
            for n, (plan, ensemble) in enumerate(zip(opened, ran, strict=True))
        ],
        differences=differences(documents),
    )


class AgainstUnit(LazyModel):
    """A box and a ready-made unit of the same nameplate energy, under the same scenarios."""

    scenarios: int
    lasts_percent: float
    unit_lasts_percent: float
    clear: bool
    """Whether the difference is more than the luck of so many scenarios."""
    text: str


def against_unit(plan: Plan) -> AgainstUnit:
    """How often each of the two lasts, with the same use. Raises PlanRefused."""
    own, unit = ensemble_of(plan), ensemble_of(as_ready_made(plan))
    gained = difference(own.lasts, unit.lasts)
    here, there = 100 * float(own.lasts.mean()), 100 * float(unit.lasts.mean())
    verdict = (
        ("the box is surer" if gained.points > 0 else "the unit is surer")
        if gained.clear
        else "too close to tell apart"
    )
    return AgainstUnit(
        scenarios=own.scenarios.count,
        lasts_percent=here,
        unit_lasts_percent=there,
        clear=gained.clear,
        text=f"In the same {own.scenarios.count} trips, each with weather of its own, this box "
        f"lasts in {here:.0f} of 100, the unit in {there:.0f}: {verdict}.",
    )


def _same_skies(first: Ensemble, second: Ensemble) -> bool:
    a, b = first.case, second.case
    return (
        a.first_day == b.first_day
        and a.sites == b.sites
        and a.prospects == b.prospects
        and a.doubt == b.doubt
        and first.scenarios.count == second.scenarios.count
    )


def _variant(plan_id: int, name: str, own: Ensemble, first: Ensemble | None, same: bool) -> Variant:
    odds = report_odds(own)
    if first is None or not same:
        text = "" if first is None else "Other days or weather, not to be set against the first."
        return Variant(plan_id=plan_id, name=name, odds=odds, points=0.0, clear=False, text=text)
    gained = difference(own.lasts, first.lasts)
    if gained.clear:
        word = "more" if gained.points > 0 else "fewer"
        text = f"{abs(100 * gained.points):.0f} {word} of 100 tries than the first."
    elif gained.gained + gained.lost == 0:
        text = "No trip tells it from the first."
    else:
        text = f"Too close to tell from the first: {odds.scenarios} trips do not part the two."
    return Variant(
        plan_id=plan_id,
        name=name,
        odds=odds,
        points=100 * gained.points,
        clear=gained.clear,
        text=text,
    )


def differences(documents: list[Plan]) -> list[Differs]:
    """Every value that is not the same in all, named as a reader of the document would."""
    flat = [_flat(document.model_dump(mode="json", exclude={"name"})) for document in documents]
    keys = dict.fromkeys(key for one in flat for key in one)
    found = []
    for key in keys:
        values = [one.get(key, "-") for one in flat]
        if any(value != values[0] for value in values):
            found.append(Differs(where=key, values=values))
    return found[:MAX_DIFFERENCES]


def _flat(value: Any, where: str = "") -> dict[str, str]:
    """Leaves by their path; lists of named parts by the parts' names, not their places."""
    if isinstance(value, dict):
        found: dict[str, str] = {}
        for key, part in value.items():
            if key in ("id", "format", "version") or part is None:
                continue
            found.update(_flat(part, f"{where}, {_words(key)}" if where else _words(key)))
        return found
    if isinstance(value, list):
        found = {}
        for n, part in enumerate(value):
            name = part.get("name") if isinstance(part, dict) else None
            found.update(_flat(part, f"{where}, {name or n + 1}"))
        return found
    if isinstance(value, bool):
        return {where: "yes" if value else "no"}
    return {where: f"{value:g}" if isinstance(value, float) else str(value)}


UNITS = {
    "ah": "Ah", "w": "W", "a": "A", "v": "V", "c": "C", "m": "m", "mm2": "mm2", "h": "h",
    "min": "min", "percent": "%", "deg": "degrees", "wh": "Wh", "mohm": "mOhm", "k": "K",
}  # fmt: skip


def _words(key: str) -> str:
    """A field's name as words, its unit in brackets."""
    stem, _, unit = key.rpartition("_")
    if stem and unit in UNITS:
        return f"{stem.replace('_', ' ')} ({UNITS[unit]})"
    return key.replace("_", " ")


def as_ready_made(plan: Plan) -> Plan:
    """The same use and trip on a ready-made unit: the one that was entered, or of the same size.

    Its inputs take `UNIT_INPUT_W` together and its electronics draw `UNIT_STANDBY_W`; sources stay.
    """
    bank = bank_from(plan.box, plan.box.battery, ("box", "battery"))
    compared = plan.build.compared
    wh = None if compared is None else compared.capacity_wh
    unit = UnitModel(
        capacity_wh=wh or round(bank.nominal_wh), input_w=UNIT_INPUT_W, standby_w=UNIT_STANDBY_W
    )
    changed = with_edits(plan, [edit("box", "unit", to=unit.model_dump(mode="json"))])
    return changed.model_copy(update={"name": f"{plan.name[:60]}, ready-made"})

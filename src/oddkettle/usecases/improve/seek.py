"""Goal seek: how much of one thing makes a plan as sure as its owner wants it."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from typing import Annotated, Literal

from pydantic import BaseModel, Field, ValidationError

from oddkettle.core.simulation.ensemble_statistics import share_error
from oddkettle.core.sources.solar import controller_a
from oddkettle.core.units.sold_sizes import (
    BATTERY_AH,
    CHARGER_A,
    PANEL_W,
    larger,
    next_up,
)
from oddkettle.plan import Plan
from oddkettle.plan.parts import bank_from
from oddkettle.plan.plan_errors import Complaint, PlanRefused
from oddkettle.plan.quantities import LazyModel, SurePercent
from oddkettle.results.judgements import Edit, Remedy
from oddkettle.usecases.improve.candidates import TIMED, Moment
from oddkettle.usecases.simulate.edits import (
    edit,
    hookup_block,
    more_blocks,
    panel_like,
    said_day,
    timed_block,
)
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_cache import ensemble_of

Knob = Annotated[
    str,
    Field(
        json_schema_extra={"enum": [*TIMED, "hookup", "panel", "appliance", "battery", "charger"]}
    ),
]
KNOBS = (*TIMED, "hookup", "panel", "appliance", "battery", "charger")
LOOKS = 6
"""How many values are tried over the whole range before the search closes in."""
LONGEST_MIN, STEP_MIN = 360, 5
BATTERY_TIMES = 5
DUTY_STEP = 5
Certainty = Callable[[Plan], float]


class Goal(BaseModel):
    """What is sought: how sure (percent of scenarios), by turning which knob."""

    sure_percent: SurePercent = 95
    knob: Knob
    day: int | None = Field(default=None, ge=0)
    """The day of the drive (every day when absent), or of the last night on mains."""
    part: str | None = None
    """The appliance, the array, or the charger."""


class Tried(LazyModel):
    """One value of the knob and how often the plan lasts with it."""

    kind: Literal["tried"] = "tried"
    value: float
    lasts_percent: float


class Sought(LazyModel):
    """The answer: the least value that is enough, or none in reach."""

    kind: Literal["sought"] = "sought"
    sure_percent: float
    value: float | None
    unit: str
    lasts_percent: float
    unsure_points: float
    """Two standard errors that the number of scenarios leaves."""
    scenarios: int
    text: str
    try_it: Remedy | None


class _Knob(LazyModel):
    """A knob: its values in the order in which they help more, and what each edits."""

    unit: str
    values: list[float]
    noun: str


def seek(
    plan: Plan,
    goal: Goal,
    certainty: Certainty | None = None,
    after: Moment = (0, 0),
) -> Iterator[Tried | Sought]:
    """Try values until the least that is enough is known. Raises PlanRefused.

    `certainty` is how often a variant lasts, 0..1; over the whole trip when absent. Nothing is
    done before the moment `after`.
    """
    certainty = _over_the_trip if certainty is None else certainty
    knob = _knob(plan, goal)
    known: dict[int, float] = {}

    def lasts(place: int) -> float:
        if place not in known:
            edits = _edits(plan, goal, knob.values[place], after)
            try:
                known[place] = 100 * certainty(with_edits(plan, edits))
            except ValidationError as error:
                raise _beyond(goal, str(error.errors()[0]["msg"])) from None
        return known[place]

    last = len(knob.values) - 1
    looks = sorted({round(i * last / (LOOKS - 1)) for i in range(LOOKS)})
    for place in looks:
        yield Tried(value=knob.values[place], lasts_percent=lasts(place))
    works = next((place for place in looks if known[place] >= goal.sure_percent), None)
    if works is None:
        best = max(looks, key=lambda place: known[place])
        yield _answer(plan, goal, knob, (best, known[best]), after, enough=False)
        return
    fails = max((place for place in looks if place < works), default=-1)
    while works - fails > 1:
        middle = (works + fails) // 2
        yield Tried(value=knob.values[middle], lasts_percent=lasts(middle))
        if known[middle] >= goal.sure_percent:
            works = middle
        else:
            fails = middle
    yield _answer(plan, goal, knob, (works, lasts(works)), after, enough=True)


def _over_the_trip(plan: Plan) -> float:
    return float(ensemble_of(plan, quick=True).lasts.mean())


def _answer(
    plan: Plan, goal: Goal, knob: _Knob, at: tuple[int, float], after: Moment, *, enough: bool
) -> Sought:
    place, lasts = at
    value = knob.values[place]
    sure = f"{goal.sure_percent:g} % sure"
    amount = f"{value:g} {knob.unit}"
    if goal.knob == "charger":
        text = (
            f"However large {knob.noun} is, it is not {sure}: at best {lasts:.0f} %, with {amount}."
            if not enough
            else f"It is {lasts:.0f} % sure as it is; more from {knob.noun} adds nothing."
            if place == 0
            else f"With {amount} from {knob.noun} it is {lasts:.0f} % sure."
        )
    elif not enough:
        text = f"No {knob.noun} makes it {sure}: at best {lasts:.0f} %, with {amount}."
    elif place == 0:
        text = f"It is {lasts:.0f} % sure as it is; {knob.noun} adds nothing that you need."
    else:
        text = f"{amount} of {knob.noun} make it {lasts:.0f} % sure."
    return Sought(
        sure_percent=goal.sure_percent,
        value=value if enough else None,
        unit=knob.unit,
        lasts_percent=lasts,
        unsure_points=200 * share_error(lasts / 100, plan.assumptions.scenarios),
        scenarios=plan.assumptions.scenarios,
        text=text,
        try_it=None
        if place == 0
        else Remedy(text=f"Try {amount}", edits=_edits(plan, goal, value, after)),
    )


def _knob(plan: Plan, goal: Goal) -> _Knob:
    days = len(plan.trip.days)
    if goal.knob not in KNOBS:
        raise _beyond(goal, f"Nothing can be sought by {goal.knob}.")
    kind = TIMED.get(goal.knob)
    if kind is not None and kind.knob is not None:
        if not any(source.on for source in getattr(plan.box, kind.key)):
            raise _beyond(goal, kind.knob.none)
        steps = range(0, LONGEST_MIN + 1, STEP_MIN)
        when = f"{kind.knob.noun} on {_said_day(plan, goal)}"
        return _Knob(unit="min", values=[float(m) for m in steps], noun=when)
    if goal.knob == "hookup":
        if not any(m.on for m in plan.box.mains):
            raise _beyond(goal, "The box has no mains charger.")
        last = _day(plan, goal)
        values = [float(n) for n in range(min(last + 1, days) + 1)]
        return _Knob(unit="nights", values=values, noun="mains")
    if goal.knob == "panel":
        if not any(s.on for s in plan.box.sun):
            raise _beyond(goal, "The box has no panel to add to.")
        return _Knob(unit="W", values=[0.0, *map(float, PANEL_W)], noun="more panel")
    if goal.knob == "appliance":
        _appliance(plan, goal)
        values = [float(p) for p in range(100, -1, -DUTY_STEP)]
        name = plan.use.appliances[_appliance(plan, goal)].name
        return _Knob(unit="%", values=values, noun=f"the running time of {name}")
    if goal.knob == "charger":
        name, now = _charger(plan, goal)[2:]
        values = [now, *larger(CHARGER_A, now, len(CHARGER_A))]
        return _Knob(unit="A", values=values, noun=name)
    now = plan.box.battery.capacity_ah
    bigger = larger(BATTERY_AH, now, len(BATTERY_AH))
    values = [now, *(ah for ah in bigger if ah <= BATTERY_TIMES * now)]
    return _Knob(unit="Ah", values=values, noun="battery")


def _edits(plan: Plan, goal: Goal, value: float, after: Moment) -> list[Edit]:
    if goal.knob in TIMED:
        return _timed_edits(plan, goal, int(value), after)
    if goal.knob == "hookup":
        last = _day(plan, goal)
        nights = [n for n in range(last, last - int(value), -1) if n >= after[0]]
        return [more_blocks(plan, [hookup_block(plan, night, n) for n, night in enumerate(nights)])]
    if goal.knob == "panel":
        return _panel_edits(plan, goal, value)
    if goal.knob == "appliance":
        return _appliance_edits(plan, goal, value)
    if goal.knob == "charger":
        group, place = _charger(plan, goal)[:2]
        field = ("controller", "limit_a") if group == "sun" else ("limit_a",)
        return [edit("box", group, place, *field, to=value)]
    return [edit("box", "battery", "capacity_ah", to=value)]


def _charger(plan: Plan, goal: Goal) -> tuple[str, int, str, float]:
    """(group, place, name, amps) of the charger that is sought by. Raises PlanRefused."""
    for group in ("sun", "vehicle", "mains"):
        for place, source in enumerate(getattr(plan.box, group)):
            if source.id == goal.part and source.on and getattr(source, "kind", "") != "relay":
                amps = source.controller.limit_a if group == "sun" else source.limit_a
                name = f"the controller of {source.name}" if group == "sun" else source.name
                return group, place, name, float(amps)
    raise _beyond(goal, f"There is no charger {goal.part!r} that is on.")


def _timed_edits(plan: Plan, goal: Goal, minutes: int, after: Moment) -> list[Edit]:
    if minutes == 0:
        return []
    days = range(after[0], len(plan.trip.days)) if goal.day is None else [_day(plan, goal)]
    blocks = [
        timed_block(plan, goal.knob, day, minutes, after[1] if day == after[0] else 0)
        for day in days
    ]
    blocks = [b.model_copy(update={"id": f"{b.id}-{n}"}) for n, b in enumerate(blocks)]
    return [more_blocks(plan, blocks)]


def _appliance_edits(plan: Plan, goal: Goal, percent: float) -> list[Edit]:
    place = _appliance(plan, goal)
    if percent == 0.0:
        return [edit("use", "appliances", place, "on", to=False)]
    duty = plan.use.appliances[place].duty_percent * percent / 100
    return [edit("use", "appliances", place, "duty_percent", to=max(duty, 1.0))]


def _panel_edits(plan: Plan, goal: Goal, watts: float) -> list[Edit]:
    """One more panel like the last of an array, and a controller that lets all of it pass."""
    if watts == 0.0:
        return []
    arrays = [n for n, s in enumerate(plan.box.sun) if s.on]
    place = next((n for n in arrays if plan.box.sun[n].id == goal.part), arrays[0])
    array = plan.box.sun[place]
    taken = [p.id for s in plan.box.sun for p in s.panels]
    panel = panel_like(array, f"{watts:g} W more", watts, taken)
    panels = [*array.panels, panel]
    total = sum(p.power_w * p.count for p in panels)
    bank = bank_from(plan.box, plan.box.battery, ("box", "battery"))
    needs = next_up(CHARGER_A, controller_a(total, bank.nominal_v))
    return [
        edit("box", "sun", place, "panels", to=[p.model_dump(mode="json") for p in panels]),
        edit("box", "sun", place, "series", to=1),
        edit("box", "sun", place, "controller", "limit_a", to=max(array.controller.limit_a, needs)),
    ]


def _said_day(plan: Plan, goal: Goal) -> str:
    """A day of the trip in words; every day when none is named."""
    if goal.day is None:
        return "every day"
    return said_day(plan, _day(plan, goal))


def _day(plan: Plan, goal: Goal) -> int:
    days = len(plan.trip.days)
    day = days - 1 if goal.day is None else goal.day
    if day >= days:
        raise PlanRefused(
            [
                Complaint(
                    where="day",
                    value=str(day + 1),
                    limit=f"1 to {days}",
                    remedy="Choose a day of the trip.",
                    text=f"The trip has no day {day + 1}.",
                )
            ]
        )
    return day


def _appliance(plan: Plan, goal: Goal) -> int:
    for place, appliance in enumerate(plan.use.appliances):
        if appliance.id == goal.part and appliance.on:
            return place
    raise _beyond(goal, f"There is no appliance {goal.part!r} that is on.")


def _beyond(goal: Goal, text: str) -> PlanRefused:
    return PlanRefused(
        [
            Complaint(
                where="knob",
                value=goal.part or goal.knob,
                limit="a part that the plan has, within its bounds",
                remedy="Choose another thing to change.",
                text=text,
            )
        ]
    )

"""What one could do without a shop (and, when asked, with one): each with its price in bother."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass

from pydantic import ConfigDict, Field

from oddkettle.core.loads.essential import must_run
from oddkettle.core.units.quantity import celsius
from oddkettle.plan import Plan
from oddkettle.plan.quantities import Part
from oddkettle.plan.trip import BlockModel
from oddkettle.plan.use import ApplianceModel, FridgePattern
from oddkettle.usecases.improve.candidate import without_a_shop
from oddkettle.usecases.improve.candidates import TIMED, Moment, candidates_of
from oddkettle.usecases.improve.schedule.placing import flexible_ones
from oddkettle.usecases.improve.schedule.schedule import placer
from oddkettle.usecases.simulate.edits import hookup_block, said_day, timed_block
from oddkettle.usecases.simulate.remedies import with_edits

MINUTES = (10, 20, 30, 45, 60, 90)
WARMER_K = (2.0, 4.0)
MIN_PERCENT = 1.0
EURO_A_BOTHER = 4.0
SHOP_BOTHER = 60.0
MAX_NAMED = 3
MAX_DAYS = 14
"""So many days before the tightest are looked at."""


class Bother(Part):
    """What each kind of change costs its user, in points; anything may be set, none is money.

    Defaults take ten minutes of driving for about what half an evening's laptop is worth.
    """

    # Built at once: it is in the body of a call.
    model_config = ConfigDict(defer_build=False)

    start: float = Field(default=6, ge=0, le=1000)
    """To start an engine on a day on which it would have stood."""
    minute: float = Field(default=0.4, ge=0, le=100)
    """A minute of driving, or of a generator."""
    hookup: float = Field(default=40, ge=0, le=1000)
    """A night on mains."""
    half: float = Field(default=12, ge=0, le=1000)
    """An appliance half as long."""
    without: float = Field(default=30, ge=0, le=1000)
    """Without an appliance."""
    warmer: float = Field(default=5, ge=0, le=1000)
    """A cool box two degrees warmer."""
    turn: float = Field(default=15, ge=0, le=1000)
    """A panel turned to the sun on every day."""
    habit: float = Field(default=3, ge=0, le=1000)
    """A switch or a plug that one has to think of."""


@dataclass(frozen=True)
class Move:
    """One change: `slot` names what it is about, and of each slot one move is made at most."""

    slot: str
    text: str
    bother: float
    make: Callable[[Plan], Plan]
    bought: bool = False
    paid: bool = False
    """Whether it costs money on the way: a night on mains does, and so does what is bought."""


def moves_of(
    plan: Plan, tight_day: int, bother: Bother, never: frozenset[str], *, shop: bool, after: Moment
) -> list[Move]:
    """Everything that may be done about a plan, but for what is never to change.

    `never` names slots, or kinds of them ("drive", "hookup", "appliance:laptop"). What must run
    and what health hangs on is never offered.
    """
    found = [
        *_minutes(plan, tight_day, bother, after),
        *_nights(plan, tight_day, bother, after),
        *_appliances(plan, bother),
        *_habits(plan, bother),
        *_hours(plan, bother, after),
        *(_shop(plan, tight_day) if shop else ()),
    ]
    return [
        move
        for move in found
        if move.slot not in never and move.slot.partition(":")[0] not in never
    ]


def _minutes(plan: Plan, tight_day: int, bother: Bother, after: Moment) -> Iterator[Move]:
    for kind, source in TIMED.items():
        if source.knob is None or not any(one.on for one in getattr(plan.box, source.key)):
            continue
        stands = {b.day for b in plan.trip.blocks if b.kind == kind}
        for day in range(max(after[0], tight_day - MAX_DAYS), min(tight_day + 1, _days(plan))):
            start = 0.0 if day in stands else bother.start
            for minutes in MINUTES:
                yield Move(
                    slot=f"{kind}:{day}",
                    text=f"{source.knob.does} {minutes} min more on {said_day(plan, day)}"
                    if day in stands
                    else f"{source.knob.does} {minutes} min on {said_day(plan, day)}",
                    bother=start + bother.minute * minutes,
                    make=_more_of(kind, day, minutes, after[1] if day == after[0] else 0),
                    paid=source.knob.euro_h is not None,
                )


def _more_of(kind: str, day: int, minutes: int, earliest_min: int) -> Callable[[Plan], Plan]:
    def make(plan: Plan) -> Plan:
        return _with_block(plan, timed_block(plan, kind, day, minutes, earliest_min))

    return make


def _nights(plan: Plan, tight_day: int, bother: Bother, after: Moment) -> Iterator[Move]:
    if plan.trip.kind == "standby" or not any(charger.on for charger in plan.box.mains):
        return
    taken = {b.day for b in plan.trip.blocks if b.kind == "hookup"}
    for night in range(max(after[0], tight_day - MAX_DAYS), min(tight_day, _days(plan) - 1)):
        if night not in taken:
            yield Move(
                slot=f"hookup:{night}",
                text=f"A night on mains, from {said_day(plan, night)}",
                bother=bother.hookup,
                make=_night(night),
                paid=True,
            )


def _night(night: int) -> Callable[[Plan], Plan]:
    return lambda plan: _with_block(plan, hookup_block(plan, night, 1))


def _appliances(plan: Plan, bother: Bother) -> Iterator[Move]:
    for appliance in plan.use.appliances:
        if not appliance.on or must_run(appliance):
            continue
        slot = f"appliance:{appliance.id}"
        if isinstance(appliance.pattern, FridgePattern):
            for kelvin in WARMER_K:
                warmer = appliance.pattern.set_c + kelvin
                pattern = appliance.pattern.model_copy(update={"set_c": warmer})
                yield Move(
                    slot=slot,
                    text=f"{appliance.name} set to {celsius(warmer)}",
                    bother=bother.warmer * kelvin / 2,
                    make=_changed(appliance.id, {"pattern": pattern}),
                )
        else:
            half = max(appliance.duty_percent / 2, MIN_PERCENT)
            yield Move(
                slot=slot,
                text=f"{appliance.name} half as long",
                bother=bother.half,
                make=_changed(appliance.id, {"duty_percent": half}),
            )
        yield Move(
            slot=slot,
            text=f"{appliance.name} stays off",
            bother=bother.without,
            make=_changed(appliance.id, {"on": False}),
        )
        if not appliance.on_vehicle and appliance.supply == "12v" and _drives(plan):
            yield Move(
                slot=f"socket:{appliance.id}",
                text=f"{appliance.name} on the vehicle's socket while driving",
                bother=bother.habit,
                make=_changed(appliance.id, {"on_vehicle": True}),
            )


def _drives(plan: Plan) -> bool:
    return any(block.kind == "drive" for block in plan.trip.blocks)


def _changed(key: str, change: dict[str, object]) -> Callable[[Plan], Plan]:
    def make(plan: Plan) -> Plan:
        def one(appliance: ApplianceModel) -> ApplianceModel:
            return appliance.model_copy(update=change) if appliance.id == key else appliance

        appliances = [one(appliance) for appliance in plan.use.appliances]
        use = plan.use.model_copy(update={"appliances": appliances})
        return plan.model_copy(update={"use": use})

    return make


def _habits(plan: Plan, bother: Bother) -> Iterator[Move]:
    for change in candidates_of(plan, 0):
        kind = change.key.partition(":")[0]
        if kind in {"aim", "inverter"}:
            yield Move(
                slot=change.key,
                text=change.text,
                bother=bother.turn if kind == "aim" else bother.habit,
                make=lambda plan, edits=change.edits: with_edits(plan, edits),  # type: ignore[misc]
            )


def _hours(plan: Plan, bother: Bother, after: Moment) -> Iterator[Move]:
    """Flexible loads at the hours in which power is to spare."""
    loads = flexible_ones(plan)
    if not loads:
        return
    put = placer(plan, after)
    if put(plan) == plan:
        return
    names = " and ".join(load.name for load in loads)
    many = "Everything that can run at any time"
    yield Move(
        slot="schedule",
        text=f"{names if len(loads) <= MAX_NAMED else many} at the best hours",
        bother=bother.habit * len(loads),
        make=put,
    )


def _shop(plan: Plan, tight_day: int) -> Iterator[Move]:
    for change in candidates_of(plan, tight_day):
        if not without_a_shop(change) and change.euro is not None:
            yield Move(
                slot=change.key.rpartition(":")[0] or change.key,
                text=change.text,
                bother=SHOP_BOTHER + change.euro.low / EURO_A_BOTHER,
                make=lambda plan, key=change.key: _bought(plan, key, tight_day),  # type: ignore[misc]
                bought=True,
                paid=True,
            )


def _bought(plan: Plan, key: str, tight_day: int) -> Plan:
    """The plan with a change that it is offered: what it adds is added to what is there by then."""
    change = next((one for one in candidates_of(plan, tight_day) if one.key == key), None)
    return plan if change is None else with_edits(plan, change.edits)


def _with_block(plan: Plan, block: BlockModel) -> Plan:
    trip = plan.trip.model_copy(update={"blocks": [*plan.trip.blocks, block]})
    return plan.model_copy(update={"trip": trip})


def _days(plan: Plan) -> int:
    return len(plan.trip.days)

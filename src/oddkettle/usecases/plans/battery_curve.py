"""A battery's own curve, read into points that a plan can keep, with what that changes."""

from __future__ import annotations

from dataclasses import replace
from typing import Literal

import numpy as np
from numpy.typing import NDArray
from pydantic import BaseModel, Field

from oddkettle.core.battery.bank import Bank, chemistry_named, open_circuit_v
from oddkettle.core.battery.chemistry import Source
from oddkettle.core.battery.curve import rested_from_discharge, rested_from_points
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.run_metrics import level_from_rested_v
from oddkettle.core.units.conversion import CLASS_V
from oddkettle.formats.battery_curve import WHERE, Columns, parse_curve
from oddkettle.plan import quantities as q
from oddkettle.plan.box import BatteryModel, RestedPoint
from oddkettle.plan.plan_errors import PlanRefused, from_fault
from oddkettle.plan.quantities import LazyModel

Floats = NDArray[np.float64]

MAX_CHARACTERS = 200_000
MIDDLE = 0.5


class CurveAsked(BaseModel):
    """A curve as it was typed, of one battery: its voltage at rest, or while `amps` are drawn."""

    battery: BatteryModel
    text: str = Field(max_length=MAX_CHARACTERS)
    kind: Literal["rested", "discharge"] = "rested"
    amps: q.BatteryAmps | None = None


class CurveRead(LazyModel):
    """The whole rested curve, and in words what was read and what it changes."""

    points: list[RestedPoint]
    typical: list[RestedPoint]
    text: list[str]


def read_curve(asked: CurveAsked) -> CurveRead:
    """A curve for the plan. Raises PlanRefused with line, limit and remedy."""
    try:
        return _read(asked)
    except PlanError as fault:
        raise PlanRefused([from_fault(fault)]) from None


def _read(asked: CurveAsked) -> CurveRead:
    battery = asked.battery
    generic = chemistry_named(battery.chemistry, ("battery",))
    scale = (battery.cells or generic.cells * battery.battery_v / CLASS_V) / generic.cells
    columns = parse_curve(asked.text, generic.nominal_v * scale)
    volts = np.array(columns.volts) / scale
    if asked.kind == "discharge":
        level, rested = rested_from_discharge(
            generic, np.array(columns.level), volts, _amps(asked), battery.capacity_ah
        )
    else:
        level, rested = _levels(columns), volts
    curve = rested_from_points(generic, level, rested, scale)
    own = replace(
        generic,
        ocv=tuple((float(s), float(v)) for s, v in curve),
        sources={**generic.sources, "ocv": Source("datasheet", "from its own curve")},
    )
    before, after = (Bank(kind, battery.capacity_ah) for kind in (generic, own))
    middle_v = float(open_circuit_v(own, np.array([MIDDLE]))[0])
    off_mv = 1000 * scale * float(np.mean(rested - open_circuit_v(generic, level)))
    spans = [level_from_rested_v(bank, middle_v) for bank in (after, before)]
    now, then = (f"{100 * span.low:.0f} to {100 * span.high:.0f} %" for span in spans)
    return CurveRead(
        points=_points(curve, scale),
        typical=_points(np.array(generic.ocv), scale),
        text=[
            f"{len(level)} points between {100 * level.min():.0f} and {100 * level.max():.0f} % "
            "were read; beyond them the typical curve goes on.",
            f"On average they lie {abs(off_mv):.0f} mV {'above' if off_mv >= 0 else 'below'} the "
            f"typical {generic.name}.",
            f"A rested {middle_v * scale:.2f} V now tells {now}; by the typical curve it "
            f"told {then}.",
        ],
    )


def _points(curve: Floats, scale: float) -> list[RestedPoint]:
    return [
        RestedPoint(percent=round(100 * float(s), 3), volts=round(float(v) * scale, 4))
        for s, v in curve
    ]


def _levels(columns: Columns) -> Floats:
    level = np.array(columns.level) / 100.0
    if columns.drawn or level.min() < 0.0 or level.max() > 1.0:
        raise PlanError(
            f"The levels run from {100 * level.min():g} to {100 * level.max():g}.",
            where=WHERE,
            value=f"{100 * level.max():g}",
            limit="0 to 100 % of charge",
            remedy="For charge that was drawn, choose a discharge and give its current.",
        )
    return level


def _amps(asked: CurveAsked) -> float:
    if asked.amps is None:
        raise PlanError(
            "The current of the discharge is missing.",
            where=("curve", "amps"),
            value="none",
            limit="the amps that were drawn throughout",
            remedy="Give the current; it tells how far the voltage was pulled down.",
        )
    return asked.amps

"""One bank within one step: made ready at its state and temperature, and moved on."""

from __future__ import annotations

from typing import Any

from oddkettle.core.kernel.arithmetic import line, max_charge_a, temperature_row
from oddkettle.core.kernel.compiler import inlined
from oddkettle.core.kernel.constants import GRID_LOW, PER_STEP
from oddkettle.core.kernel.records import Records


@inlined
def ready_bank(
    b: int, curves: Records, by_temperature: Records, bank: Any, state: Any, point: Any
) -> None:
    """Lay bank `b`'s operating point: voltages, conductances and limits at its state.

    curves : (banks, n) of CURVE_KNOT; by_temperature : (banks, m) of TEMPERATURE_ROW
    bank, state, point : records of BANK, BANK_STATE and OPERATING_POINT
    """
    soc, lag = state.soc, state.lag
    m = temperature_row(state.temperature_c)
    head = soc - lag
    x = (head - GRID_LOW) * PER_STEP
    k = int(x)
    x -= k
    rise = curves[b, k + 1].ocv_v - curves[b, k].ocv_v
    rest = curves[b, k].ocv_v + x * rise
    rise *= PER_STEP
    ohm = bank.lead_ohm + by_temperature[b, m].ohm_factor * line(
        curves[b, k].cell_ohm, curves[b, k + 1].cell_ohm, x
    )
    y = (soc - GRID_LOW) * PER_STEP
    n = int(y)
    y -= n
    charge_ohm = bank.lead_ohm + by_temperature[b, m].ohm_factor * line(
        curves[b, k].charge_ohm, curves[b, k + 1].charge_ohm, x
    )
    take_ohm = max(
        charge_ohm,
        bank.accept_scale
        * by_temperature[b, m].accept_factor
        * line(curves[b, n].accept_ohm, curves[b, n + 1].accept_ohm, y),
    )
    # Within the step the rested voltage drifts with charge and recovers with the lag.
    up = rise * bank.soc_per_a
    down = up + rise * bank.lag_gain
    recovers = rise * lag * (1.0 - bank.lag_decay)
    point.rest_v = rest + 0.5 * recovers
    point.give_s = 1.0 / (ohm + 0.5 * down)
    point.take_s = 1.0 / (take_ohm + 0.5 * up)
    point.hold_ohm = take_ohm + up
    point.hold_give_ohm = ohm + down
    point.hold_v = rest + recovers
    point.drift_ohm = down
    point.ohm = ohm
    point.take_ohm = take_ohm
    point.charge_ohm = charge_ohm
    point.head = head
    point.empty = by_temperature[b, m].empty_head
    leak = by_temperature[b, m].leak
    point.leak_soc = leak if soc > leak else 0.0
    point.kept = line(curves[b, n].coulombic, curves[b, n + 1].coulombic, y)
    point.into_a = point.pinned_a = 0.0


@inlined
def most_into_a(bank: Any, state: Any) -> float:
    """Most that a bank may take within this step [A]: its own limit, the cold's, and full."""
    # Never past full within the step, whatever a charger is set to.
    return max(
        min(
            bank.charge_limit_a,
            (1.0 - state.soc) * bank.fill_a,
            max_charge_a(state.temperature_c, bank.barred_c, bank.gentle_c, bank.gentle_a),
        ),
        0.0,
    )


@inlined
def move_bank(bank: Any, state: Any, point: Any, heat_w: float, air_c: float) -> None:
    """Charge, lag and temperature move on by one step."""
    amps = point.into_a
    charge = amps * bank.soc_per_a
    lag = state.lag * bank.lag_decay
    if amps > 0.0:
        charge *= point.kept
    else:
        lag -= amps * bank.lag_gain
    state.soc = min(1.0, state.soc + charge - point.leak_soc)
    state.lag = lag
    warms_w = amps * amps * (point.charge_ohm if amps > 0.0 else point.ohm) + heat_w
    rest_c = air_c + bank.offset_k + warms_w * bank.k_per_w
    state.temperature_c = rest_c + (state.temperature_c - rest_c) * bank.heat_decay

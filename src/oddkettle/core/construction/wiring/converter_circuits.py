"""The two circuits of a step-down converter."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from oddkettle.core.construction.wiring.circuits import BAR, LOW_BAR, Need
from oddkettle.core.construction.wiring.currents import FULL, GUESSED_M, amps_over, cut_off_v
from oddkettle.core.loads.converter import OUTPUT_MAX_V, OUTPUT_V
from oddkettle.core.loads.demand import CONVERTER_KEY, is_stepped_down
from oddkettle.core.loads.essential import must_run
from oddkettle.core.simulation.run import Run
from oddkettle.core.units.conversion import CLASS_V


def converter_needs(run: Run) -> Iterator[Need]:
    """Both sides of the step-down converter, where the box has one and needs it."""
    converter, system_v = run.case.converter, run.case.bank.system_v
    if converter is None or system_v <= CLASS_V:
        return
    behind = {a.key for a in run.case.appliances if is_stepped_down(a, converter, system_v)}
    watts = np.sum(
        [d.asked_w for d in run.draws if d.key in behind | {CONVERTER_KEY}] or [FULL * 0.0], axis=0
    )
    amps = amps_over(watts / np.maximum(run.track.bus_v, 1e-9), run.grid.step_h)
    in_a = converter.limit_a * OUTPUT_V / converter.efficiency / cut_off_v(run)
    must = any(a.key in behind and must_run(a) for a in run.case.appliances)
    yield Need(
        key="converter",
        role="converter",
        part="converter",
        name="12 V converter, input",
        begins=BAR,
        ends="12 V converter",
        continuous_a=in_a,
        peak_a=in_a,
        seen_a=amps.seen_a,
        square_ah=amps.square_ah,
        volts=run.case.bank.nominal_v,
        run_m=GUESSED_M["converter"],
        appliances=tuple(sorted(behind)),
        must=must,
    )
    # The same power at 12 V, less what the converter loses.
    step = run.case.bank.nominal_v / OUTPUT_V * converter.efficiency
    yield Need(
        key="converter-out",
        role="low",
        part="converter",
        name="12 V converter, output",
        begins="12 V converter",
        ends=LOW_BAR,
        continuous_a=converter.limit_a,
        peak_a=converter.limit_a,
        seen_a=min(amps.seen_a * step, converter.limit_a),
        square_ah=amps.square_ah * step**2,
        volts=OUTPUT_V,
        run_m=GUESSED_M["converter"],
        must=must,
        most_v=OUTPUT_MAX_V,
    )

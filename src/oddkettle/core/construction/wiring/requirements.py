"""Which circuits a plan calls for, and what each must carry."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from oddkettle.core.construction.wiring.circuits import (
    BAR,
    BEFORE_ISOLATOR,
    COMBINED,
    Need,
)
from oddkettle.core.construction.wiring.converter_circuits import converter_needs
from oddkettle.core.construction.wiring.currents import (
    GUESSED_M,
    amps_over,
    charging_v,
    dc_draws,
    draw_amps,
    inverter_amps,
)
from oddkettle.core.construction.wiring.fuses import LOAD_FACTOR
from oddkettle.core.construction.wiring.outlets import outlets_of
from oddkettle.core.construction.wiring.panel_strings import LIGHT_FACTOR, PANEL_BEARS_A
from oddkettle.core.loads.demand import INVERTER_KEY
from oddkettle.core.loads.essential import must_run
from oddkettle.core.simulation.run import Run
from oddkettle.core.sources.dcdc import DcDc, input_current_a
from oddkettle.core.sources.relay import RELAY_FUSE_A, Relay
from oddkettle.core.sources.solar import SunInput

SENSE_A = 0.1


def needs_of(run: Run) -> tuple[Need, ...]:
    """Every circuit of a box, in the order in which they are numbered.

    A ready-made unit has its own inside: only what leads to it is built.
    """
    return tuple(_needs(run))


def _needs(run: Run) -> Iterator[Need]:
    case = run.case
    ready = case.unit is not None
    if not ready:
        yield _battery(run)
    if case.second is not None and not ready:
        yield _second(run)
    for array in case.sun:
        yield from _sun(run, array, ready)
    for source in case.vehicle:
        yield from _vehicle(run, source, ready)
    if not ready:
        yield from _mains(run)
        if inputs_of_one(run):
            yield _combined(run)
        yield from _inverter(run)
        yield from converter_needs(run)
        yield from outlets_of(run)
        yield from _rest(run)


def together_a(run: Run) -> float:
    """Most that the box's direct-current draws take at once, all that is due running [A].

    What owners foresee for things that the plan does not list counts in full.
    """
    sum_a = np.zeros(run.grid.steps)
    for draw, _ in dc_draws(run):
        if draw.key == INVERTER_KEY:
            continue
        sum_a += np.where(draw.asked > 0.0, draw_amps(run, draw, draw.peak_w), 0.0)
    heater = 0.0 if run.case.heater is None else run.case.heater.power_w / run.case.bank.nominal_v
    foreseen = sum(outlet.spare_a for outlet in run.case.wiring.outlets)
    return float(sum_a.max(initial=0.0)) + heater + foreseen


def charging_a(run: Run) -> float:
    """Most that the sources can put in at once [A], by their ratings and how they are joined."""
    joining = run.case.joining
    ratings = {source.key: float(source.rating_a) for source in run.sources}
    if joining.kind == "selector":
        return max(ratings.values(), default=0.0)
    if joining.kind == "combined":
        alone = sum(a for key, a in ratings.items() if key not in joining.members)
        inside = sum(a for key, a in ratings.items() if key in joining.members)
        return alone + min(inside, joining.limit_a)
    return sum(ratings.values())


def inputs_of_one(run: Run) -> tuple[str, ...]:
    """Sources that are inputs of one combined charger; none where each has its own."""
    joining = run.case.joining
    if joining.kind != "combined" or run.case.unit is not None:
        return ()
    inside = tuple(source.key for source in run.sources if source.key in joining.members)
    return inside if len(inside) > 1 else ()


def _combined(run: Run) -> Need:
    """The one output of a combined charger."""
    rows = [_source_row(run, key) for key in inputs_of_one(run)]
    amps = amps_over(run.taken_a[rows].sum(axis=0), run.grid.step_h)
    limit = run.case.joining.limit_a
    return Need(
        key="charge-combined",
        role="charge",
        part="joining",
        name=f"{COMBINED}, output",
        begins=COMBINED,
        ends=BAR,
        continuous_a=limit,
        peak_a=limit,
        seen_a=amps.seen_a,
        square_ah=amps.square_ah,
        volts=run.case.bank.nominal_v,
        run_m=GUESSED_M["charge"],
    )


def _battery(run: Run) -> Need:
    case, step_h = run.case, run.grid.step_h
    dc_a = together_a(run)
    inverter_a, surge_a = inverter_most_a(run)
    out_a = dc_a + inverter_a
    starts = max((draw_amps(run, d, d.surge_w - d.peak_w) for d, _ in dc_draws(run)), default=0.0)
    amps = amps_over(run.track.bank_a[:, 0], step_h)
    return Need(
        key="battery",
        role="battery",
        part="battery",
        name="Battery",
        begins="battery +",
        ends=BAR,
        continuous_a=max(out_a, charging_a(run), 1.0),
        peak_a=max(out_a, charging_a(run), dc_a + surge_a + max(starts, 0.0)),
        seen_a=amps.seen_a,
        square_ah=amps.square_ah,
        volts=case.bank.nominal_v,
        run_m=GUESSED_M["battery"],
        must=True,
        posts=case.bank.parallel,
    )


def _second(run: Run) -> Need:
    assert run.case.second is not None
    bank = run.case.second.bank
    amps = amps_over(run.track.bank_a[:, 1], run.grid.step_h)
    first_a = _battery(run).continuous_a
    # Two banks share by their size; the second may have to carry its whole share.
    share = bank.capacity_ah / (bank.capacity_ah + run.case.bank.capacity_ah)
    return Need(
        key="second",
        role="second",
        part="second",
        name="Second bank",
        begins="second battery +",
        ends=BAR,
        continuous_a=max(first_a * share, amps.seen_a, 1.0),
        peak_a=max(first_a, amps.seen_a),
        seen_a=amps.seen_a,
        square_ah=amps.square_ah,
        volts=bank.nominal_v,
        run_m=GUESSED_M["second"],
        must=True,
        posts=bank.parallel,
    )


def _source_row(run: Run, key: str) -> int:
    return next(j for j, source in enumerate(run.sources) if source.key == key)


def _charge(run: Run, key: str, part: str, name: str, most_a: float) -> Need:
    """From a charger to the bar."""
    taken = run.taken_a[_source_row(run, key)]
    amps = amps_over(taken, run.grid.step_h)
    return Need(
        key=f"charge-{key}",
        role="charge",
        part=part,
        name=f"{name}, output",
        begins=name,
        ends=BAR,
        continuous_a=most_a,
        peak_a=most_a,
        seen_a=amps.seen_a,
        square_ah=amps.square_ah,
        volts=run.case.bank.nominal_v,
        run_m=GUESSED_M["charge"],
    )


def _sun(run: Run, array: SunInput, ready: bool) -> Iterator[Need]:
    row = _source_row(run, array.key)
    source = run.sources[row]
    plates = [(panel.plate, panel.count) for panel in array.panels]
    strings = max(sum(n for _, n in plates) / array.series, 1.0)
    short_a = sum(plate.isc_a * count for plate, count in plates) / array.series
    best_a = sum(plate.imp_a * count for plate, count in plates) / array.series
    allowed = [plate.fuse_max_a for plate, _ in plates]
    # Beside panels whose label says, one that does not is taken for a usual one.
    bears = [PANEL_BEARS_A if most is None else most for most in allowed] if any(allowed) else []
    volts = array.series * sum(p.vmp_v * n for p, n in plates) / sum(n for _, n in plates)
    if array.at_battery:
        volts = run.case.bank.nominal_v
    raw_a = np.minimum(source.raw_w / volts, short_a * LIGHT_FACTOR)
    amps = amps_over(raw_a, run.grid.step_h)
    inside = array.key in inputs_of_one(run)
    ends = f"{array.name}, controller" if not ready else "the unit's solar input"
    ends = COMBINED if inside else ends
    yield Need(
        key=f"panel-{array.key}",
        role="panel",
        part=f"sun:{array.key}",
        name=f"{array.name}, from the panels",
        begins="panels",
        ends=ends if array.controller.kind != "none" else BAR,
        continuous_a=max(short_a * LIGHT_FACTOR, 0.02),
        peak_a=short_a * LIGHT_FACTOR,
        seen_a=min(amps.seen_a, best_a * LIGHT_FACTOR),
        square_ah=amps.square_ah,
        volts=volts,
        full_a=best_a,
        strings=strings,
        string_a=short_a / strings,
        string_bears_a=min(bears, default=None),
        most_v=None if source.volts is None else source.volts.cold_voc_v,
        run_m=array.cable_m or GUESSED_M["panel"],
        area_mm2=array.cable_mm2 if array.cable_m is not None else None,
        stated=frozenset() if array.cable_m is None else frozenset({"run_m", "cable_mm2"}),
    )
    if array.controller.kind != "none" and not ready and not inside:
        limit = min(array.controller.limit_a, source.rating_a)
        output = run.case.load_output
        if output is not None and output.source == array.key and output.appliances:
            # By night the same lead carries what hangs on its load output.
            limit = max(limit, output.limit_a)
        yield _charge(run, array.key, f"sun:{array.key}", f"{array.name}, controller", limit)


def _vehicle(run: Run, source: DcDc | Relay, ready: bool) -> Iterator[Need]:
    row = _source_row(run, source.key)
    series, taken = run.sources[row], run.taken_a[row]
    if isinstance(source, DcDc):
        rating = source.limit_a * (0.5 if source.half_current else 1.0)
        out_w = rating * charging_v(run) / source.efficiency
        low_v = _source_v(source)
        asked_a = float(input_current_a(np.array([out_w]), np.array([low_v]), source.feed.ohm)[0])
        asked_a = min(asked_a, source.fuse_a or asked_a)
        bus_w = np.maximum(taken, 0.0) * run.track.bus_v / source.efficiency
        on = np.maximum(series.on, 1e-9)
        inside = input_current_a(bus_w / on, series.source_v, source.feed.ohm) * series.on
        ends = f"{source.name}, input"
    else:
        assert isinstance(source, Relay)
        asked_a = max(
            min(source.fuse_a or RELAY_FUSE_A, source.alternator.rated_a) / LOAD_FACTOR,
            float(np.abs(taken).max(initial=0.0)),
        )
        inside, ends = taken, BAR
    amps = amps_over(np.asarray(inside, np.float64), run.grid.step_h)
    yield Need(
        key=f"feed-{source.key}",
        role="feed",
        part=f"vehicle:{source.key}",
        name=f"{source.name}, feed",
        begins="starter battery +",
        ends=_lead_ends(run, source.key, ends),
        continuous_a=asked_a,
        peak_a=asked_a,
        seen_a=amps.seen_a,
        square_ah=amps.square_ah,
        volts=_source_v(source),
        run_m=source.feed.length_m,
        area_mm2=source.feed.area_mm2,
        fuse_a=source.fuse_a,
        stated=frozenset({"run_m", "cable_mm2"} | ({"fuse_a"} if source.fuse_a else set())),
        engine_bay=True,
    )
    if isinstance(source, DcDc) and not ready and source.key not in inputs_of_one(run):
        rating = source.limit_a * (0.5 if source.half_current else 1.0)
        yield _charge(run, source.key, f"vehicle:{source.key}", source.name, rating)


def _lead_ends(run: Run, key: str, own: str) -> str:
    """Where a vehicle's lead ends: at a unit, at a combined charger, or at its own charger."""
    if run.case.unit is not None:
        return "the unit's 12 V input"
    return COMBINED if key in inputs_of_one(run) else own


def _source_v(source: DcDc | Relay) -> float:
    """The lowest voltage of a running engine's alternator [V]."""
    return source.alternator.smart_v if source.alternator.smart else source.alternator.volts


def _mains(run: Run) -> Iterator[Need]:
    for charger in run.case.mains:
        if charger.key in inputs_of_one(run):
            continue
        part = f"mains:{charger.key}"
        yield _charge(run, charger.key, part, charger.name, charger.limit_a)


def inverter_most_a(run: Run) -> tuple[float, float]:
    """(for hours, for a moment) what an inverter takes [A]: by its rating, or by its socket's fuse.

    Nothing for a box without one.
    """
    inverter = run.case.inverter
    if inverter is None:
        return 0.0, 0.0
    hours_a = inverter_amps(run, inverter.rating_w)
    moment_a = inverter_amps(run, inverter.surge_w or inverter.rating_w)
    if inverter.socket_a is not None:
        hours_a = min(hours_a, inverter.socket_a / LOAD_FACTOR)
        moment_a = min(moment_a, inverter.socket_a)
    return hours_a, moment_a


def _inverter(run: Run) -> Iterator[Need]:
    inverter = run.case.inverter
    if inverter is None:
        return
    on_it = {a.key for a in run.case.appliances if a.supply == "inverter"} | {INVERTER_KEY}
    watts = np.sum([d.asked_w for d in run.draws if d.key in on_it], axis=0)
    amps = amps_over(watts / np.maximum(run.track.bus_v, 1e-9), run.grid.step_h)
    hours_a, moment_a = inverter_most_a(run)
    socket_a = inverter.socket_a
    yield Need(
        key="inverter",
        role="inverter",
        part="inverter",
        name="Inverter" if socket_a is None else "12 V socket of the inverter",
        begins=BAR,
        ends="inverter",
        continuous_a=hours_a,
        peak_a=moment_a,
        fuse_a=socket_a,
        stated=frozenset() if socket_a is None else frozenset({"fuse_a"}),
        seen_a=amps.seen_a,
        square_ah=amps.square_ah,
        volts=run.case.bank.nominal_v,
        run_m=GUESSED_M["inverter"],
        appliances=tuple(sorted(on_it - {INVERTER_KEY})),
        must=any(a.key in on_it and must_run(a) for a in run.case.appliances),
    )


def _rest(run: Run) -> Iterator[Need]:
    nominal_v = run.case.bank.nominal_v
    if run.case.heater is not None:
        watts = run.case.heater.power_w
        amps = amps_over(run.track.heater_w / np.maximum(run.track.bus_v, 1e-9), run.grid.step_h)
        yield Need(
            key="heater",
            role="heater",
            part="warmth",
            name="Heater pads",
            begins=BAR,
            ends="heater pads",
            continuous_a=watts / nominal_v,
            peak_a=watts / nominal_v,
            seen_a=amps.seen_a,
            square_ah=amps.square_ah,
            volts=nominal_v,
            run_m=GUESSED_M["heater"],
            must=True,
        )
    if run.case.wiring.shunt:
        yield Need(
            key="sense",
            role="sense",
            part="battery",
            name="Monitor supply",
            begins=BEFORE_ISOLATOR,
            ends="monitor",
            continuous_a=SENSE_A,
            peak_a=SENSE_A,
            seen_a=SENSE_A,
            square_ah=SENSE_A**2 * run.grid.steps * run.grid.step_h,
            volts=nominal_v,
            run_m=GUESSED_M["sense"],
        )

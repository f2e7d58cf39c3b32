"""Outlets: one for each strong appliance, shared ones for the weak, USB by itself.

What the owner wants otherwise comes first.
"""

from __future__ import annotations

from collections.abc import Iterator
from itertools import chain, count
from typing import Literal

import numpy as np

from oddkettle.core.construction.wiring.circuits import BAR, LOW_BAR, Need
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.currents import (
    GUESSED_M,
    amps_over,
    dc_draws,
    draw_amps,
    stepped_down_a,
)
from oddkettle.core.construction.wiring.fuses import LOAD_FACTOR
from oddkettle.core.loads.converter import OUTPUT_MAX_V, OUTPUT_V
from oddkettle.core.loads.demand import Appliance, DrawSeries, is_stepped_down
from oddkettle.core.loads.essential import must_run
from oddkettle.core.simulation.own_wiring import OwnOutlet
from oddkettle.core.simulation.run import Run

OUTLET_SHARED_A = 3.0
"""Appliances that draw less share a 12 V outlet [judgement]."""
SHARED_MAX_A = CONNECTORS["socket"].rating_a / 1.5
"""Most that appliances sharing an outlet may draw together [A, judgement]."""
MIN_A = 0.01
ANYTHING_A = 10.0
"""What a 12 V outlet is fused and cabled for, whatever hangs on it today [judgement]: something
else is plugged in tomorrow."""

Plugged = tuple[DrawSeries, Appliance]
Pool = Literal["bar", "low", "usb", "output"]
POOLS: tuple[Pool, ...] = ("bar", "low", "usb", "output")


def outlets_of(run: Run) -> Iterator[Need]:
    """The tool's outlets for what the owner placed nowhere, then the owner's own."""
    own = list(_own_groups(run))
    placed = {appliance.key for _, group in own for _, appliance in group}
    used = {outlet.key for outlet, _ in own}
    strong: list[list[Plugged]] = []
    pools: dict[Pool, list[list[Plugged]]] = {pool: [] for pool in POOLS}
    for draw, appliance in dc_draws(run):
        if appliance is None or appliance.key in placed:
            continue
        amps = plugged_a(run, (draw, appliance))
        pool = _pool(run, appliance)
        if pool != "usb" and amps > OUTLET_SHARED_A:
            strong.append([(draw, appliance)])
            continue
        most = CONNECTORS["usb"].rating_a if pool == "usb" else SHARED_MAX_A
        inside = next((g for g in pools[pool] if _sum_a(run, g) + amps <= most), None)
        if inside is None:
            pools[pool].append([(draw, appliance)])
        else:
            inside.append((draw, appliance))
    for group in strong:
        first = group[0][1]
        yield _outlet(run, group, OwnOutlet(_free(f"outlet-{first.key}", used), first.name))
    for pool, (word, stem) in _words(run).items():
        for n, group in enumerate(pools[pool], start=1):
            name = word if len(pools[pool]) == 1 else f"{word} {n}"
            key = _free(f"{stem}-{n}", used)
            yield _outlet(run, group, OwnOutlet(key, name, usb=pool == "usb"))
    for outlet, group in own:
        yield _outlet(run, group, outlet)


def _pool(run: Run, appliance: Appliance) -> Pool:
    """With which others it may share an outlet."""
    if appliance.supply == "usb":
        return "usb"
    output = run.case.load_output
    if output is not None and appliance.key in output.appliances:
        return "output"
    return (
        "low" if is_stepped_down(appliance, run.case.converter, run.case.bank.system_v) else "bar"
    )


def _words(run: Run) -> dict[Pool, tuple[str, str]]:
    """What the shared outlets of a pool are called, and the stem of their keys."""
    volts = run.case.bank.system_v
    low = "12 V outlet, stepped down" if run.case.converter else "12 V outlet"
    return {
        "bar": (f"{volts:g} V outlet", "shared"),
        "low": (low, "shared"),
        "usb": ("USB outlet", "usb"),
        "output": ("Load output's outlet", "output"),
    }


def plugged_a(run: Run, plugged: Plugged) -> float:
    """Most current of an appliance at its own plug [A]: at 12 V where it is stepped down."""
    draw, appliance = plugged
    if _pool(run, appliance) == "low":
        return stepped_down_a(run, draw.peak_w)
    return draw_amps(run, draw, draw.peak_w)


def _free(key: str, used: set[str]) -> str:
    """A key that no other outlet has: an owner's outlet may have taken the tool's."""
    free = next(k for k in chain([key], (f"{key}-{n}" for n in count(2))) if k not in used)
    used.add(free)
    return free


def _own_groups(run: Run) -> Iterator[tuple[OwnOutlet, list[Plugged]]]:
    """The owner's outlets with what can be plugged in there; each appliance once."""
    left = {appliance.key: (draw, appliance) for draw, appliance in dc_draws(run) if appliance}
    for outlet in run.case.wiring.outlets:
        if outlet.mains:
            # Behind the inverter: no circuit of low voltage leads there.
            continue
        suits = [
            key
            for key in outlet.appliances
            if key in left and (left[key][1].supply == "usb") == outlet.usb
        ]
        # What hangs on a load output shares no outlet with what hangs on the bar.
        first = next((_pool(run, left[key][1]) == "output" for key in suits), False)
        alike = [key for key in suits if (_pool(run, left[key][1]) == "output") == first]
        yield outlet, [left.pop(key) for key in dict.fromkeys(alike)]


def _sum_a(run: Run, group: list[Plugged]) -> float:
    return sum(plugged_a(run, plugged) for plugged in group)


def _outlet(run: Run, group: list[Plugged], outlet: OwnOutlet) -> Need:
    pools = {_pool(run, appliance) for _, appliance in group}
    low, output = "low" in pools, "output" in pools
    converter = run.case.converter
    volts = np.maximum(run.track.bus_v, 1e-9)
    if low and converter is not None:
        volts = np.full_like(volts, OUTPUT_V / converter.efficiency)
    series = sum((draw.asked_w for draw, _ in group), start=np.zeros_like(volts)) / volts
    amps = amps_over(np.asarray(series, np.float64), run.grid.step_h)
    total = _sum_a(run, group) + outlet.spare_a
    starts = (_start_a(run, draw, low=low) for draw, _ in group)
    return Need(
        key=outlet.key,
        role="usb" if outlet.usb else "outlet",
        part=f"appliance:{group[0][1].key}" if group else f"outlet:{outlet.key}",
        name=outlet.name,
        begins=load_output_name(run) if output else LOW_BAR if low else BAR,
        output=output,
        ends="USB outlet" if outlet.usb else "outlet",
        continuous_a=max(total, MIN_A),
        peak_a=total + max(starts, default=0.0),
        seen_a=amps.seen_a,
        square_ah=amps.square_ah,
        volts=OUTPUT_V if low else run.case.bank.nominal_v,
        most_v=OUTPUT_MAX_V if low else None,
        run_m=GUESSED_M["usb" if outlet.usb else "outlet"],
        least_a=0.0 if outlet.usb else _anything_a(run, output=output),
        spare_a=outlet.spare_a,
        appliances=tuple(appliance.key for _, appliance in group),
        must=any(must_run(appliance) for _, appliance in group),
    )


def _anything_a(run: Run, *, output: bool) -> float:
    """What an outlet is to carry for hours at the least [A]; of a load output no more than it has.

    A controller's load output of less than that is what binds.
    """
    bears = ANYTHING_A / LOAD_FACTOR
    limit = run.case.load_output.limit_a if output and run.case.load_output else bears
    return min(bears, limit)


def load_output_name(run: Run) -> str:
    """Where what hangs on a load output begins."""
    output = run.case.load_output
    names = [a.name for a in run.case.sun if output is not None and a.key == output.source]
    return f"{names[0]}, load output" if names else "load output"


def _start_a(run: Run, draw: DrawSeries, *, low: bool) -> float:
    """What a start takes beyond its running current [A]."""
    more_w = max(draw.surge_w - draw.peak_w, 0.0)
    return stepped_down_a(run, more_w) if low else draw_amps(run, draw, more_w)

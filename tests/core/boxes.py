"""Small boxes to test with, and a strategy for any box at all."""

from __future__ import annotations

from datetime import date

import numpy as np
from hypothesis import strategies as st

from oddkettle.core import kernel
from oddkettle.core.bank import Bank, bank_tables
from oddkettle.core.chemistry import AGM, CHEMISTRIES, LIFEPO4, Chemistry
from oddkettle.core.loads import Appliance, Inverter, Window
from oddkettle.core.run import Case, Profile
from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.sources.solar import Controller, Panel, SunInput
from oddkettle.core.sources.vehicle import DcDc
from oddkettle.core.trip import Block, Site

MOOR = Site(54.9, -2.6, 310.0, "Europe/London")
STEP_H = 1.0 / 12.0


def bank(chemistry: Chemistry = LIFEPO4, ah: float = 100.0) -> Bank:
    return Bank(chemistry, ah)


def steady(
    chemistry: Chemistry,
    hours: float,
    *,
    load_w: float = 0.0,
    charger_a: float = 0.0,
    soc0: float = 1.0,
    ah: float = 100.0,
    absorption_v: float | None = None,
) -> kernel.Track:
    """A bank under one steady load and one steady charger."""
    tables = bank_tables(Bank(chemistry, ah), STEP_H)
    steps = round(hours / STEP_H)
    settings = (
        absorption_v or chemistry.absorption_v,
        chemistry.float_v,
        chemistry.tail_c * ah,
        chemistry.absorption_hours / STEP_H,
    )
    sources = kernel.Sources(
        np.full((1, steps), kernel.UNLIMITED_W),
        np.full((1, steps), charger_a),
        np.array([settings]),
    )
    return kernel.drive(tables, sources, np.full(steps, load_w), soc0)


windows = st.builds(Window, st.integers(0, 1439), st.integers(0, 1440))
appliances = st.lists(
    st.builds(
        Appliance,
        key=st.just("a"),
        name=st.just("Thing"),
        power_w=st.floats(0.01, 900),
        supply=st.sampled_from(["12v", "usb", "inverter"]),
        windows=st.lists(windows, min_size=1, max_size=3).map(tuple),
        duty=st.floats(0.01, 1),
    ),
    max_size=5,
).map(tuple)
panels = st.lists(
    st.builds(
        Panel,
        power_w=st.floats(1, 900),
        mount=st.sampled_from(["flat", "tilted"]),
        tilt_deg=st.floats(0, 90),
        azimuth_deg=st.floats(0, 360),
        portable=st.booleans(),
    ),
    min_size=1,
    max_size=2,
).map(tuple)
suns = st.lists(
    st.builds(
        SunInput,
        key=st.just("s"),
        name=st.just("Sun"),
        panels=panels,
        controller=st.builds(Controller, st.floats(0.5, 60), st.floats(0.5, 1)),
    ),
    max_size=2,
).map(tuple)


@st.composite
def blocks(draw: st.DrawFn, days: int) -> Block:
    day = draw(st.integers(0, days - 1))
    end_day = draw(st.integers(day, days - 1))
    # The hour from 01:00 does not exist on one of the days: blocks there are refused.
    start = draw(st.integers(120, 1439))
    end = draw(st.integers(start + 1 if end_day == day else 120, 1440))
    return Block(draw(st.sampled_from(["drive", "hookup", "panel_out"])), day, start, end_day, end)


@st.composite
def cases(draw: st.DrawFn) -> Case:
    """Any box on any trip of up to three days."""
    chemistry = draw(st.sampled_from(list(CHEMISTRIES.values())))
    days = draw(st.integers(1, 3))
    absorption = draw(st.floats(13.2, chemistry.never_above_v + 0.3))
    return Case(
        bank=Bank(chemistry, draw(st.floats(2, 400))),
        profile=Profile(absorption, draw(st.floats(12.9, absorption))),
        sun=draw(suns),
        vehicle=draw(st.none() | st.builds(DcDc, st.floats(0.5, 100), st.floats(0.5, 1))),
        mains=draw(st.none() | st.builds(MainsCharger, st.floats(0.5, 100), st.floats(0.5, 1))),
        inverter=Inverter(1000, draw(st.floats(0, 30)), 0.9, draw(st.booleans())),
        appliances=draw(appliances),
        site=MOOR,
        first_day=date(2026, 3, draw(st.integers(25, 29))),
        clearness=tuple(draw(st.lists(st.floats(0.05, 1.2), min_size=days, max_size=days))),
        blocks=tuple(draw(st.lists(blocks(days), max_size=4))),
        soc0=draw(st.floats(0, 1)),
        floor=draw(st.floats(0, 0.9)),
        ambient_c=10.0,
        step_min=5,
    )


__all__ = ["AGM", "LIFEPO4", "MOOR", "STEP_H", "bank", "cases", "steady"]

"""Where the battery stands: a particle filter over the stepping loop.

A few hundred scenarios of the trip are run side by side. They differ in all that nobody knows: the
sky, what each appliance really draws, what the panels give, what the battery holds, how far the
monitor is off. Each reading makes those likelier that foresaw it. With no reading they are the
plan's own scenarios, and so is their band.

The filter is the bootstrap filter [Gordon, Salmond and Smith 1993] with systematic resampling;
what stays the same over a trip is kept alive by shrunken kernels [Liu and West 2001]; a sharp
reading is taken in portions, so that a few particles do not carry all of it.
"""

from __future__ import annotations

from collections.abc import Callable
from copy import copy, deepcopy
from dataclasses import replace

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.particle_records import OWN, SHAKEN, OwnNumber
from oddkettle.core.estimation.posterior import Posterior, PosteriorSample, at_rows
from oddkettle.core.estimation.readings.counters import COUNTED_GAIN
from oddkettle.core.estimation.readings.percent import (
    OFFSET_A,
    PERCENT_SD,
    full_levels,
)
from oddkettle.core.estimation.readings.rested_voltage import bias_v
from oddkettle.core.estimation.straying import drift, set_to_full, stray
from oddkettle.core.kernel.constants import GRID_LOW, GRID_STEP
from oddkettle.core.kernel.ensemble import empty_outputs, initial_state
from oddkettle.core.kernel.ensemble_tables import EnsembleState
from oddkettle.core.kernel.records import COUNTED, Records, as_numbers, from_numbers
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.ensemble import lay_inputs, run_stretch
from oddkettle.core.simulation.scenarios import draw_scenarios, prospects_of
from oddkettle.core.units.conversion import HOURS_PER_DAY
from oddkettle.core.weather.weather_generator import SkyTrip, begin_chain, draw_day

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]

PARTICLES = 500
WANDER_A_ROOT_DAY = 0.004
"""How far a level strays from what any of the scenarios explain, in a day [judgement: a light left
on, a panel moved an hour late]."""
KERNEL = 0.1
"""Width of the kernels, as a share of the spread [Liu and West advise .1 to .2]."""
MIN_SPREAD = 0.5
"""Resample when fewer than this share of the particles counts."""
PORTION = 0.25
"""A reading is taken in portions that leave at least this share of the particles counting."""
MAX_PORTIONS = 8
STIR = 0.002
"""Copies of one particle are set apart by so much charge, 0..1."""
BAND = (0.1, 0.5, 0.9)
LAG = 12
"""A stretch is seen from this many readings later: they tell what came between them."""
CLEARNESS = (0.03, 1.3)
LOAD_BOUNDS, SUN_BOUNDS, CAPACITY_BOUNDS = (0.2, 5.0), (0.2, 2.0), (0.4, 1.3)
"""No reading moves what was typed further than this [judgement]."""


class Particles:
    """The scenarios that are followed, and how likely each is.

    own : (particles,) of `OWN`; copied and resampled as one
    """

    log_weight, bias, volts_off = OwnNumber(), OwnNumber(), OwnNumber()
    gain, offset_a, full_at = OwnNumber(), OwnNumber(), OwnNumber()
    story = OwnNumber()

    def __init__(self, case: Case, count: int) -> None:
        self.case = case
        scenarios = draw_scenarios(case, count)
        self.inputs, self.drawn, self.grid = lay_inputs(case, scenarios)
        self.keys = tuple(a.key for a in case.appliances)
        self.state = initial_state(self.inputs, self.drawn)
        self.outputs = empty_outputs(self.inputs, count, counts=True)
        self.trip = SkyTrip(case.first_day, case.site.latitude, prospects_of(case), case.doubt)
        self.chains = [begin_chain(case.doubt, count)]
        self.rng = np.random.default_rng([case.doubt.seed, count])
        self.own = np.zeros(count, OWN)
        self.begin_s = int(self.grid.starts_utc[0].astype(np.int64))
        # What was typed as the level at the start is what the monitor showed.
        self.bias = case.soc0 - 1.0 + (1.0 - self.soc) * self.content
        self.bias += PERCENT_SD * self.rng.standard_normal(count)
        self.offset_a = OFFSET_A * self.rng.standard_normal(count)
        self.full_at = full_levels(self.rng, count)
        self.kinds = {source.key: source.group for source in case.sources}
        self.volts_off = bias_v(case.bank.chemistry) * self.rng.standard_normal(count)
        self.gain = 1.0 + COUNTED_GAIN * self.rng.standard_normal(count)
        self.step = 0
        self.wandered = 0
        self.strays = False
        self.marks: dict[int, Records] = {}
        self.bands: list[Floats] = []
        self.paths: list[NDArray[np.float32]] = []
        # Own copies: the drawn scenarios are kept for others. How drives and hook-ups stray stays
        # with the place of a particle, so that after resampling each has luck of its own again.
        self.drawn = self.drawn._replace(
            clearness=self.drawn.clearness.copy(),
            shape=self.drawn.shape.copy(),
            low_c=self.drawn.low_c.copy(),
            high_c=self.drawn.high_c.copy(),
            load=self.drawn.load.copy(),
            sun=self.drawn.sun.copy(),
            capacity=self.drawn.capacity.copy(),
        )
        self.first = self.posterior()

    @property
    def count(self) -> int:
        """How many particles."""
        return len(self.own)

    @property
    def soc(self) -> Floats:
        """(particles,) state of charge now, 0..1; a view."""
        return self.state.banks["soc"][:, 0]

    @property
    def content(self) -> Floats:
        """(particles,) what the battery holds of its label, 0..1."""
        return np.asarray(self.drawn.capacity * self.case.bank.share)

    def shown(self) -> Floats:
        """(particles,) the percent that a counting monitor shows now, 0..1."""
        return np.asarray(np.minimum(1.0 - (1.0 - self.soc) * self.content + self.bias, 1.0))

    def copy(self) -> Particles:
        """The same particles, to go another way from here."""
        other = copy(self)
        other.rng = deepcopy(self.rng)
        other.drawn = at_rows(self.drawn, np.arange(self.count))
        other.state = EnsembleState(*(part.copy() for part in self.state))
        other.outputs = self.outputs._replace(
            dark=self.outputs.dark.copy(),
            shed=self.outputs.shed.copy(),
            counted=self.outputs.counted.copy(),
            gave=self.outputs.gave.copy(),
            used=self.outputs.used.copy(),
        )
        other.chains, other.bands = list(self.chains), list(self.bands)
        other.paths = list(self.paths)
        other.marks = dict(self.marks)
        other.own = self.own.copy()
        return other

    def posterior(self) -> Posterior:
        """What the particles hold of the typed numbers."""
        return Posterior(
            {key: self.drawn.load[:, n].copy() for n, key in enumerate(self.keys)},
            self.drawn.sun.copy(),
            self.drawn.capacity.copy(),
            self.bias.copy(),
            self.gain.copy(),
        )

    def weight(self) -> Floats:
        """(particles,) likelihoods that add up to 1."""
        w = np.exp(self.log_weight - self.log_weight.max())
        return np.asarray(w / w.sum())

    def estimate_at(self) -> tuple[float, float]:
        """Mean and spread of the level now, 0..1."""
        w, soc = self.weight(), self.soc
        mean = float(w @ soc)
        return mean, float(np.sqrt(w @ (soc - mean) ** 2))

    # --- Forward.

    def advance(self, to: int) -> None:
        """Run every particle to step `to`, drawing the days as they come."""
        if to <= self.step:
            return
        self._draw_through(to - 1)
        before = self.outputs.used.copy(), self.outputs.gave.copy()
        run_stretch(self.inputs, self.drawn, self.state, self.outputs, (self.step, to))
        path = self.outputs.level[:, self.step : to].copy()
        self.paths.append(path)
        days = (to - self.step) * self.grid.step_h / HOURS_PER_DAY
        if self.strays:
            stray(self, before, days)
        top = self.paths[-1].max(axis=1)
        drift(self, days, top)
        self.step = to

    def sync(self, full: NDArray[np.bool_], top: Floats) -> None:
        """A monitor that takes its battery for full, at the level `top`, sets itself to 100 %."""
        set_to_full(self, full, top)

    def settle(self, keep: int = LAG) -> None:
        """Write down the band of all stretches but the last `keep`, as it is seen from now."""
        rows = self.equal_rows(0.5)
        last = self.count - 1
        while len(self.paths) > keep:
            part = np.sort(self.paths.pop(0)[rows].T, axis=1)
            self.bands.append(np.array([part[:, round(q * last)] for q in BAND], np.float64))

    def _draw_through(self, step: int) -> None:
        """Draw the days up to the one of a step, each once, as they begin."""
        while len(self.chains) - 2 < int(self.inputs.sky_day[step]):
            day = len(self.chains) - 1
            drawn, chain = draw_day(self.trip, self.chains[day], day)
            self.drawn.clearness[:, day], self.drawn.shape[:, day] = drawn.clearness, drawn.shape
            self.drawn.low_c[:, day], self.drawn.high_c[:, day] = drawn.low_c, drawn.high_c
            self.chains.append(chain)

    def today(self) -> int:
        """The solar day that is under way."""
        return max(len(self.chains) - 2, 0)

    # --- What a reading does.

    def wander(self) -> float:
        """Spread that the level has gathered since the last reading, 0..1."""
        days = (self.step - self.wandered) * self.grid.step_h / HOURS_PER_DAY
        self.wandered = self.step
        return float(WANDER_A_ROOT_DAY * days**0.5)

    def lean(self, value: float, foreseen: Floats, spread: Floats) -> None:
        """Take in a reading that moves nearly in step with what is unknown.

        Every particle is moved by as much as it was off, along the regression of each unknown on
        what was foreseen: a sharp reading would leave a handful of particles if they were chosen
        by it, and keeps them all this way. The stretches that are still open move along.
        """
        if float(np.ptp(self.log_weight)) > 0.0:
            rows = self.resample()
            foreseen, spread = foreseen[rows], spread[rows]
        apart = foreseen - foreseen.mean()
        noise = float(np.sqrt(np.mean(spread**2)))
        off = value + noise * self.rng.standard_normal(self.count) - foreseen
        share = off / (float(apart @ apart) / self.count + noise**2) / self.count

        def moved(part: NDArray[np.floating]) -> Floats:
            slope = np.tensordot(apart, part - part.mean(axis=0), 1)
            return np.asarray(part + np.multiply.outer(share, slope))

        drawn, today = self.drawn, self.today()
        for part, bounds in self._factors():
            part[:] = np.exp(np.clip(moved(np.log(part)), *np.log(bounds)))
        drawn.clearness[:, today] = np.clip(moved(drawn.clearness[:, today]), *CLEARNESS)
        self.chains[-1] = replace(self.chains[-1], z=moved(self.chains[-1].z))
        for name in SHAKEN:
            self.own[name] = moved(self.own[name])
        self.outputs.counted[:] = from_numbers(COUNTED, moved(as_numbers(self.outputs.counted)))
        # What was counted before a mark was foreseen along with the rest of it.
        self.marks = {
            at: from_numbers(COUNTED, moved(as_numbers(mark))) for at, mark in self.marks.items()
        }
        for sums in (self.outputs.gave, self.outputs.used):
            sums[:, : today + 1] = np.maximum(moved(sums[:, : today + 1]), 0.0)
        self.paths = [np.clip(moved(path), 0.0, 1.0).astype(np.float32) for path in self.paths]
        soc = np.clip(moved(self.soc), 0.0, 1.0)
        self.state.banks["soc"][:, 0] = soc

    def weigh(self, likelihood: Callable[[], Floats]) -> None:
        """Take a reading in, in portions. `likelihood` gives (particles,) log-likelihoods."""
        left = 1.0
        for turn in range(MAX_PORTIONS):
            log = likelihood()
            portion = left if turn == MAX_PORTIONS - 1 else self._portion(log, left)
            self.log_weight += portion * log
            left -= portion
            if self._spread(self.log_weight) < MIN_SPREAD:
                self.resample()
            if left <= 1e-9:
                return

    def _spread(self, log_weight: Floats) -> float:
        w = np.exp(log_weight - log_weight.max())
        return float(w.sum() ** 2 / (w**2).sum()) / self.count

    def _portion(self, log: Floats, most: float) -> float:
        if self._spread(self.log_weight + most * log) >= PORTION:
            return most
        low, high = 0.0, most
        for _ in range(12):
            middle = 0.5 * (low + high)
            if self._spread(self.log_weight + middle * log) >= PORTION:
                low = middle
            else:
                high = middle
        return max(low, 0.02)

    def set_level(self, soc: Floats) -> None:
        """Put each particle's level elsewhere (0..1); its way there is bent to end at it."""
        soc = np.clip(soc, 0.0, 1.0)
        if self.paths:
            path = self.paths[-1]
            part = np.arange(1, path.shape[1] + 1, dtype=np.float32) / (path.shape[1] + 1)
            moved = (soc - self.soc).astype(np.float32)
            self.paths[-1] = np.clip(path + moved[:, None] * part, 0.0, 1.0)
        self.state.banks["soc"][:, 0] = soc

    def equal_rows(self, offset: float) -> Ints:
        """(particles,) rows as often as each is likely, systematically."""
        at = (np.arange(self.count) + offset) / self.count
        rows = np.searchsorted(np.cumsum(self.weight()), at)
        return np.asarray(np.minimum(rows, self.count - 1), np.int64)

    def resample(self) -> Ints:
        """Likely particles are copied and set a little apart, unlikely ones given up.

        Returns the rows that are left, in their new order.
        """
        rows = self.equal_rows(self.rng.random())
        self.drawn = at_rows(self.drawn, rows)
        self.state = EnsembleState(*(part[rows] for part in self.state))
        self.outputs = self.outputs._replace(
            dark=self.outputs.dark[rows],
            shed=self.outputs.shed[rows],
            counted=self.outputs.counted[rows],
            gave=self.outputs.gave[rows],
            used=self.outputs.used[rows],
        )
        self.marks = {at: mark[rows] for at, mark in self.marks.items()}
        self.chains = [chain.of(rows) for chain in self.chains]
        for part, bounds in self._factors():
            part[:] = np.clip(np.exp(self._shaken(np.log(part))), *bounds)
        self.own = self.own[rows]
        self.log_weight = np.zeros(self.count)
        for name in SHAKEN:
            self.own[name] = self._shaken(self.own[name][:, None])[:, 0]
        self.paths = [path[rows] for path in self.paths]
        self.set_level(self.soc + STIR * self.rng.standard_normal(self.count))
        return rows

    def _shaken(self, values: Floats) -> Floats:
        """Shrunk towards their mean and spread again, so that the spread stays what it was."""
        mean = values.mean(axis=0)
        noise = self.rng.standard_normal(values.shape) * values.std(axis=0)
        keep = (1.0 - KERNEL**2) ** 0.5
        return np.asarray(mean + keep * (values - mean) + KERNEL * noise)

    def open_up(self) -> None:
        """Doubt everything twice as much: two readings in a row were not foreseen."""
        for part, bounds in self._factors()[:2]:
            log = np.log(part)
            wider = log.mean(axis=0) + 2.0 * (log - log.mean(axis=0))
            part[:] = np.exp(np.clip(wider, *np.log(bounds)))

    def _factors(self) -> tuple[tuple[Floats, tuple[float, float]], ...]:
        """What stays the same over a trip: loads, sun, capacity, each (particles, some)."""
        drawn = self.drawn
        return (
            (drawn.load, LOAD_BOUNDS),
            (drawn.sun[:, None], SUN_BOUNDS),
            (drawn.capacity[:, None], CAPACITY_BOUNDS),
        )

    def ocv_v(self) -> Floats:
        """(particles,) rested voltage of each battery, as the meter at hand shows it [V]."""
        head = self.soc - self.state.banks["lag"][:, 0]
        grid = GRID_LOW + GRID_STEP * np.arange(self.inputs.curves.shape[1])
        shown = np.interp(head, grid, self.inputs.curves["ocv_v"][0])
        return np.asarray(shown + self.volts_off * self.case.bank.volts_scale)

    def ocv_slope_v(self) -> Floats:
        """(particles,) how fast the rested voltage rises with the level [V for 0..1]."""
        curve = self.inputs.curves["ocv_v"][0]
        grid = GRID_LOW + GRID_STEP * np.arange(len(curve))
        slope = np.gradient(curve, GRID_STEP)
        return np.asarray(np.interp(self.soc - self.state.banks["lag"][:, 0], grid, slope))

    def ohm(self, *, charging: bool) -> Floats:
        """(particles,) resistance of each battery [ohm], at its warmth as laid."""
        curve = self.inputs.curves["charge_ohm" if charging else "cell_ohm"][0]
        grid = GRID_LOW + GRID_STEP * np.arange(len(curve))
        return np.asarray(np.interp(self.soc, grid, curve))

    def here(self) -> PosteriorSample:
        """Equally likely particles, to go on from."""
        rows = self.equal_rows(0.5)
        at = min(self.step, self.grid.steps - 1)
        self._draw_through(at)
        return PosteriorSample(
            step=self.step,
            drawn=at_rows(self.drawn, rows),
            keys=self.keys,
            state=EnsembleState(*(part[rows] for part in self.state)),
            chain=self.chains[-1].of(rows),
            sky_day=int(self.inputs.sky_day[at]),
            doubt=self.case.doubt,
        )

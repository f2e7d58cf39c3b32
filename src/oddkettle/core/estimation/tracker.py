"""Follow a trip from its readings: where the battery stood, stands, and what that teaches."""

from __future__ import annotations

from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.estimation.measurement_update import take_reading
from oddkettle.core.estimation.mixture import is_open, share_from_reading
from oddkettle.core.estimation.particle_filter import BAND, PARTICLES, Particles
from oddkettle.core.estimation.posterior import Posterior, PosteriorSample
from oddkettle.core.estimation.readings import READING_KINDS, Reading, Taken
from oddkettle.core.estimation.readings.counters import OTHER, OUTWARD
from oddkettle.core.simulation.case import Case
from oddkettle.core.simulation.forcing import row_keys
from oddkettle.core.trip.grid import Grid
from oddkettle.core.units.conversion import SECONDS_PER_MINUTE

Floats = NDArray[np.float64]
STEP_MIN = 15
MAX_STOPS = 6


def step_of(grid: Grid, at_s: int) -> int:
    """The step whose start is nearest to a UTC second, within the grid."""
    first = int(grid.starts_utc[0].astype(np.int64))
    step = round((at_s - first) / (grid.step_min * SECONDS_PER_MINUTE))
    return min(max(step, 0), grid.steps)


@dataclass(frozen=True)
class Tracked:
    """A trip followed up to a step.

    band : (3, until + 1) low, middle and high of the level, as seen with the readings that followed
    before, after : what was held of the typed numbers then and now
    gave, used : (particles, days, sources) and (particles, days, draws) up to now [Ah]
    """

    case: Case
    grid: Grid
    until: int
    band: Floats
    taken: tuple[Taken, ...]
    before: Posterior
    after: Posterior
    here: PosteriorSample
    gave: Floats
    used: Floats
    source_keys: tuple[str, ...]
    draw_keys: tuple[str, ...]
    open_share: float
    """How likely it is that the reading which is still open was right, 0..1; 0 where none is."""


@dataclass
class Trail:
    """Where the particles stood at earlier stops: a new reading need not start at the beginning.

    It belongs to one case and one number of particles.
    """

    stops: list[tuple[int, tuple[Reading, ...], list[Taken], Particles]] = field(
        default_factory=list
    )

    def resume(
        self, at: list[int], readings: tuple[Reading, ...]
    ) -> tuple[list[Taken], Particles] | None:
        """The latest stop up to which these readings are the same; what follows is forgotten."""
        while self.stops:
            at_s, seen, taken, particles = self.stops[-1]
            if seen == _seen(readings, at_s) and at_s in at:
                return list(taken), particles.copy()
            self.stops.pop()
        return None

    def keep(
        self, at_s: int, readings: tuple[Reading, ...], taken: list[Taken], p: Particles
    ) -> None:
        """Remember a stop; only the last few are worth their room."""
        self.stops.append((at_s, _seen(readings, at_s), list(taken), p.copy()))
        del self.stops[:-MAX_STOPS]


def _seen(readings: tuple[Reading, ...], at_s: int) -> tuple[Reading, ...]:
    """What had been read by a UTC second, with what is marked for later."""
    return tuple(
        r for r in readings if r.at_s <= at_s or (r.since_s is not None and r.since_s <= at_s)
    )


def _by_time(reading: Reading) -> tuple[int, bool]:
    """By time, and of what was read at once as it was entered, but that what came in goes first."""
    return reading.at_s, reading.kind in OUTWARD


def side_by_side(readings: tuple[Reading, ...]) -> tuple[Reading, ...]:
    """Counters that were read together are told of each other; what came in goes first."""
    ran = {(r.at_s, r.since_s, r.kind): r.value for r in readings if r.kind in OTHER}
    told = (
        replace(r, beside=ran.get((r.at_s, r.since_s, OTHER[r.kind]))) if r.kind in OTHER else r
        for r in readings
    )
    return tuple(sorted(told, key=_by_time))


def track(
    case: Case,
    readings: tuple[Reading, ...],
    until_s: int,
    count: int = PARTICLES,
    trail: Trail | None = None,
) -> Tracked:
    """Follow a trip as it went up to a UTC second, taking each reading in at its time.

    `case` is the plan as it was carried out; a `trail` of the same case saves the way that was
    gone before and changes no result. Raises PlanError for a plan that cannot be.
    """
    readings = side_by_side(readings)
    inside = tuple(r for r in readings if r.at_s <= until_s)
    stops = sorted({r.at_s for r in inside} | {r.since_s for r in inside if r.since_s is not None})
    untold = bool(inside) and not case.doubt.capacity_told
    worn = untold and any(READING_KINDS[r.kind].tells_content for r in inside)
    found = None if trail is None else trail.resume(stops, inside)
    if trail is not None and found is not None and found[1].case.doubt.worn is not worn:
        # The first voltage opens a question that was not asked before: all the way again.
        found = None
        trail.stops.clear()
    if found is None:
        case = replace(case, step_min=max(case.step_min, STEP_MIN))
        if worn:
            # Nobody said how old the battery is: it may be worn out as well.
            case = replace(case, doubt=replace(case.doubt, worn=True))
        found = [], Particles(case, count)
        # With nothing read, they are the plan's own scenarios.
        found[1].strays = bool(inside)
    taken, particles = found
    grid, until = particles.grid, step_of(particles.grid, until_s)
    done = trail.stops[-1][0] if trail is not None and trail.stops else None
    for at_s in [at_s for at_s in stops if done is None or at_s > done]:
        particles.advance(min(step_of(grid, at_s), until))
        for reading in inside:
            if reading.at_s == at_s:
                taken.append(take_reading(particles, reading, taken))
        if any(reading.since_s == at_s for reading in inside):
            particles.marks[at_s] = particles.outputs.counted.copy()
        particles.settle()
        if trail is not None:
            trail.keep(at_s, inside, taken, particles)
    particles.advance(until)
    return _tracked(particles, until, tuple(taken))


def _tracked(particles: Particles, until: int, taken: tuple[Taken, ...]) -> Tracked:
    particles.settle(0)
    rows = particles.equal_rows(0.5)
    now = np.sort(particles.soc[rows])
    end = np.array([[now[round(q * (len(now) - 1))]] for q in BAND])
    case = particles.case
    return Tracked(
        case=case,
        grid=particles.grid,
        until=until,
        band=np.concatenate([*particles.bands, end], axis=1),
        taken=taken,
        before=particles.first,
        after=particles.posterior().of(rows),
        here=particles.here(),
        gave=particles.outputs.gave[rows],
        used=particles.outputs.used[rows],
        source_keys=row_keys(case),
        draw_keys=particles.keys,
        open_share=share_from_reading(particles) if is_open(particles) else 0.0,
    )

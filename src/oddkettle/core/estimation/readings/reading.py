"""A reading from the field, and what a kind of reading is.

Every error of an instrument here is a judgement about ordinary instruments and habits, kept with
its kind so that it can be argued with.
"""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING, Literal

import numpy as np
from numpy.typing import NDArray

if TYPE_CHECKING:
    from oddkettle.core.estimation.particle_filter import Particles

Floats = NDArray[np.float64]
STRAIGHT = 4.0
"""A reading that bends moves in step with what is unknown while the particles foresee it within so
many of its own spreads."""


Settled = Literal["right", "reset", "smaller"]


@dataclass(frozen=True)
class Reading:
    """What was read, at which UTC second.

    `value` is 0..1 for `percent`, V, A, Ah or Wh; nothing for `full` and `cut_out`. A counter's
    value is what it ran on since `since_s`. `rested_h` says for how long nothing went in or out;
    `amps` what flowed into the battery at a loaded voltage, where that was read too; `beside` what
    the counter of the other way ran at the same time. `settled` is what its reader said when it
    did not fit: that it is right, that the monitor was reset, or that the battery holds less.
    """

    key: str
    at_s: int
    kind: str
    value: float = 0.0
    since_s: int | None = None
    rested_h: float | None = None
    amps: float | None = None
    beside: float | None = None
    settled: Settled | None = None


@dataclass(frozen=True)
class Taken:
    """What became of a reading.

    used : it was believed; `open` when it stands beside what was foreseen until the next one
        settles which is right; `anchor` when it set the level outright, `late` when it was believed
        only because a second one agreed with it
    expected : (low, high) within which it was expected, in its own unit
    surprise : chance of so odd a reading, 0..1
    moved : by how much it moved the level, 0..1; doubt : the level's spread before and after
    """

    key: str
    kind: str
    used: bool
    expected: tuple[float, float]
    surprise: float
    anchor: bool = False
    late: bool = False
    open: bool = False
    moved: float = 0.0
    doubt: tuple[float, float] = (0.0, 0.0)


@dataclass(frozen=True)
class Aim:
    """What a reading says, what each particle says it should say, and the spread between them.

    All in the reading's own unit; `by_level` is how far `foreseen` moves with the level.
    """

    value: float
    foreseen: Floats
    spread: Floats
    by_level: float = 0.0

    @property
    def straight(self) -> bool:
        """Whether the particles foresee it closely, for its own spread."""
        return float(self.foreseen.std()) < STRAIGHT * float(self.spread.mean())


@dataclass(frozen=True)
class ReadingKind:
    """One kind of reading: how the particles foresee it, and how it is told of.

    `leans` says whether what it aims at moves nearly in step with what is unknown, so that the
    particles may be moved by an ensemble update; voltages at the steep end and glances do not. A
    `level` kind reads the level itself, so that it can be taken from it anew; an `anchor` is
    believed though nobody foresaw it. `biased` ones share the monitor's standing bias; one that
    `syncs` sets a counting monitor's zero. One that `tells_level` settles what another left open;
    one that `tells_content` can tell a worn battery from a monitor that has drifted: without such a
    one nobody looks. A level read `by_curve` may stand anywhere along it when nobody foresaw it.
    `digits` are written after the point. `why_aside` says why one may be wrong that does not fit.
    `errors` are what it may be off, in words.
    """

    key: str
    name: str
    unit: str
    aim: Callable[[Particles, Reading], Aim]
    leans: Callable[[Aim], bool]
    level: bool = False
    anchor: bool = False
    biased: bool = False
    syncs: bool = False
    tells_level: bool = False
    tells_content: bool = False
    by_curve: bool = False
    digits: int = 1
    why_aside: str | None = None
    errors: tuple[tuple[str, str], ...] = ()


def always(_: Aim) -> bool:
    """It always does."""
    return True


def never(_: Aim) -> bool:
    """It never does."""
    return False


def straight(aim: Aim) -> bool:
    """It does while it is foreseen closely."""
    return aim.straight


def clock_soc(particles: Particles) -> Floats:
    """What rounding a reading's time to a step may make of the level; uniform, so over root 12."""
    amps = np.abs(particles.outputs.counted["now_a"])
    per_a = particles.inputs.banks["soc_per_a"][0]
    return np.asarray(amps * per_a / 12.0**0.5)


def level_aim(particles: Particles, value: float, sd: float, bias: Floats | float) -> Aim:
    """The aim of a reading of the level itself, all 0..1."""
    spread = np.hypot(sd, clock_soc(particles))
    return Aim(value, particles.soc + bias, spread, by_level=1.0)

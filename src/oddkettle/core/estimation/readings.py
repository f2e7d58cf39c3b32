"""Readings from the field, and how far each kind may be off.

Every error here is a judgement about ordinary instruments and habits, kept in one place so that
it can be argued with.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, get_args

ReadingKind = Literal[
    "percent", "rested_v", "loaded_v", "net_a",
    "ah_in", "ah_out", "wh_in", "wh_out", "full", "cut_out",
]  # fmt: skip
READING_KINDS: tuple[ReadingKind, ...] = get_args(ReadingKind)
COUNTERS: tuple[ReadingKind, ...] = ("ah_in", "ah_out", "wh_in", "wh_out")

PERCENT_BIAS, PERCENT_SD = 0.03, 0.01
"""A counting monitor's own zero is commonly this far off when it is first read; a second reading
repeats that error, so only the small rest is fresh [judgement]."""
BIAS_A_ROOT_DAY = 0.007
"""How far its zero wanders in a day; a full charge sets it right [judgement]."""
FULL_SEEN, SYNCED_SD = 0.985, 0.009
"""At this level a monitor takes the battery for full and sets its zero; what it is off then
[judgement: nearly all shunt monitors do so]."""
VOLTS_BIAS_V, RESTED_SD_V = 0.03, 0.02
"""What a hand-held meter, the generic curve and its hysteresis are off together, the same at
every reading, and the fresh rest; at 12 V class [judgement]. On the flat part of LiFePO4 that is
worth 20 points, and reading again does not help."""
UNRESTED_V, REST_LAG_H = 0.12, 1.5
"""What a battery that has not rested is off besides, and how that dies away [judgement]."""
USUAL_REST_H = 3.0
CURVE_SOC = 0.012
"""A generic curve is no truer than this sideways: it matters where the curve is steep [judgement:
samples of one type differ by a point or two]."""
LOADED_SD_V = 0.09
LOADED_SHARE = 0.35
"""A loaded voltage carries the doubt about the resistance: this share of the drop [judgement]."""
NET_SD_A, NET_SHARE = 0.7, 0.35
"""Current wavers with clouds and compressors: a glance is worth little [judgement]."""
COUNTED_MIN, COUNTED_SHARE, COUNTED_GAIN = 0.4, 0.01, 0.015
"""What a counter misses below its threshold [Ah; times the voltage for Wh], what it is off freshly,
and what all its counts are off alike: its shunt's own error [judgement]."""
FULL_AT, FULL_SD = 0.995, 0.012
EMPTY_AT, EMPTY_SD = 0.02, 0.025
"""Where a battery stands when its charger says full, and when its box has cut out [judgement]."""


@dataclass(frozen=True)
class Reading:
    """What was read, at which UTC second.

    `value` is 0..1 for `percent`, V, A, Ah or Wh; nothing for `full` and `cut_out`. A counter's
    value is what it ran on since `since_s`. `rested_h` says for how long nothing went in or out;
    `amps` what flowed into the battery at a loaded voltage, where that was read too.
    """

    key: str
    at_s: int
    kind: ReadingKind
    value: float = 0.0
    since_s: int | None = None
    rested_h: float | None = None
    amps: float | None = None


@dataclass(frozen=True)
class Taken:
    """What became of a reading.

    used : it was believed; `anchor` when it set the level outright, `late` when it was believed
        only because a second one agreed with it
    expected : (low, high) within which it was expected, in its own unit
    surprise : chance of so odd a reading, 0..1
    moved : by how much it moved the level, 0..1; doubt : the level's spread before and after
    """

    key: str
    kind: ReadingKind
    used: bool
    expected: tuple[float, float]
    surprise: float
    anchor: bool = False
    late: bool = False
    moved: float = 0.0
    doubt: tuple[float, float] = (0.0, 0.0)


def rested_sd_v(hours: float | None) -> float:
    """Doubt of a rested voltage [V at 12 V class] after so many hours of rest."""
    waited = USUAL_REST_H if hours is None else hours
    left = UNRESTED_V * 2.0 ** (-max(waited, 0.0) / REST_LAG_H)
    return float((RESTED_SD_V**2 + left**2) ** 0.5)

"""Marked quantities to words, in a reader's habits. The only place that writes them out."""

from __future__ import annotations

import re
from collections.abc import Callable
from functools import lru_cache, partial

from oddkettle.core.units.conversion import AWG_NUMBERS, awg_area_mm2, awg_text
from oddkettle.core.units.quantity import BAR, CLOSE, OPEN
from oddkettle.text.habits import Habits, reader

LB_PER_KG = 2.20462262
INCH_POUNDS_PER_NM = 8.85074579
ONE_DECIMAL_BELOW = 9.95
AS_THICK = 0.01
"""Areas are told to three figures: 5.26 mm² is 10 AWG."""
MINUS, HYPHEN = "−", "-"

_MARK = re.compile(f"{OPEN}([^{OPEN}{CLOSE}]*){CLOSE}")
_MARK_BYTES = re.compile(
    OPEN.encode() + b"((?:(?!" + OPEN.encode() + b"|" + CLOSE.encode() + b").)*)" + CLOSE.encode(),
    re.DOTALL,
)
Writer = Callable[[Habits, str, list[float]], str]


def render(text: str, habits: Habits | None = None) -> str:
    """A sentence with its quantities written out; in the present reader's habits, if not told."""
    if OPEN not in text:
        return text
    habits = habits or reader()
    return _MARK.sub(lambda found: _written(found[1], habits), text)


def render_bytes(body: bytes, habits: Habits) -> bytes:
    """The same for a UTF-8 document (JSON, SVG) whose strings hold sentences.

    What is written out needs no escaping in either: figures, letters, spaces, degree signs.
    """
    if OPEN.encode() not in body:
        return body
    return _MARK_BYTES.sub(lambda found: _written(found[1].decode(), habits).encode(), body)


@lru_cache(maxsize=4096)
def _written(inside: str, habits: Habits) -> str:
    kind, spec, *values = inside.split(BAR)
    return WRITERS[kind](habits, spec, [float(value) for value in values])


def _figure(value: float, spec: str) -> str:
    """A figure with a true minus; a hair under nought is nought."""
    text = format(value, spec)
    if text.startswith(HYPHEN):
        bare = text[1:]
        return bare if float(bare) == 0.0 else MINUS + bare
    return text


def _celsius(habits: Habits, spec: str, values: list[float], *, unit: bool) -> str:
    (value,) = values
    if habits.temperature == "F":
        figure, sign = _figure(value * 9.0 / 5.0 + 32.0, ".0f"), "°F"
    else:
        figure, sign = _figure(value, spec), "°C"
    return f"{figure} {sign}" if unit else figure


def _kelvin(habits: Habits, spec: str, values: list[float]) -> str:
    (value,) = values
    if habits.temperature == "F":
        return f"{_figure(value * 9.0 / 5.0, '.3g')} °F"
    return f"{_figure(value, spec)} K"


def _conductor(habits: Habits, spec: str, values: list[float]) -> str:
    """AWG: the thinnest number on sale that is at least as thick; mm² where none is."""
    (area_mm2,) = values
    thick = [n for n in AWG_NUMBERS if awg_area_mm2(n) >= (1.0 - AS_THICK) * area_mm2]
    if habits.cable == "mm2" or not thick:
        return f"{_figure(area_mm2, spec)} mm²"
    return awg_text(max(thick))


def _kilogram(habits: Habits, spec: str, values: list[float], per: str = "") -> str:
    (value,) = values
    if habits.weight == "lb":
        return f"{_figure(value * LB_PER_KG, spec)} lb{per}"
    return f"{_figure(value, spec)} kg{per}"


def _torque(habits: Habits, spec: str, values: list[float]) -> str:
    (value,) = values
    if habits.weight == "lb":
        return f"{_figure(value * INCH_POUNDS_PER_NM, '.0f')} in-lb"
    return f"{_figure(value, spec)} Nm"


def _clock(habits: Habits, _: str, values: list[float]) -> str:
    hour, minute = divmod(int(values[0]), 60)
    if habits.clock == "24":
        return f"{hour:02d}:{minute:02d}"
    return f"{hour % 12 or 12}:{minute:02d} {'am' if hour % 24 < 12 else 'pm'}"


def _charge(habits: Habits, spec: str, values: list[float]) -> str:
    ah, wh = values
    if habits.unit == "Wh":
        return f"{_figure(wh, '.0f')} Wh"
    return f"{_figure(ah, spec or ('.1f' if abs(ah) < ONE_DECIMAL_BELOW else '.0f'))} Ah"


SIGNS = {"EUR": "€", "USD": "$", "GBP": "£"}
CENTS_BELOW = 10.0


def money_figures(low: float, high: float) -> str:
    """A price or a range of guesses, without its currency: cents below ten."""
    digits = 2 if high < CENTS_BELOW else 0
    if abs(high - low) < 0.005:
        return f"{low:.{digits}f}"
    return f"{low:.{digits}f} to {high:.{digits}f}"


def _money(habits: Habits, _: str, values: list[float]) -> str:
    return f"{SIGNS[habits.currency]} {money_figures(*values)}"


WRITERS: dict[str, Writer] = {
    "celsius": partial(_celsius, unit=True),
    "celsius_bare": partial(_celsius, unit=False),
    "kelvin": _kelvin,
    "conductor": _conductor,
    "kilogram": _kilogram,
    "kg_per_ah": partial(_kilogram, per="/Ah"),
    "torque": _torque,
    "clock": _clock,
    "charge": _charge,
    "money": _money,
}

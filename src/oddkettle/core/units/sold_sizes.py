"""Sizes that are sold: what is recommended is one of them, never a figure that no shop has."""

from __future__ import annotations

from math import ceil, floor

CHARGER_A = (1, 2, 3, 5, 8, 10, 15, 20, 25, 30, 40, 50, 60, 80, 100)
"""Chargers and controllers by their output [A]; usual catalogue steps [judgement]."""
BATTERY_AH = (
    7, 9, 12, 20, 26, 30, 40, 50, 60, 70, 80, 90, 100, 120, 150, 180, 200, 250, 280, 300, 400,
)  # fmt: skip
"""One battery at 12 V by its label [Ah]; usual catalogue steps [judgement]."""
PANEL_W = (
    10, 20, 30, 40, 50, 60, 80, 100, 120, 150, 160, 200, 240, 300, 350, 400, 450, 500, 600,
)  # fmt: skip
"""One panel, or several alike, by their label [W]; usual catalogue steps [judgement]."""


def at_least(value: float) -> float:
    """A least amount as it is said, to a tenth: rounded off it might ask for too little."""
    return ceil(10.0 * value - 1e-6) / 10.0


def at_most(value: float) -> float:
    """A largest amount as it is said, to a tenth: rounded off it might allow too much."""
    return floor(10.0 * value + 1e-6) / 10.0


def next_up(sizes: tuple[float, ...], value: float) -> float:
    """The smallest usual size that is at least `value`; beyond the largest, in its steps."""
    largest = sizes[-1]
    found = next((size for size in sizes if size >= value - 1e-9), None)
    return float(found) if found is not None else float(-(-value // largest) * largest)


def next_down(sizes: tuple[float, ...], value: float) -> float | None:
    """The largest usual size that is at most `value`; None below the smallest."""
    found = [size for size in sizes if size <= value + 1e-9]
    return float(found[-1]) if found else None


def larger(sizes: tuple[float, ...], value: float, count: int) -> list[float]:
    """The next `count` usual sizes that are really larger than `value`."""
    return [float(size) for size in sizes if size > value * 1.02][:count]

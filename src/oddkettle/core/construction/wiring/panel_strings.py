"""Fuses in the strings of a panel array.

Where one string fails, the others feed it: as much as all of them give in a strong light. From
three strings on that may be more than a panel bears; each then wants a fuse of its own.
"""

from __future__ import annotations

LIGHT_FACTOR = 1.25
"""Light above the standard's 1000 W/m2, as off snow or cloud edges [textbook]."""
HOURS_FACTOR = 1.25
"""Over what flows for hours, as for every fuse [textbook]."""
PANEL_BEARS_A = 15.0
"""Largest series fuse on most panels' labels [textbook]: the panel's own label first."""
SIZES_A = (4.0, 6.0, 8.0, 10.0, 12.0, 15.0, 20.0, 25.0, 30.0)
"""Fuses made for panels, which break direct current at the array's voltage [textbook]."""


def back_a(strings: float, short_a: float) -> float:
    """What the other strings feed into one that fails [A]; `short_a` is each one's Isc [A]."""
    return max(strings - 1.0, 0.0) * LIGHT_FACTOR * short_a


def wants_fuses(strings: float, short_a: float, bears_a: float = PANEL_BEARS_A) -> bool:
    """Whether that is more than `bears_a`, the largest series fuse of the panels' labels [A]."""
    return back_a(strings, short_a) > bears_a


def string_fuse_a(short_a: float) -> float | None:
    """The smallest fuse that bears a string of such an Isc for hours [A]; None beyond 30 A."""
    least = LIGHT_FACTOR * HOURS_FACTOR * short_a
    return next((size for size in SIZES_A if size >= least - 1e-9), None)

"""The numbers that compiled code and the tables made for it share."""

from __future__ import annotations

GRID_LOW = -0.2
GRID_STEP = 0.001
"""The battery's tables are laid on one even grid of state of charge so that a look-up is one
multiply. Every knot of every chemistry falls on it, so nothing is lost between knots."""
PER_STEP = 1.0 / GRID_STEP
COLD_LOW_C, COLD_HIGH_C = -40.0, 80.0
"""Span of the temperature tables; beyond it the end rows hold."""
ROWS_PER_K = 10
REFERENCE_C = 25.0
RECONNECT_HEAD = 0.03
"""After a low-voltage cut-off the loads come back 3 points above empty [judgement]."""

MIN_CLEARNESS, MAX_CLEARNESS = 0.02, 1.55
"""What a moment's light may fall to or rise to beside the clear sky's: clouds' edges add."""
LEVELS, LEVEL_STEP = 33, 0.05
"""Clearness 0 to 1.6, at which the arrays' offers are known."""
SD_STEP = 0.01
"""Spacing of the tables of wavering by clearness."""

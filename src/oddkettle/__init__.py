"""Odd Kettle plans and tracks a portable battery box."""

__version__ = "0.1.0"

import os

# The stepping loop's inner loops turn once or thrice: making vectors of them doubles its time.
# The compiler reads this when it is first imported, so it must stand here, before all else.
os.environ.setdefault("NUMBA_LOOP_VECTORIZE", "0")

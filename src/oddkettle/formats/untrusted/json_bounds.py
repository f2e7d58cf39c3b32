"""Foreign JSON is counted while it is read, before anything larger is built of it.

What a plan does not know is refused field by field, and every refusal takes a hundred times what
its field took in the file: so many fields that nobody means are refused in one sentence instead.
"""

from __future__ import annotations

import json
from typing import Any

MAX_NAMES = 40_000
"""Fields in all; the fullest plan, 400 days of flexible loads, has 30,000."""
MAX_IN_ONE = 200
"""Fields of one object; none that the program knows has more than 60."""


class TooManyFields(ValueError):
    """More fields than any document has; the message says how many there may be."""


class Counting:
    """A hook for `json.loads`: builds each object, and counts the fields of all of them."""

    def __init__(self) -> None:
        self.names = 0

    def __call__(self, pairs: list[tuple[str, Any]]) -> dict[str, Any]:
        """One object. Raises TooManyFields."""
        self.names += len(pairs)
        if len(pairs) > MAX_IN_ONE:
            raise TooManyFields(f"An object in it has {len(pairs):,} fields; at most {MAX_IN_ONE}.")
        if self.names > MAX_NAMES:
            raise TooManyFields(f"It has more than {MAX_NAMES:,} fields in all.")
        return dict(pairs)


def count_fields(data: bytes) -> None:
    """Read JSON through. Raises TooManyFields; what is no JSON is left to whoever reads it."""
    if data.count(b'":') > MAX_NAMES:
        # As nearly everybody writes them: nothing is built to see that.
        raise TooManyFields(f"It has more than {MAX_NAMES:,} fields in all.")
    try:
        json.loads(data, object_pairs_hook=Counting())
    except TooManyFields:
        raise
    except (ValueError, RecursionError):
        return

"""One record made of another: the plan's, the core's and the report's of the same part.

What the two call by the same name is copied; only what differs is written at its place.
"""

from __future__ import annotations

from collections.abc import Callable
from functools import cache
from typing import TypeVar

T = TypeVar("T")


def copied(kind: Callable[..., T], source: object, /, **differing: object) -> T:
    """A `kind` with what `source` has under the names of its fields, and what differs.

    Args:
        kind: a dataclass, a named tuple or a model.
        source: what to read; it need not have every field.
        differing: fields that `source` calls otherwise, or holds in another form.

    Raises:
        TypeError: a field of a dataclass without a default is in neither.

    """
    same = {
        name: getattr(source, name)
        for name in _fields_of(kind)
        if name not in differing and hasattr(source, name)
    }
    return kind(**same, **differing)


@cache
def _fields_of(kind: Callable[..., object]) -> tuple[str, ...]:
    """The names of its fields, read from what every such class says of itself."""
    for attribute in ("model_fields", "__dataclass_fields__", "_fields"):
        found = getattr(kind, attribute, None)
        if found is not None:
            return tuple(found)
    raise TypeError(f"{kind!r} has no fields.")

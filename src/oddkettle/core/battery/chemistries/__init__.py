"""What each kind of battery is like: one file a chemistry, which holds all that is known of it.

Every module in here that defines a `Chemistry` is one: a new kind needs its file and nothing else.
"""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from oddkettle.core.battery.chemistry import Chemistry


def _all_kinds() -> dict[str, Chemistry]:
    found = [
        value
        for module in iter_modules(__path__)
        for value in vars(import_module(f"{__name__}.{module.name}")).values()
        if isinstance(value, Chemistry)
    ]
    return {kind.key: kind for kind in sorted(found, key=lambda kind: kind.place)}


CHEMISTRIES: dict[str, Chemistry] = _all_kinds()
"""By key, the most usual first."""

"""What charges the box: one file a kind, which holds all that is known of it.

Every module in here that defines a `KIND` is one kind of source, with classes that follow
`source_series.ChargeSource`.
"""

from __future__ import annotations

from importlib import import_module
from pkgutil import iter_modules

from oddkettle.core.sources.source_series import SourceKind


def _all_kinds() -> dict[str, SourceKind]:
    modules = (import_module(f"{__name__}.{module.name}") for module in iter_modules(__path__))
    kinds = {
        id(kind): kind for m in modules if isinstance(kind := getattr(m, "KIND", None), SourceKind)
    }
    return {kind.key: kind for kind in sorted(kinds.values(), key=lambda kind: kind.place)}


SOURCE_KINDS: dict[str, SourceKind] = _all_kinds()
"""By key, in the order in which they are listed."""

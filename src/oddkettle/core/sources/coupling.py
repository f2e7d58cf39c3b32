"""How several sources share one battery: each by itself, one combined charger, a selector."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]

IN_USE_W = 5.0
"""A ready-made unit counts as in use above this output [judgement]."""


@dataclass(frozen=True)
class Coupling:
    """How sources come together.

    independent : each charger gives what it can, in the plan's order
    combined : the `members` are inputs of one charger with one output limit `limit_a` [A]
    selector : one source at a time, the `strongest` or the first in order that has anything
    """

    kind: Literal["independent", "combined", "selector"] = "independent"
    limit_a: float = 1e12
    members: tuple[str, ...] = ()
    rule: Literal["strongest", "in_order"] = "strongest"


@dataclass(frozen=True)
class ReadyMade:
    """What an all-in-one unit adds to its battery.

    `input_w` is the most that all inputs give together [W, at the battery]; `dc_efficiency` that
    of its regulated 12 V and USB outputs; `standby_w` what its electronics draw while on; with
    `charge_in_use` false its owner unplugs the sources while anything runs.
    """

    input_w: float | None = None
    dc_efficiency: float = 0.92
    standby_w: float = 5.0
    charge_in_use: bool = True


def selected(offered_w: Floats, joining: Coupling) -> Floats:
    """(sources, steps) 1 where the selector lets a source in, by what each offers [W]."""
    has = offered_w > 0.0
    best = offered_w if joining.rule == "strongest" else has.astype(np.float64)
    chosen = np.argmax(best, axis=0)
    on = np.arange(len(offered_w))[:, None] == chosen[None, :]
    return np.asarray((on & has).astype(np.float64))


def in_order(keys: tuple[str, ...], order: tuple[str, ...]) -> list[int]:
    """Places of `keys` by the user's order; those it does not name keep their own, at the end."""
    rank = {key: place for place, key in enumerate(order)}
    return sorted(range(len(keys)), key=lambda j: (rank.get(keys[j], len(order)), j))

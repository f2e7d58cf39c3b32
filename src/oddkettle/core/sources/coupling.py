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
    selector : one source at a time, the `strongest` or the first in order that has anything;
        where `members` are named only they take turns, and the others give what they can
    """

    kind: Literal["independent", "combined", "selector"] = "independent"
    limit_a: float = 1e12
    members: tuple[str, ...] = ()
    rule: Literal["strongest", "in_order"] = "strongest"

    def takes_turns(self, key: str) -> bool:
        """Whether a source is under the selector."""
        return self.kind == "selector" and (not self.members or key in self.members)


@dataclass(frozen=True)
class UnitInput:
    """One input of a ready-made unit: the sources plugged into it, what it takes and bears."""

    name: str
    members: tuple[str, ...] = ()
    limit_w: float | None = None
    limit_v: float | None = None


@dataclass(frozen=True)
class ReadyMade:
    """What an all-in-one unit adds to its battery.

    `input_w` is the most that all inputs give together [W, at the battery], `inputs` those that
    have a limit of their own; `dc_efficiency` is that of its regulated 12 V and USB outputs,
    which give `dc_output_w` together; `standby_w` what its electronics draw while its outputs are
    on: always, or with `off_unused` while anything runs; with
    `charge_in_use` false its owner unplugs the sources while anything runs. Of what its cells
    give, the share `usable` 0..1 leaves it; all of it must go in again.
    """

    input_w: float | None = None
    dc_efficiency: float = 0.92
    standby_w: float = 5.0
    charge_in_use: bool = True
    usable: float = 1.0
    inputs: tuple[UnitInput, ...] = ()
    dc_output_w: float | None = None
    off_unused: bool = False


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

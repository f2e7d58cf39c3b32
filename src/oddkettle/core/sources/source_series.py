"""What every kind of source has in common: its surroundings, its series, and what is said of it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, Protocol

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.messages.caution import Caution
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.core.trip.blocks import BlockKind
from oddkettle.core.trip.grid import Block, Grid, Site

Floats = NDArray[np.float64]
UNLIMITED_W = 1e12
"""Offered power of a source that is limited by its current alone."""


@dataclass(frozen=True)
class SourceContext:
    """What surrounds the sources of a box over a trip.

    shares : for each kind of block, (steps,) share of each step in one
    air_c, clearness : (steps,) air temperature [C], clearness
    coldest_c : the coldest that place and season have been [C]
    sun_share : what panels give over what was typed
    standby : the box has mains but for outages
    sources : all sources of the box, for one that feeds another
    """

    grid: Grid
    sites: tuple[Site, ...]
    blocks: tuple[Block, ...]
    shares: dict[BlockKind, Floats]
    air_c: Floats
    clearness: Floats
    sun_share: float
    nominal_v: float
    standby: bool
    sources: tuple[ChargeSource, ...]
    coldest_c: float


class ChargeSource(Protocol):
    """Something that charges the box: one class a kind, in a file of its own."""

    @property
    def key(self) -> str:
        """Its id in the plan."""

    @property
    def name(self) -> str:
        """What its owner calls it."""

    @property
    def group(self) -> str:
        """The key of its `SourceKind`."""

    def forcing(self, context: SourceContext) -> SourceSeries:
        """What it could give over the trip, before coupling and quiet hours."""


@dataclass(frozen=True)
class Knob:
    """How more of a kind is had by the minute: "Drive 30 min", "driving", and what lacks if none.

    `usual_min` are the minutes that are offered as one change, `bother` how much trouble it is to
    make, 0 for least, `euro_h` what an hour of it costs, from and to; None where that is not told.
    """

    does: str
    noun: str
    none: str
    usual_min: tuple[int, ...] = (30, 60)
    bother: int = 0
    euro_h: tuple[float, float] | None = None


@dataclass(frozen=True)
class SourceKind:
    """What is said of all sources of a kind, wherever they are told of.

    `place` in lists; `block` is what must stand on the day board for it to give anything, None for
    the sun; `hours_of` names that in the plural; `how_made` says what
    it could give, `spare` why what it still had was not taken,
    `idle` that it gave nothing on the trip, `passes` what it is that holds its charger short.
    `knob` is there for a kind of which more can be had by the minute; `through` names the kind of
    whose charger it makes use; `design` is the field of a `Design` (`core/planning/sizing.py`) that
    says how large it is, None where no size of it is searched; `fumes` says that an engine runs.
    """

    key: str
    place: int
    name: str
    hours_of: str
    how_made: str
    spare: str
    idle: str
    passes: str = "the supply passes"
    block: BlockKind | None = None
    knob: Knob | None = None
    through: str | None = None
    design: Literal["panel_w", "dcdc_a", "mains_a"] | None = None
    fumes: bool = False
    cautions: tuple[Caution, ...] = ()


@dataclass(frozen=True)
class ArrayVolts:
    """String voltages [V]: the most open circuit can be, and Vmp at the hottest of the trip.

    `cold_voc_v` is at `coldest_c`, the coldest on record [C], by a panel at the upper end of its
    sheet's tolerance.
    """

    cold_voc_v: float
    hot_vmp_v: float
    coldest_c: float


@dataclass(frozen=True)
class SourceSeries:
    """One source as it was run. Series are (steps,).

    could_w, could_a : what it could give at its output, its own rating not counted for the sun
    offer_w, limit_a : what it does offer to the bus: power [W] and largest current [A]
    barred : share of the step in which joining, quiet hours or use keep it off
    raw_w, wire_w : an array's power at its controller, and what its cable loses [W]
    source_v, feed_ohm, on : a vehicle's voltage [V], feed [ohm] and share of the step
    feed_s : a relay's conductance, 0 for chargers [S]
    pwm : its panel works at the battery's voltage
    rating_a : the number on its label [A]
    """

    kind: str
    key: str
    name: str
    efficiency: float
    rating_a: float
    could_w: Floats
    could_a: Floats
    offer_w: Floats
    limit_a: Floats
    on: Floats
    barred: Floats
    raw_w: Floats
    wire_w: Floats
    source_v: Floats
    feed_ohm: float = 0.0
    feed_s: float = 0.0
    pwm: bool = False
    noisy: bool = False
    profile: Profile | None = None
    volts: ArrayVolts | None = None

"""What a circuit is: what it must carry, what was chosen for it, and by whom."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

from oddkettle.core.simulation.own_wiring import ConnectorKey, Family, Protection, Side, Wiring

Role = Literal[
    "battery", "second", "panel", "feed", "charge", "inverter", "converter", "low", "outlet", "usb",
    "heater", "sense",
]  # fmt: skip
INLETS: tuple[Role, ...] = ("panel", "feed")
"""What brings in a voltage that nothing has regulated yet."""
OUTLETS: tuple[Role, ...] = ("outlet", "usb")
TOGETHER: tuple[Role, ...] = ("outlet", "usb", "heater", "sense")
"""Small circuits that usually leave the fuse block in one bundle."""
BAR = "positive bar"
LOW_BAR = "12 V block"
"""Where what is made for 12 V hangs in a box of more: behind its converter."""
BEFORE_ISOLATOR = "main fuse, before the isolator"
"""Where a monitor is fed, so that it goes on counting while the box is switched off."""
COMBINED = "Combined charger"
"""Where the members of a combined charger lead to, and where its one output begins."""
CHARGING: tuple[Role, ...] = ("battery", "second", "panel", "feed", "charge")
"""Roles whose cables may drop no more than 3 %."""
AT_BATTERY: tuple[Role, ...] = ("battery", "second")
"""Roles that hang on the battery itself, so that their fuse meets its whole short circuit."""


@dataclass(frozen=True)
class Need:
    """A circuit that the plan calls for, before anything is chosen.

    continuous_a : what it must bear for hours [A]: a charger's rating, an appliance's draw at the
        battery's cut-off voltage
    peak_a : for a moment, starts included [A]
    seen_a : the most that the simulated run sends through it [A]
    square_ah : the run's sum of current squared over time [A2 h], from which its heat follows
    volts : what its drop is measured against [V]
    run_m : one way [m], as the plan states it, or a first guess
    area_mm2, fuse_a : copper [mm2] and fuse [A] where the plan states them; `stated` names such
    least_a : what its fuse and cable are made for at the least [A], whatever it carries today
    full_a : what its drop is reckoned with [A], where that is not what it must bear
    strings, string_a : of panels, how many strings are in parallel, and the Isc of each [A]
    string_bears_a : the smallest "maximum series fuse" of their labels [A]; None where none says
    most_v : the highest voltage that it meets [V], where that is not the bus's: a cold array
    spare_a : of `continuous_a`, what is foreseen for things that the plan does not list [A]
    output : it begins at a controller's load output, with both its leads
    posts : of a bank, how many batteries or strings of them are in parallel, each with a fuse
    """

    key: str
    role: Role
    part: str
    name: str
    begins: str
    ends: str
    continuous_a: float
    peak_a: float
    seen_a: float
    square_ah: float
    volts: float
    run_m: float
    area_mm2: float | None = None
    fuse_a: float | None = None
    least_a: float = 0.0
    full_a: float | None = None
    strings: float = 1.0
    string_a: float = 0.0
    string_bears_a: float | None = None
    most_v: float | None = None
    spare_a: float = 0.0
    stated: frozenset[str] = frozenset()
    appliances: tuple[str, ...] = ()
    must: bool = False
    engine_bay: bool = False
    posts: int = 1
    output: bool = False


@dataclass(frozen=True)
class Circuit:
    """A circuit as it is to be built.

    `number` is what its wires are marked with. `cable_mm2`, `family` and `fuse_a` are None where
    none suits; `trouble` then says why. `string_fuse_a` protects each string of panels [A], where
    there are such; `post_fuse_a` of `post_family` sits at each battery of a bank of several in
    parallel, and is None where none suits. `fixed` names what the user chose; the rest the tool
    did.
    `ampacity_a` is that of its cable where it lies; `short_a` the most that a dead short sends
    through its protection [A], from every source that can feed it; `limited` says that a class T
    main ends that before it grows, so that the family need not break it all. `drop_v` is reckoned
    from the source to the load, contacts and the battery's own lead included, the copper
    `warm_c` warm; `own_ohm` is that of its run and contacts,
    `before_ohm` that of the battery's own lead.
    """

    number: int
    need: Need
    run_m: float
    cable_mm2: float | None
    ampacity_a: float
    protection: Protection
    family: Family | None
    fuse_a: float | None
    connector: ConnectorKey
    returns: Side
    bundled: bool
    engine_bay: bool
    disconnect: bool
    fuse_with: str | None
    drop_v: float
    drop_share: float
    most_share: float
    lost_wh: float
    short_a: float
    limited: bool = False
    warm_c: float = 20.0
    own_ohm: float = 0.0
    before_ohm: float = 0.0
    string_fuse_a: float | None = None
    post_family: Family | None = None
    post_fuse_a: float | None = None
    fixed: frozenset[str] = frozenset()
    trouble: str = ""

    @property
    def key(self) -> str:
        """Its identifier, the same from run to run."""
        return self.need.key

    @property
    def fuses(self) -> int:
        """How many fuses protect it: one at each end where both ends are batteries."""
        if self.protection == "none" or self.fuse_with is not None:
            return 0
        joins_two = self.need.role in {"second", "feed"} and self.need.ends == BAR
        return 2 if joins_two else 1

    @property
    def carries_a(self) -> float:
        """What its protection must bear for hours [A]."""
        return self.need.continuous_a


@dataclass(frozen=True)
class Board:
    """All circuits of a box, with what they share.

    short_a : what the bank gives into a dead short at its posts [A]
    bar_a : what every source together gives into one at the positive bar [A]
    most_v : the highest voltage that its chargers hold [V]
    """

    circuits: tuple[Circuit, ...]
    wiring: Wiring
    short_a: float
    bar_a: float = 0.0
    most_v: float = 14.6

    def of(self, key: str) -> Circuit | None:
        """One circuit, if the plan calls for it."""
        return next((c for c in self.circuits if c.key == key), None)

    def sharing(self, circuit: Circuit) -> tuple[Circuit, ...]:
        """The circuits behind the fuse of this one, itself first."""
        return (circuit, *(c for c in self.circuits if c.fuse_with == circuit.key))

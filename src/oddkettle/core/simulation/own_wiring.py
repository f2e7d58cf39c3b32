"""What the owner of a box fixed of its wiring, and the kinds of things that may be fixed.

A case carries it, and no run depends on it: `construction` and `judgement` read it.
"""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

Series = Literal["metric", "awg"]
ConnectorKey = Literal[
    "lug", "screw", "socket", "usb", "keyed_30", "keyed_50", "keyed_120", "panel_pair", "gland"
]
Family = Literal["blade", "strip", "terminal", "class_t", "breaker"]
Side = Literal["load_side", "battery_side"]
Protection = Literal["fuse", "breaker", "none"]


@dataclass(frozen=True)
class Choice:
    """What the user fixed of one circuit; None leaves it to the tool.

    `run_m` one way [m], `cable_mm2` [mm2], `fuse_a` [A]. `fuse_with` names the circuit whose fuse
    this one shares.
    """

    circuit: str
    run_m: float | None = None
    cable_mm2: float | None = None
    protection: Protection | None = None
    family: Family | None = None
    fuse_a: float | None = None
    connector: ConnectorKey | None = None
    returns: Side | None = None
    bundled: bool | None = None
    engine_bay: bool | None = None
    disconnect: bool | None = None
    string_fuses: bool | None = None
    fuse_with: str | None = None


@dataclass(frozen=True)
class OwnOutlet:
    """An outlet that the owner wants, and what is to be plugged in there.

    `key` may be that of an outlet that the tool would have made: its choices then stay. Of
    `appliances` those of another supply, and those that an outlet before it has, are left out.
    `spare_a` is foreseen for what the plan does not list [A]. One of `mains` is behind the
    inverter.
    """

    key: str
    name: str
    usb: bool = False
    mains: bool = False
    appliances: tuple[str, ...] = ()
    spare_a: float = 0.0


@dataclass(frozen=True)
class Wiring:
    """How a box is wired, as far as its owner says.

    `ambient_c` is the air around the cables [C]; `main_fuse_mm` how far along the cable the main
    fuse sits from the battery's positive post [mm]; `shunt` whether a counter measures the
    negative, `voltmeter` whether anything else shows its volts; with `loose_key` the isolator's
    key comes off.
    """

    choices: tuple[Choice, ...] = ()
    outlets: tuple[OwnOutlet, ...] = ()
    series: Series = "metric"
    ambient_c: float = 30.0
    main_fuse_mm: float = 100.0
    shunt: bool = True
    voltmeter: bool = True
    loose_key: bool = False

    def of(self, key: str) -> Choice:
        """What was fixed of a circuit."""
        return next((c for c in self.choices if c.circuit == key), Choice(key))

"""Plugs, sockets and terminals: what each bears, its hole, and its room behind the panel.

Plain kinds of no particular maker; the part's own sheet comes first.
"""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.core.construction.wiring.circuits import OUTLETS, Need
from oddkettle.core.construction.wiring.fuses import LOAD_FACTOR, least_size_a
from oddkettle.core.simulation.own_wiring import ConnectorKey
from oddkettle.core.units.conversion import CLASS_V

SOURCE = "typical of plain parts; the part's own sheet comes first [textbook, judgement]"


@dataclass(frozen=True)
class Connector:
    """Continuous rating [A]; hole, flange and depth behind the panel [mm].

    A `hole_mm` of 0 is for what does not pass a wall. `contact_mohm` is the resistance of a good
    contact of one pole [mOhm], `least_mm2` and `most_mm2` the thinnest and the thickest cable that
    its terminals hold [mm2], `rated_v` the highest direct voltage that it may carry.
    """

    key: ConnectorKey
    name: str
    rating_a: float
    hole_mm: float = 0.0
    flange_mm: float = 0.0
    depth_mm: float = 0.0
    euro: float = 1.0
    kg: float = 0.01
    contact_mohm: float = 1.0
    most_mm2: float = 120.0
    least_mm2: float = 0.5
    rated_v: float = 60.0


CONNECTORS: dict[ConnectorKey, Connector] = {
    part.key: part
    for part in (
        Connector("lug", "ring lug on a stud", 400.0, euro=1.0, kg=0.02, contact_mohm=0.1),
        Connector(
            "screw", "screw terminal", 40.0, euro=0.5, kg=0.005, contact_mohm=0.5, most_mm2=6.0
        ),
        Connector(
            "socket",
            "12 V socket",
            15.0,
            29.0,
            38.0,
            45.0,
            euro=6.0,
            kg=0.05,
            most_mm2=6.0,
            rated_v=30.0,
        ),
        Connector(
            "usb",
            "USB outlet",
            10.0,
            29.0,
            38.0,
            50.0,
            euro=14.0,
            kg=0.05,
            contact_mohm=0.5,
            most_mm2=6.0,
            rated_v=30.0,
        ),
        Connector(
            "keyed_30", "keyed two-pole plug, 30 A", 30.0, 28.0, 40.0, 40.0, 7.0, 0.05, most_mm2=6.0
        ),
        Connector(
            "keyed_50",
            "keyed two-pole plug, 50 A",
            50.0,
            38.0,
            52.0,
            55.0,
            12.0,
            0.1,
            contact_mohm=0.5,
            most_mm2=16.0,
            least_mm2=4.0,
            rated_v=150.0,
        ),
        Connector(
            "keyed_120",
            "keyed two-pole plug, 120 A",
            120.0,
            50.0,
            68.0,
            75.0,
            22.0,
            0.2,
            contact_mohm=0.2,
            most_mm2=50.0,
            least_mm2=10.0,
            rated_v=150.0,
        ),
        Connector(
            "panel_pair",
            "latching panel pair",
            30.0,
            12.0,
            20.0,
            35.0,
            6.0,
            0.04,
            contact_mohm=0.5,
            most_mm2=6.0,
            least_mm2=2.5,
            rated_v=600.0,
        ),
        Connector(
            "gland",
            "cable gland",
            400.0,
            16.0,
            24.0,
            25.0,
            euro=3.0,
            kg=0.02,
            contact_mohm=0.0,
            rated_v=1000.0,
        ),
    )
}


def contacts_ohm(key: ConnectorKey) -> float:
    """Both poles of a connector and of the lugs at the other end [ohm]."""
    return 2.0 * (CONNECTORS[key].contact_mohm + CONNECTORS["lug"].contact_mohm) / 1000.0


KEYED: tuple[ConnectorKey, ...] = ("keyed_30", "keyed_50", "keyed_120")


def smallest_keyed(
    amps: float,
    taken: frozenset[ConnectorKey] = frozenset(),
    area_mm2: float = 0.0,
    volts: float = 0.0,
) -> ConnectorKey:
    """The smallest keyed plug for current, cable and voltage that is not `taken`; else a gland."""
    return next(
        (
            key
            for key in KEYED
            if CONNECTORS[key].rating_a >= amps
            and 1.05 * CONNECTORS[key].most_mm2 >= area_mm2
            and CONNECTORS[key].rated_v >= volts
            and key not in taken
        ),
        "gland",
    )


def plug_class(need: Need) -> str:
    """What may be confused without harm: one direction, and one voltage."""
    if need.role in OUTLETS:
        # A USB outlet gives five volts from any box.
        return "out usb" if need.role == "usb" else f"out {class_v(need.volts):.0f}"
    if need.role == "panel":
        return f"panel {need.volts:.0f}"
    return need.role


def class_v(volts: float) -> float:
    """The voltage class of a circuit: 12 or 24 V."""
    return CLASS_V if volts < 1.5 * CLASS_V else 2.0 * CLASS_V


def usual_connector(
    need: Need, taken: frozenset[ConnectorKey], area_mm2: float = 0.0
) -> ConnectorKey:
    """The usual connector of a role for its current and its cable, but none that is `taken`."""
    amps = need.continuous_a
    if need.role in {"battery", "inverter"}:
        # A fuse is stated for an inverter that is plugged into a socket.
        return "socket" if "fuse_a" in need.stated else "lug"
    if need.role == "panel" and "panel_pair" not in taken and _takes("panel_pair", amps, area_mm2):
        return "panel_pair"
    if need.role in {"panel", "feed", "second"}:
        return smallest_keyed(amps, taken, area_mm2, need.most_v or 0.0)
    if need.role in OUTLETS:
        plain: ConnectorKey = "usb" if need.role == "usb" else "socket"
        # Anything may be plugged in there: the fuse must not let more through than the plug bears.
        fused_a = least_size_a(amps, "blade") or LOAD_FACTOR * amps
        # A 12 V socket invites what is made for 12 V: at more it gets a plug of its own.
        fits = need.role == "usb" or class_v(need.volts) <= CLASS_V
        if fits and _takes(plain, fused_a, area_mm2):
            return plain
        return smallest_keyed(fused_a, area_mm2=area_mm2)
    return "screw" if _takes("screw", amps, area_mm2) else "lug"


def _takes(key: ConnectorKey, amps: float, area_mm2: float) -> bool:
    part = CONNECTORS[key]
    return amps <= part.rating_a and area_mm2 <= 1.05 * part.most_mm2

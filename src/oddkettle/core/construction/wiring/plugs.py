"""Which plug each circuit gets: for its current and cable, and not to be confused with another."""

from __future__ import annotations

from oddkettle.core.construction.wiring.circuits import OUTLETS, Need
from oddkettle.core.construction.wiring.connectors import CONNECTORS, smallest_keyed
from oddkettle.core.construction.wiring.fuses import LOAD_FACTOR, least_size_a
from oddkettle.core.simulation.own_wiring import ConnectorKey
from oddkettle.core.units.conversion import CLASS_V


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

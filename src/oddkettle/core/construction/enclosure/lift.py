"""Who can lift it."""

from __future__ import annotations

from oddkettle.core.units.quantity import kilogram

LIFT_KG = 20.0
"""Above this two people or wheels [textbook]."""


def lift_text(kg: float, battery_kg: float) -> str:
    """What lifting a box of so many kilograms asks, its battery weighing so much of it [kg]."""
    if kg <= LIFT_KG:
        return f"{kilogram(kg)}: one person can lift it, from the knees."
    if kg <= 2 * LIFT_KG:
        return f"{kilogram(kg)}: two people, or wheels."
    if battery_kg <= 0.0:
        return f"{kilogram(kg)}: do not lift it whole. Make two boxes of it, or put it on wheels."
    return (
        f"{kilogram(kg)}: more than two people should lift. Make two boxes of it: the battery "
        f"apart is {kilogram(battery_kg)}, the rest {kilogram(kg - battery_kg)}."
    )

"""What the lithium kinds share."""

from __future__ import annotations

from oddkettle.core.messages.caution import Caution

LITHIUM_FIRE = Caution(
    "lithium",
    "Lithium burns when it is abused",
    "Only batteries with a management system; never charge below freezing, never a swollen or "
    "dropped one. Where people sleep, a smoke alarm.",
    "datasheets and common fire guidance [textbook]",
)

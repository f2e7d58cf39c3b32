"""What the lithium kinds share."""

from __future__ import annotations

from oddkettle.core.messages.caution import Caution

LITHIUM_FLOOR_MOHM = 0.8
"""Links, posts and the switches of a management system, in series in every 12 V battery: a dead
short meets so much in the largest [judgement, beside cells' sheets: 4 x .17 to .25 mOhm alone]."""
LITHIUM_FIRE = Caution(
    "lithium",
    "Lithium burns when it is abused",
    "Only batteries with a management system; never charge below freezing, never a swollen or "
    "dropped one. Where people sleep, a smoke alarm.",
    "datasheets and common fire guidance [textbook]",
)

"""Where the columns of the drawing of the supply stand [mm], and what is said in it."""

from __future__ import annotations

SOURCE_X, SOURCE_W = 2.0, 32.0


FUSE_X, TAG_X, PLUG_X, MIDDLE_X = 39.0, 52.0, 80.0, 90.0
"""Of a lead from its source: fuse, number and cable, plug in the wall, breaker."""


CHARGER_X, CHARGER_W = 108.0, 36.0


OUT_TAG_X, RELAY_PLUG_X, BAR_FUSE_X = 147.0, 152.0, 184.0


SELECTOR_X, SELECTOR_W = 199.0, 6.0


PLUS_X, MINUS_X, PAST_X = 210.0, 218.0, 223.0


UNIT_X, UNIT_W = 190.0, 54.0


BATTERY_W, POST_X, JOINT_X, MINUS_JOINT_X = 45.0, 51.5, 74.0, 79.0


MAIN_FUSE_X, MAIN_TAG_X, SHUNT_X, SHUNT_W, TAP_X, ISOLATOR_X = 84.0, 97.0, 110.0, 20.0, 156.0, 166.0


SENSE_FALL, MONITOR_X, MONITOR_W = 16.0, 194.0, 20.0


STRINGS_DRAWN = 4


FIRST_ROWS, MORE_ROWS = 6, 11


OFF = "Off: solar first, then battery. On: battery first, then solar."


PAST = "Past the shunt, so that the monitor does not see it: "

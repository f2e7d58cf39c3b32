"""The settings sheet: what its owner keys into every device of a box, and why.

`set_point` says what a row is, `charging` and `chargers` hold what every charger asks for,
`cutting_off` what ends the use, `monitoring` the battery monitor, and `sheet` goes from device to
device.
"""

from __future__ import annotations

from oddkettle.core.construction.settings.set_point import DeviceSettings, SetPoint
from oddkettle.core.construction.settings.sheet import settings_sheet, to_tick

__all__ = ["DeviceSettings", "SetPoint", "settings_sheet", "to_tick"]

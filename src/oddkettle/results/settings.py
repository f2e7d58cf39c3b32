"""The settings sheet, ready for JSON."""

from __future__ import annotations

from oddkettle.plan.quantities import LazyModel


class SetPointReport(LazyModel):
    """One thing to key in."""

    key: str
    name: str
    value: str
    usual: str
    why: str
    otherwise: str
    note: str


class DeviceSettingsReport(LazyModel):
    """What to set on one device, or on several alike."""

    part: str
    name: str
    rows: list[SetPointReport]
    preset: str
    also: list[str]
    """Other parts for which it holds, too."""

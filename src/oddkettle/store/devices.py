"""Devices that were let in from the network. Sending one away only marks it."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.store.file.tables import DeviceRow


@dataclass(frozen=True)
class Device:
    """A device: its own key, what it is called, its role, when it was let in and last seen."""

    id: int
    key: str
    name: str
    role: str
    paired_at: str
    seen_at: str


class NoSuchDevice(LookupError):
    """There is no such device, or it was sent away."""


def all_devices() -> list[Device]:
    """Those that are let in, the last seen first."""
    rows = DeviceRow.select().where(DeviceRow.revoked_at.is_null())
    return [_device(row) for row in rows.order_by(DeviceRow.seen_at.desc(), DeviceRow.id)]


def add(key: str, name: str, role: str, now: str) -> Device:
    """Let one in."""
    return _device(DeviceRow.create(key=key, name=name, role=role, paired_at=now, seen_at=now))


def by_key(key: str) -> Device | None:
    """The device of a key; None where there is none or it was sent away."""
    row = DeviceRow.get_or_none((DeviceRow.key == key) & DeviceRow.revoked_at.is_null())
    return None if row is None else _device(row)


def seen(device_id: int, now: str) -> None:
    """Note when a device last asked."""
    DeviceRow.update(seen_at=now).where(DeviceRow.id == device_id).execute()


def revoke(device_id: int, now: str) -> None:
    """Send one away. Raises NoSuchDevice."""
    changed = (
        DeviceRow.update(revoked_at=now)
        .where((DeviceRow.id == device_id) & DeviceRow.revoked_at.is_null())
        .execute()
    )
    if not changed:
        raise NoSuchDevice(f"There is no device number {device_id}.")


def _device(row: DeviceRow) -> Device:
    return Device(row.id, row.key, row.name, row.role, row.paired_at, row.seen_at)

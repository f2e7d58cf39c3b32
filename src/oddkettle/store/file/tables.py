"""Table models. The tables themselves are made by `migrations.py`."""

from __future__ import annotations

import secrets
from typing import Any

from peewee import (
    BooleanField,
    DatabaseProxy,
    DeferredForeignKey,
    FloatField,
    ForeignKeyField,
    IntegerField,
    Model,
    TextField,
)

database = DatabaseProxy()


class Row(Model):
    """Base of all rows."""

    class Meta:
        database = database


class BoxRow(Row):
    """A box: what its owner calls it, and the state that it is in."""

    key = TextField(unique=True)
    name = TextField()
    created_at = TextField()
    head = DeferredForeignKey("BoxStateRow", null=True, column_name="head_id")

    class Meta:
        table_name = "box"


class PlanRow(Row):
    """A plan: which revision is current, which one redo leads to, and which box it uses."""

    box = ForeignKeyField(BoxRow, null=True)
    archived_at = TextField(null=True)
    deleted_at = TextField(null=True)

    key = TextField(default=lambda: secrets.token_hex(8))
    created_at = TextField()
    head = DeferredForeignKey("RevisionRow", null=True, column_name="head_id")
    tip = DeferredForeignKey("RevisionRow", null=True, column_name="tip_id")

    class Meta:
        table_name = "plan"


class BoxStateRow(Row):
    """One state of a box, never changed afterwards: its parts of a plan's document."""

    box = ForeignKeyField(BoxRow)
    plan = ForeignKeyField(PlanRow)
    saved_at = TextField()
    document = TextField()

    class Meta:
        table_name = "box_state"


class RevisionRow(Row):
    """One saved state of a plan's document, never changed afterwards; it may be given a name."""

    box_state = ForeignKeyField(BoxStateRow, null=True)

    plan = ForeignKeyField(PlanRow)
    parent = ForeignKeyField("self", null=True)
    saved_at = TextField()
    did = TextField()
    document = TextField()
    name = TextField(null=True)

    class Meta:
        table_name = "revision"


class LogRow(Row):
    """One entry; `detail` is a JSON object of what its kind has besides a value."""

    plan = ForeignKeyField(PlanRow)
    at_utc = TextField()
    kind = TextField()
    value = FloatField()
    note = TextField()
    written_at = TextField()
    written_by = TextField()
    deleted_at = TextField(null=True)
    detail = TextField(default="{}")
    replaces = IntegerField(null=True)
    sent_key = TextField(null=True)
    device = IntegerField(null=True)

    class Meta:
        table_name = "log_entry"


class LogStepRow(Row):
    """One step of a log: the entry that it put in, and the one that it took out.

    `head` is the plan's revision that was current then.
    """

    plan = ForeignKeyField(PlanRow)
    head = IntegerField()
    did = TextField()
    added = IntegerField(null=True)
    removed = IntegerField(null=True)
    undone = BooleanField(default=False)

    class Meta:
        table_name = "log_step"


class ForecastRow(Row):
    """One forecast, as it came."""

    plan = ForeignKeyField(PlanRow)
    fetched_at = TextField()
    body = TextField()

    class Meta:
        table_name = "forecast"


class MonitorRow(Row):
    """Where a plan's monitor is listened to."""

    plan = ForeignKeyField(PlanRow, primary_key=True)
    address = TextField()
    since = TextField()

    class Meta:
        table_name = "monitor"


class KeptThingRow(Row):
    """One thing of one's own: an appliance, a panel or a battery, as JSON."""

    kind = TextField()
    name = TextField()
    euro = FloatField(null=True)
    note = TextField()
    document = TextField()
    kept_at = TextField()
    deleted_at = TextField(null=True)

    class Meta:
        table_name = "kept_thing"


class DeviceRow(Row):
    """One device that was let in from the network, and what it may do."""

    key = TextField(unique=True)
    name = TextField()
    role = TextField()
    paired_at = TextField()
    seen_at = TextField()
    revoked_at = TextField(null=True)

    class Meta:
        table_name = "device"


class BrokerRow(Row):
    """A plan's MQTT broker, as JSON."""

    plan = ForeignKeyField(PlanRow, primary_key=True)
    settings = TextField()
    since = TextField()

    class Meta:
        table_name = "broker"


class AlarmRow(Row):
    """One thing that was told of."""

    plan = ForeignKeyField(PlanRow)
    key = TextField()
    kind = TextField()
    urgent = BooleanField()
    text = TextField()
    remedy = TextField()
    raised_at = TextField()
    told_at = TextField(null=True)
    seen_at = TextField(null=True)
    ended_at = TextField(null=True)

    class Meta:
        table_name = "alarm"


def in_one_go() -> Any:
    """A context in which all that is written is written, or nothing of it."""
    return database.atomic("IMMEDIATE")

"""Table models. The tables themselves are made by `migrations.py`."""

from __future__ import annotations

from peewee import (
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


class PlanRow(Row):
    """A plan: which revision is current, and which one redo leads to."""

    created_at = TextField()
    head = DeferredForeignKey("RevisionRow", null=True, column_name="head_id")
    tip = DeferredForeignKey("RevisionRow", null=True, column_name="tip_id")

    class Meta:
        table_name = "plan"


class RevisionRow(Row):
    """One saved state of a plan's document, never changed afterwards."""

    plan = ForeignKeyField(PlanRow)
    parent = ForeignKeyField("self", null=True)
    saved_at = TextField()
    did = TextField()
    document = TextField()

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

    class Meta:
        table_name = "log_entry"


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

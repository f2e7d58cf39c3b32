"""A label's text, as it was read: which figure goes where, what is wanting, what disagrees."""

from __future__ import annotations

from typing import Literal

from pydantic import ConfigDict, Field

from oddkettle.core.values.copying import copied
from oddkettle.formats.labels.read import KINDS, MAX_TEXT, Label, kind_of, read_label
from oddkettle.plan.quantities import LazyModel, Part
from oddkettle.usecases.labels.parts import LabelParts, with_label

PartKind = Literal[
    "panel", "battery", "controller", "mains", "dcdc", "inverter", "unit", "appliance"
]


class LabelText(Part):
    """What stands on a label, and the part whose sheet is open."""

    # Built at once: it is the body of a call.
    model_config = ConfigDict(defer_build=False)

    text: str = Field(max_length=MAX_TEXT)
    kind: PartKind | None = None
    """What it is about; found out from the text when absent."""
    parts: LabelParts = LabelParts()


class LabelLine(LazyModel):
    """One figure: as it was printed, the field that it goes into, what is taken of it."""

    typed: str
    field: str | None
    """None where it goes nowhere."""
    goes: str
    value: float | str | None
    unit: str
    means: str
    """Why it goes nowhere, where that is known."""


class LabelNote(LazyModel):
    """Something that does not agree or had to be supposed."""

    field: str
    text: str


class LabelReading(LazyModel):
    """What was read, and the part with it put in."""

    kind: PartKind | None
    """None where nothing tells what the text is about."""
    about: str
    lines: list[LabelLine]
    missing: list[str]
    """Fields that such labels usually fill and this one does not."""
    notes: list[LabelNote]
    parts: LabelParts


def read_text(asked: LabelText) -> LabelReading:
    """Read a label. Nothing is changed by it: what comes back is what would be taken over."""
    kind = KINDS[asked.kind] if asked.kind else kind_of(asked.text)
    if kind is None:
        return LabelReading(kind=None, about="", lines=[], missing=[], notes=[], parts=asked.parts)
    return told(read_label(asked.text, kind), asked.parts)


def told(label: Label, parts: LabelParts) -> LabelReading:
    """A label's reading in the words of its kind."""
    changed, left = with_label(parts, label)
    fields = label.kind.fields
    return LabelReading.model_validate(
        {
            "kind": label.kind.key,
            "about": label.kind.text,
            "lines": [copied(LabelLine, line).model_dump() for line in label.lines],
            "missing": [fields[name].text for name in label.missing],
            "notes": [{"field": n.field, "text": n.text} for n in (*label.notes, *left)],
            "parts": changed,
        }
    )

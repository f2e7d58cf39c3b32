"""What is wrong with a plan, said field by field: value, limit, remedy."""

from __future__ import annotations

from collections.abc import Mapping
from math import isfinite
from typing import Any, get_args

from pydantic import BaseModel, ValidationError
from pydantic_core import ErrorDetails

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.units.quantity import in_unit
from oddkettle.plan.quantities import LazyModel, Part

TYPE_TAGS = {"fridge", "radio", "bursts", "logger"}
"""Names that pydantic puts into a path where one of several models was tried."""


class Complaint(LazyModel):
    """One thing that is wrong."""

    where: str
    """Path of the field in the plan, like box.battery.capacity_ah; empty for the whole."""
    value: str
    limit: str
    remedy: str
    text: str


class PlanRefused(ValueError):
    """A plan that cannot be accepted, with every complaint that was found."""

    def __init__(self, complaints: list[Complaint]) -> None:
        super().__init__("; ".join(f"{c.where}: {c.text}" for c in complaints))
        self.complaints = complaints


def refused(where: str, value: object, limit: str, remedy: str, text: str) -> PlanRefused:
    """A refusal of one field."""
    return PlanRefused(
        [Complaint(where=where, value=str(value), limit=limit, remedy=remedy, text=text)]
    )


def from_fault(fault: PlanError) -> Complaint:
    """A core fault as a complaint."""
    return Complaint(
        where=".".join(str(part) for part in fault.where),
        value=str(fault.value),
        limit=fault.limit,
        remedy=fault.remedy,
        text=fault.text,
    )


def from_validation(error: ValidationError, model: type[BaseModel]) -> list[Complaint]:
    """Pydantic's errors in plain words."""
    return [complaint_from(detail, model) for detail in error.errors()]


def complaint_from(detail: ErrorDetails, model: type[BaseModel]) -> Complaint:
    """One of pydantic's errors in plain words; `model` tells the units along its path."""
    context: Mapping[str, Any] = detail.get("ctx", {})
    where = [part for part in detail["loc"] if not _is_type_tag(part)]
    if "where" in context:
        where.append(context["where"])
    unit = _unit_at(model, where)
    suffix = f" {unit}" if unit else ""
    value = context.get("value", detail["input"])
    limit, remedy, text = _in_words(detail["type"], context, suffix, detail["msg"])
    shown = _short(value)
    return Complaint(
        where=".".join(str(part) for part in where),
        value=shown,
        limit=limit,
        remedy=remedy,
        # Not `format`: a message may quote braces that the user typed.
        text=text.replace("{value}", shown),
    )


def _in_words(  # noqa: PLR0911, PLR0912 - a table of kinds, one return each
    kind: str, context: Mapping[str, Any], suffix: str, message: str
) -> tuple[str, str, str]:
    """(limit, remedy, sentence) of one kind of error; `{value}` is filled in later."""
    match kind:
        case "less_than_equal":
            most = in_unit(context["le"], suffix.strip())
            return f"at most {most}", f"Enter {most} or less.", "{value} is too much."
        case "greater_than_equal":
            least = in_unit(context["ge"], suffix.strip())
            return f"at least {least}", f"Enter {least} or more.", "{value} is too little."
        case "missing":
            return "required", "Fill it in.", "This is missing."
        case "float_type" | "float_parsing" | "int_type" | "int_parsing" | "int_from_float":
            return f"a number{suffix}", "Enter a number.", "{value} is not such a number."
        case "finite_number":
            return "a finite number", "Enter a finite number.", "{value} is no use here."
        case "extra_forbidden":
            return "no field of this name", "Remove it, or correct its name.", "Unknown field."
        case "literal_error":
            wanted = str(context["expected"])
            return wanted, f"Choose {wanted}.", "{value} is not one of them."
        case "union_tag_invalid" | "union_tag_not_found":
            wanted = str(context.get("expected_tags", "a type"))
            return wanted, f"Give it one of the types {wanted}.", "There is no such type."
        case "too_long":
            most = str(context["max_length"])
            given = context.get("actual_length")
            return f"at most {most}", f"Keep it to {most}.", f"{given or 'This many'} is too many."
        case "too_short":
            least = str(context["min_length"])
            return f"at least {least}", f"Give {least} or more.", "There are too few."
        case "string_too_short":
            return "at least 1 character", "Write something.", "This is empty."
        case "string_too_long":
            most = str(context["max_length"])
            return f"at most {most} characters", "Make it shorter.", "This is too long."
        case "string_pattern_mismatch":
            return _pattern_words(suffix)
        case "model_type" | "model_attributes_type" | "dict_type" | "list_type":
            return "an object or list as in the format", "See docs/formats.md.", "Wrong shape."
        case "string_unicode":
            return (
                "letters, figures, marks and spaces of any script",
                "Type it anew.",
                "It holds a character that cannot be read, {value}.",
            )
        case "json_invalid":
            return "a whole JSON document", "Check that the file is complete.", message
    if "limit" in context:
        return str(context["limit"]), str(context["remedy"]), message
    return "see the format", "Correct it.", message


def _pattern_words(suffix: str) -> tuple[str, str, str]:
    if "HH:MM" in suffix:
        return (
            "00:00 to 24:00",
            "Write the time as HH:MM, like 07:30.",
            "{value} is not a time of day.",
        )
    return (
        "letters, digits, - and _, 40 at most",
        "Use plain letters and digits.",
        "{value} cannot be an id.",
    )


def _is_type_tag(part: str | int) -> bool:
    return isinstance(part, str) and ("[" in part or part.endswith("Model") or part in TYPE_TAGS)


def _unit_at(model: type[BaseModel], where: list[Any]) -> str:
    """The unit that the schema states for the field at this path, if any."""
    here: Any = model
    unit = ""
    for part in where:
        if isinstance(part, int):
            continue
        field = getattr(here, "model_fields", {}).get(part)
        if field is None:
            return ""
        unit = _unit_of(field)
        for inner in get_args(field.annotation):
            # An optional number carries its unit inside the union.
            for note in getattr(inner, "__metadata__", ()):
                unit = unit or _unit_of(note)
        here = _model_inside(field.annotation)
    return unit


def _unit_of(note: object) -> str:
    extra = getattr(note, "json_schema_extra", None)
    return str(extra.get("unit", "")) if isinstance(extra, dict) else ""


def _model_inside(annotation: Any) -> Any:
    if isinstance(annotation, type) and issubclass(annotation, Part):
        return annotation
    for inner in get_args(annotation):
        found = _model_inside(inner)
        if found is not None:
            return found
    return None


def _short(value: Any) -> str:
    if isinstance(value, float) and isfinite(value) and value == int(value):
        value = int(value)
    text = "nothing" if value is None else str(value)
    text = text.encode("utf-8", "backslashreplace").decode()
    return text if len(text) <= 60 else text[:57] + "..."

"""Plans as JSON files: the open format. `docs/formats.md` describes it."""

from __future__ import annotations

import json
from typing import Any

from pydantic import ValidationError

from oddkettle.formats.untrusted.json_bounds import Counting, TooManyFields
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import Complaint, PlanRefused, from_validation


def parse_plan(data: bytes) -> Plan:
    """A plan from the bytes of a file. Raises PlanRefused."""
    try:
        document = json.loads(data, parse_constant=_no_constant, object_pairs_hook=_OnceEach())
    except TooManyFields as error:
        raise _broken(str(error), "the whole file") from None
    except UnicodeDecodeError as error:
        raise _broken("This is not text.", f"byte {error.start}") from None
    except json.JSONDecodeError as error:
        at = f"line {error.lineno}, column {error.colno}"
        raise _broken(f"The JSON breaks off or is damaged at {at}: {error.msg}.", at) from None
    except RecursionError:
        raise _broken("This is nested far too deeply for a plan.", "the whole file") from None
    try:
        return Plan.model_validate(document)
    except ValidationError as error:
        raise PlanRefused(from_validation(error, Plan)) from None


def _no_constant(name: str) -> float:
    raise _broken(f"{name} is no number of JSON.", name)


class _OnceEach(Counting):
    """Refuses a name that stands twice in one object, too."""

    def __call__(self, pairs: list[tuple[str, Any]]) -> dict[str, Any]:
        found = super().__call__(pairs)
        if len(found) < len(pairs):
            keys = [key for key, _ in pairs]
            twice = next(key for key in keys if keys.count(key) > 1)
            raise _broken(f"{twice[:60]} stands twice in one object: which one holds?", twice[:60])
        return found


def plan_bytes(plan: Plan) -> bytes:
    """A plan as the bytes of a file: UTF-8 JSON, two spaces, a newline at the end."""
    return (plan.model_dump_json(indent=2, exclude_none=True) + "\n").encode()


def _broken(text: str, value: str) -> PlanRefused:
    return PlanRefused(
        [
            Complaint(
                where="",
                value=value,
                limit="a whole JSON document in UTF-8",
                remedy="Check that the file is complete, or export it again.",
                text=text,
            )
        ]
    )

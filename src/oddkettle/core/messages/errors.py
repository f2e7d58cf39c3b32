"""The one error that the core raises for a plan that cannot be: value, limit, remedy."""

from __future__ import annotations

from typing import Any


class PlanError(ValueError):
    """A plan that contradicts itself or physics, said so that its owner can mend it.

    `where` is the path of the field in the plan document, outermost first.
    """

    def __init__(
        self, text: str, *, where: tuple[str | int, ...], value: object, limit: str, remedy: str
    ) -> None:
        super().__init__(f"{text} {remedy}")
        self.text = text
        self.where = where
        self.value = value
        self.limit = limit
        self.remedy = remedy

    def __reduce__(self) -> tuple[object, ...]:
        """How it is sent from one process to another, with all that it says."""
        said = {
            "text": self.text,
            "where": self.where,
            "value": self.value,
            "limit": self.limit,
            "remedy": self.remedy,
        }
        return _sent, (said,)


def _sent(said: dict[str, Any]) -> PlanError:
    return PlanError(said.pop("text"), **said)

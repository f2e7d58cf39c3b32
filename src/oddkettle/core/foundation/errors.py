"""The one error that the core raises for a plan that cannot be: value, limit, remedy."""

from __future__ import annotations


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

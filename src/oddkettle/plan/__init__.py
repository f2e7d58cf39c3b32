"""The plan document: one versioned model of box, use, trip and assumptions, in an open format."""

from oddkettle.plan.document import Plan

__all__ = ["Plan"]

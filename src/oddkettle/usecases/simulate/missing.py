"""What somebody asks for and is not there."""

from __future__ import annotations


class NoSuchStep(Exception):
    """The run has no such step."""


class NoSuchFigure(Exception):
    """There is no sum of that name, or not of that part or day."""


class NoSuchSituation(LookupError):
    """There is no such situation to practise, or no such choice in it."""


class NotHere(Exception):
    """What is asked for is not done here; the text says where."""

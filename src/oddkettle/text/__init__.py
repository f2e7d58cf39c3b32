"""Sentences: words and quantities, and how they are written out for a reader."""

from oddkettle.text.habits import USUAL, Habits, read_by
from oddkettle.text.render import render

__all__ = ["USUAL", "Habits", "read_by", "render"]

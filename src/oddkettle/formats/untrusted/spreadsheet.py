"""Cells of tables that a spreadsheet opens: text never becomes a formula there."""

from __future__ import annotations

DANGEROUS = ("=", "+", "-", "@", "\t", "\r")
"""A cell that begins so is a formula to a spreadsheet, or hides one."""


def disarmed(text: str) -> str:
    """Text behind an apostrophe where a spreadsheet would reckon it."""
    return f"'{text}" if text.startswith(DANGEROUS) else text

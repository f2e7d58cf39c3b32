"""Names of files that are saved from a plan."""

from __future__ import annotations

MAX = 80


def stem_of(name: str) -> str:
    """A plan's name as the beginning of a file's: its letters in any script, joined by hyphens.

    Marks that belong to a letter stay with it; a name without any letter is "plan".
    """
    kept = "".join(c if c.isalnum() or _joins(c) else "-" for c in name.lower())
    return "-".join(word for word in kept.split("-") if word)[:MAX] or "plan"


def _joins(character: str) -> bool:
    # Vowel signs and accents of many scripts are characters of their own.
    from unicodedata import category

    return category(character) in {"Mn", "Mc"}

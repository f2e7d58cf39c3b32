"""Names without accents and capitals, for finding them however they are typed."""

from __future__ import annotations

import unicodedata

LETTERS = str.maketrans({"ø": "o", "Ø": "O", "ł": "l", "Ł": "L", "đ": "d", "Đ": "D", "ı": "i"})


def plain(text: str) -> str:
    """Small letters without accents; letters that are no accented ones become what they sound."""
    parts = unicodedata.normalize("NFKD", text.translate(LETTERS))
    return "".join(c for c in parts if not unicodedata.combining(c)).casefold()

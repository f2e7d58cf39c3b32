"""A day's word for the sky, as clearness: the day's light over that of a clear day."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class SkyWord:
    """Mean and standard deviation of clearness on days that people call so.

    Fitted on 21 measured weather series from 14 places [fitted].
    """

    key: str
    text: str
    mean: float
    sd: float


SKY_WORDS: dict[str, SkyWord] = {
    word.key: word
    for word in (
        SkyWord("clear", "clear", 0.98, 0.07),
        SkyWord("some_cloud", "some cloud", 0.91, 0.10),
        SkyWord("mostly_cloudy", "mostly cloudy", 0.74, 0.14),
        SkyWord("overcast", "overcast", 0.47, 0.17),
        SkyWord("heavy", "heavy overcast or rain", 0.33, 0.13),
    )
}

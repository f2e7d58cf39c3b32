"""A day's word for the sky, as clearness: the day's light over that of a clear day."""

from __future__ import annotations

from dataclasses import dataclass


@dataclass(frozen=True)
class SkyWord:
    """Mean and standard deviation of clearness on days that people call so.

    Fitted on measured weather series; a cloudless day is a little brighter than the clear-sky model
    with its table of turbidity, which is somewhat too hazy [fitted].
    """

    key: str
    text: str
    mean: float
    sd: float


SKY_WORDS: dict[str, SkyWord] = {
    word.key: word
    for word in (
        SkyWord("clear", "clear", 1.02, 0.07),
        SkyWord("some_cloud", "some cloud", 0.91, 0.10),
        SkyWord("mostly_cloudy", "mostly cloudy", 0.74, 0.14),
        SkyWord("overcast", "overcast", 0.47, 0.17),
        SkyWord("heavy", "heavy overcast or rain", 0.29, 0.13),
    )
}

"""Words about the trip: what kind, how long, when, where, how cold."""

from __future__ import annotations

import calendar
import re
from datetime import date, timedelta

from oddkettle.core.values.copying import copied
from oddkettle.plan.trip import SiteModel
from oddkettle.usecases.onboarding.grammar.draft import FIGURE, Draft, figure_in, number_in
from oddkettle.usecases.onboarding.grammar.quantities import NUMBERS
from oddkettle.usecases.onboarding.sentence import MAX_MONTHS, MAX_NIGHTS, Shape
from oddkettle.usecases.plans import places

MOST_TRIED = 8
"""Words by themselves that are looked up in the list of places."""
SEASONS = {"spring": 4, "summer": 7, "autumn": 10, "fall": 10, "winter": 1}
PARTS = {"early": 5, "start of": 5, "mid": 15, "middle of": 15, "late": 25, "end of": 25}


def read_length(draft: Draft) -> None:
    """Nights, weeks, months."""
    number = r"(?P<count>\d+|" + "|".join(NUMBERS) + r")"

    def use(found: re.Match[str]) -> str | None:
        count = number_in(found.group("count")) or 0
        unit = found.group("unit").lower()
        if unit.startswith("month") or unit.startswith("year"):
            months = count * (12 if unit.startswith("year") else 1)
            if not 1 <= months <= MAX_MONTHS:
                return None
            shape = "alone" if draft.sentence.shape == "trip" else draft.sentence.shape
            draft.put(months=months, shape=shape)
            return f"left alone for {months} months"
        nights = 7 * count if unit.startswith("week") else count
        if not 1 <= nights <= MAX_NIGHTS:
            return None
        draft.put(nights=nights)
        return f"{nights} nights" if nights != 1 else "one night"

    # "Twice a week" is how often, and not for how long.
    often = r"(?<!\btwice )(?<!\bonce )(?<!\btimes )(?<!\bday )"
    draft.take(rf"(?<!\w){often}{number}[\s-]*(?P<unit>nights?|days?|weeks?|months?|years?)\b", use)

    def a_week(_found: re.Match[str]) -> str:
        draft.put(nights=7)
        return "7 nights"

    draft.take(r"(?:(?<=[,;.\x00])\s*|^\s*)\bweek\b", a_week)

    def the_night(_found: re.Match[str]) -> str:
        draft.put(nights=1)
        return "one night"

    draft.take(r"\b(?:last|through|over|for)\s+the\s+night\b", the_night)

    def weekend(found: re.Match[str]) -> str:
        long = bool(found.group("long"))
        draft.put(nights=3 if long else 2)
        return f"{'three' if long else 'two'} nights"

    draft.take(r"\b(?P<long>long\s+)?weekend\b", weekend)


def read_shape(draft: Draft) -> None:
    """What kind of question it is."""
    rules: tuple[tuple[str, Shape, str], ...] = (
        (
            r"\b(?:left\s+alone|unattended|leave\s+it\s+alone)\b",
            "alone",
            "a box that is left alone",
        ),
        (
            r"\b(?:how\s+(?:big|large|much)\s+(?:of\s+)?a\s+(?:battery|box|bank)"
            r"|(?:which|what)\s+(?:size\s+|kind\s+|sort\s+)?(?:of\s+)?(?:box|battery)(?:\s+do\s+i\s+need)?|what\s+do\s+i\s+need)\b\??",
            "which_box",
            "the question which box it takes",
        ),
        (
            r"\b(?:stand-?by|standing\s+by|backup|power\s+cuts?|(?:an\s+)?outages?|kept\s+full|"
            r"(?:when|if)\s+the\s+(?:mains|power|grid|electricity|lights)\s+(?:fails?|goes\s+out|"
            r"goes\s+off|is\s+out|is\s+off|goes)|always\s+on\s+mains)\b",
            "standby",
            "a box that stands by on mains",
        ),
    )
    for pattern, shape, words in rules:

        def use(_found: re.Match[str], shape: Shape = shape, words: str = words) -> str:
            draft.put(shape=shape)
            return words

        draft.take(pattern, use)


def read_when(draft: Draft) -> None:
    """A date, a month with or without a day, a season."""
    names = [*calendar.month_name[1:], *calendar.month_abbr[1:]]
    months = "|".join(sorted({n.lower() for n in names}, key=len, reverse=True))
    parts = "|".join(PARTS)

    def on(day: date) -> str:
        draft.put(start=day)
        return f"from {day.day} {day:%B %Y}"

    def iso(found: re.Match[str]) -> str | None:
        try:
            return on(date.fromisoformat(found.group()))
        except ValueError:
            return None

    draft.take(r"\b\d{4}-\d{2}-\d{2}\b", iso)

    def month(found: re.Match[str]) -> str | None:
        number = next(
            n
            for n in range(1, 13)
            if found.group("month").lower().rstrip(".")
            in {calendar.month_name[n].lower(), calendar.month_abbr[n].lower()}
        )
        told = found.group("day")
        part = (found.group("part") or "mid").lower()
        day = int(told) if told else PARTS[part]
        try:
            when = date(draft.today.year, number, day)
        except ValueError:
            return None
        return on(when if when >= draft.today else when.replace(year=when.year + 1))

    draft.take(
        rf"(?<!\w)(?:(?P<part>{parts})[\s-]+|(?P<day>[0-3]?\d)(?:st|nd|rd|th)?\.?\s+)?"
        rf"(?P<month>{months})\b\.?",
        month,
    )

    def season(found: re.Match[str]) -> str:
        number = SEASONS[found.group("season").lower()]
        if draft.sentence.place.latitude < 0:
            number = (number + 5) % 12 + 1
        when = date(draft.today.year, number, 15)
        return on(when if when >= draft.today else when.replace(year=when.year + 1))

    draft.take(rf"\b(?P<season>{'|'.join(SEASONS)})\b", season)

    def soon(found: re.Match[str]) -> str:
        days = {"today": 0, "tonight": 0, "tomorrow": 1, "next week": 7}[found.group().lower()]
        return on(draft.today + timedelta(days=days))

    draft.take(r"\b(?:today|tonight|tomorrow|next week)\b", soon)


def read_cold(draft: Draft) -> None:
    """Degrees of the nights."""

    def use(found: re.Match[str]) -> str | None:
        value = float(
            found.group("sign").replace("minus ", "-").replace("−", "-")
            + found.group("size").replace(",", ".")
        )
        if not -50 <= value <= 60:
            return None
        draft.put(coldest_c=value)
        return f"nights of {value:g} degrees Celsius"

    draft.take(rf"(?P<sign>-|−|minus |){FIGURE}\s*(?:°\s*c?|degrees|c\b)(?:\s*nights?)?", use)


def read_place(draft: Draft) -> None:
    """After near, at or in: the longest run of words that the list of places knows."""

    def use(found: re.Match[str]) -> str | None:
        words = found.group("place").split()
        first = words[0].lower()
        if first in PARTS or first in SEASONS or first in {"the", "a", "an", "my"}:
            return None
        if any(first == m.lower() for m in [*calendar.month_name[1:], *calendar.month_abbr[1:]]):
            return None
        place = places.named(" ".join(words))
        if place is None:
            return None
        draft.put(place=copied(SiteModel, place))
        return f"{place.name} in {place.country}"

    def latitude(found: re.Match[str]) -> str | None:
        half = (found.group("half") or found.group("capital")).lower()
        degrees = figure_in(found) * (-1 if half.startswith("s") else 1)
        if not -90 <= degrees <= 90:
            return None
        here = draft.sentence.place
        spot = places.spot(degrees, here.longitude)
        name = f"{abs(degrees):g} degrees {'north' if degrees >= 0 else 'south'}"
        site = here.model_copy(
            update={
                "name": name,
                "latitude": degrees,
                "altitude_m": spot.altitude_m,
                "timezone": spot.timezone,
            }
        )
        draft.put(place=site)
        return f"{name}, at the longitude that was there"

    draft.take(
        rf"(?<![\w.])(?:at\s+)?{FIGURE}\s*"
        r"(?:(?:°|degrees)\s*(?P<half>north|south|n|s)|(?P<capital>(?-i:[NS])))\b",
        latitude,
    )
    _read_region(draft)
    for length in (3, 2, 1):
        name = rf"(?P<place>[^\W\d_][\w'-]+(?:\s+[^\W\d_][\w'-]+){{{length - 1}}})"
        draft.take(rf"\b(?:near|at|in|around)\s+{name}", use)


def _read_region(draft: Draft) -> None:
    """Read "in the Alps", "Scotland" after a preposition, and names of several words anywhere."""

    def use(found: re.Match[str]) -> str | None:
        place = places.region(found.group("place"))
        if place is None:
            return None
        draft.put(place=copied(SiteModel, place))
        return f"{place.name} in {place.country}, by its middle"

    several = "|".join(
        re.escape(name).replace(r"\ ", r"\s+")
        for name in sorted(places.region_names(), key=len, reverse=True)
        if " " in name
    )
    draft.take(rf"(?:\b(?:near|at|in|around|on|to|through|across)\s+)?(?:\bthe\s+)?"
               rf"\b(?P<place>{several})\b", use)  # fmt: skip
    draft.take(
        r"\b(?:near|at|in|around|on|to|through|across)\s+(?:the\s+)?"
        r"(?P<place>[^\W\d_][\w'-]+(?:\s+[^\W\d_][\w'-]+)?)\b",
        use,
    )
    draft.take(
        r"\b(?:near|at|in|around|on|to|through|across)\s+(?:the\s+)?(?P<place>[^\W\d_][\w'-]+)\b",
        use,
    )


def read_bare_place(draft: Draft) -> None:
    """A town by itself: a word of its own with a capital letter that is the name of one."""
    tried = 0

    def use(found: re.Match[str]) -> str | None:
        nonlocal tried
        tried += 1
        if tried > MOST_TRIED:
            return None
        name = found.group()
        place = places.named(name)
        if place is None:
            return None
        draft.put(place=copied(SiteModel, place))
        return f"{place.name} in {place.country}"

    draft.take(r"(?<=[\s\x00,])[A-Z][^\W\d_]{3,}(?=\s*(?:[,.;\x00]|$))", use, re.NOFLAG)

"""What a sentence answers with: its plan, the pieces to press, the change that mends it."""

from __future__ import annotations

from datetime import date
from typing import Literal

from pydantic import ValidationError

from oddkettle.core.battery.bank import chemistry_named
from oddkettle.core.battery.label_share import label_share
from oddkettle.core.judgement.medical import medical_words
from oddkettle.core.values.copying import copied
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.quantities import LazyModel
from oddkettle.plan.trip import SiteModel
from oddkettle.results.judgements import Edit
from oddkettle.usecases.improve.candidate import Candidate, without_a_shop
from oddkettle.usecases.improve.weigh import Weighed, Weighing, weigh
from oddkettle.usecases.onboarding.assumed import Assumed, assumed
from oddkettle.usecases.onboarding.chargers import CHARGERS
from oddkettle.usecases.onboarding.plan_of import plan_of
from oddkettle.usecases.onboarding.sentence import Bank, Sentence, first_sentence
from oddkettle.usecases.onboarding.things import UNIT, floor_of
from oddkettle.usecases.plans import places
from oddkettle.usecases.plans.plan_words import Piece, bank_words, plain_words, words_of
from oddkettle.usecases.simulate.run_cache import ensemble_of

SURE_PERCENT = 90.0
"""A change mends a plan that lasts so often with it."""
SHOP = 3
"""How much trouble it is to buy something, beside a change's own `bother`."""
WORTH_POINTS, WORTH_H = 5.0, 1.0
BOX_AH = {True: (40, 80, 100, 120, 150, 200, 240, 300, 400),
          False: (20, 50, 80, 100, 120, 150, 200, 280, 400)}  # fmt: skip
"""Sizes that are tried when a box is asked for: of lead, and of lithium."""


class Told(LazyModel):
    """A sentence's plan, its pieces, and what was taken for granted."""

    plan: Plan
    pieces: list[Piece]
    line: str
    notes: list[str]
    assumed: list[Assumed]
    """What nobody said and matters most, the greatest effect first."""
    caution: str | None
    """What is said at once where health may hang on something that runs."""


class SmallChange(LazyModel):
    """The surest small change, or that there is none."""

    now_percent: float
    change: Candidate | None
    lasts_percent: float | None
    bought: bool
    """Whether it takes a shop."""
    edits: list[Edit]
    mends: bool = False
    """Whether the box lasts with it; else it is what helps most, and is not enough."""
    missing_h: float = 0.0
    """Hours a trip that it is still under the reserve with it, in the mean."""


class BoxOffer(LazyModel):
    """One box that would do, or the largest that was tried."""

    bank: Bank
    text: str
    lasts_percent: float
    enough: bool
    floor_percent: float


def tell(sentence: Sentence) -> Told:
    """The plan of a sentence. Raises PlanError, PlanRefused."""
    plan = plan_of(sentence)
    pieces = words_of(plan, asks_box=sentence.shape == "which_box")
    return Told(
        plan=plan,
        pieces=pieces,
        line=plain_words(pieces),
        notes=_notes(sentence, plan),
        assumed=[] if sentence.shape == "which_box" else assumed(sentence, plan),
        caution=medical_words(appliance.name for appliance in plan.use.appliances),
    )


def _notes(sentence: Sentence, plan: Plan) -> list[str]:
    floor = plan.trip.floor_percent
    notes = []
    if sentence.bank.kind != UNIT and floor >= 50:
        notes.append("A lead battery keeps half in reserve: to go deeper shortens its life.")
    else:
        notes.append(f"A reserve of {floor:.0f} % is kept.")
    if sentence.shape in {"trip", "which_box"}:
        notes.append("It starts full at noon of the first day and ends at noon of the last.")
    notes.append(_content_note(plan))
    of_chargers = (CHARGERS[charger.kind].note for charger in sentence.chargers)
    notes += dict.fromkeys(note for note in of_chargers if note)
    guessed = [a for a in plan.use.appliances if a.figure == "guess"]
    if guessed:
        notes.append("Watts are those of usual things, give or take; yours may differ.")
    return notes


def _content_note(plan: Plan) -> str:
    """What the battery is taken to hold of its label."""
    battery = plan.box.battery
    share = label_share(chemistry_named(battery.chemistry), battery.age)
    holds = f"about {100 * share.mean:.0f} % of its label, give or take {100 * share.sd:.0f}"
    if battery.age is None:
        return f"The battery holds {holds}: nobody has said how old it is."
    return f"The battery holds {holds}, by its age."


def smallest_change(plan: Plan) -> SmallChange:
    """The change with the least bother that makes it last; if none does, the one that helps most.

    Changes that need no shop come first. Raises PlanRefused.
    """
    lines = weigh(plan)
    base = next(lines)
    assert isinstance(base, Weighing)
    weighed = [line for line in lines if isinstance(line, Weighed)]
    now = base.lasts_percent
    if now >= SURE_PERCENT or not weighed:
        return SmallChange(now_percent=now, change=None, lasts_percent=None, bought=False, edits=[])
    mends = [w for w in weighed if w.lasts_percent >= SURE_PERCENT]
    best = min(mends, key=_bother) if mends else max(weighed, key=_help)
    gains = max(best.less_dark_h, best.less_under_h)
    if not mends and best.lasts_percent - now < WORTH_POINTS and gains < WORTH_H:
        return SmallChange(now_percent=now, change=None, lasts_percent=None, bought=False, edits=[])
    return SmallChange(
        now_percent=now,
        change=best.change,
        lasts_percent=best.lasts_percent,
        bought=not without_a_shop(best.change),
        edits=best.change.edits,
        mends=bool(mends),
        missing_h=best.short.under_h,
    )


def _help(weighed: Weighed) -> tuple[float, ...]:
    return weighed.lasts_percent, weighed.less_dark_h, weighed.less_under_h, weighed.low_points


def _bother(weighed: Weighed) -> tuple[int, float]:
    """Minutes come before habits, a shop after both, and doing without something last."""
    if not without_a_shop(weighed.change):
        return SHOP, weighed.change.euro.low if weighed.change.euro else 0.0
    return weighed.change.bother, weighed.change.minutes


def boxes_for(sentence: Sentence) -> list[BoxOffer]:
    """For each sort of box the smallest usual size that lasts, or the largest that was tried."""
    offers = []
    for kind in ("lifepo4", "agm"):
        offer = _smallest(sentence, kind)
        if offer is not None:
            offers.append(offer)
    return offers


def _smallest(sentence: Sentence, kind: Literal["lifepo4", "agm"]) -> BoxOffer | None:
    """By halving: a larger battery never lasts less often over the same scenarios."""
    sizes = BOX_AH[kind == "agm"]
    tried: dict[int, BoxOffer] = {}

    def offer(place: int) -> BoxOffer | None:
        if place not in tried:
            # What is bought is new.
            bank = Bank(kind=kind, size=sizes[place], age="new")
            try:
                plan = plan_of(sentence.model_copy(update={"bank": bank}))
                lasts = 100 * float(ensemble_of(plan, quick=True).lasts.mean())
            except (PlanRefused, ValidationError):
                return None
            tried[place] = BoxOffer(
                bank=bank,
                text=bank_words(plan),
                lasts_percent=lasts,
                enough=lasts >= SURE_PERCENT,
                floor_percent=floor_of(kind),
            )
        return tried[place]

    low, high = -1, len(sizes) - 1
    largest = offer(high)
    if largest is None or not largest.enough:
        return largest
    while high - low > 1:
        middle = (low + high) // 2
        found = offer(middle)
        if found is not None and found.enough:
            high = middle
        else:
            low = middle
    return offer(high)


def begin_at(timezone: str, today: date) -> Sentence:
    """The sentence to begin with where a clock is kept, near its largest town."""
    town = places.largest_in(timezone) or places.largest_in("Europe/London")
    assert town is not None
    site = copied(SiteModel, town)
    return first_sentence(site, today)

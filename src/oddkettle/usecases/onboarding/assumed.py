"""What nobody said and matters most for the answer, each with the other choice and its effect."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import replace

from oddkettle.core.battery.bank import chemistry_named
from oddkettle.core.battery.label_share import label_share
from oddkettle.core.loads.fridge import Fridge
from oddkettle.core.simulation.run import Run
from oddkettle.core.units.conversion import HOURS_PER_DAY
from oddkettle.core.units.quantity import charge
from oddkettle.plan import Plan
from oddkettle.plan.quantities import LazyModel
from oddkettle.usecases.onboarding.plan_of import HEATED_C, stands_heated
from oddkettle.usecases.onboarding.sentence import Sentence
from oddkettle.usecases.onboarding.things import UNIT
from oddkettle.usecases.simulate.run_cache import run_plan

MATTERS = 0.1
"""What moves a day's use by less is not said beside the answer [judgement]."""
MOST = 3
NOTHING_W = 0.05
"""A mean draw that reads as nothing."""


class AssumedChoice(LazyModel):
    """One way to have it, and the sentence that says so."""

    text: str
    chosen: bool
    sentence: Sentence


class Assumed(LazyModel):
    """One thing that nobody said: what was taken, what another choice would change."""

    key: str
    text: str
    choices: list[AssumedChoice]


def assumed(sentence: Sentence, plan: Plan) -> list[Assumed]:
    """At most three, what moves the answer most first. Raises PlanRefused."""
    run = run_plan(plan)
    found = sorted((*_places(sentence, run), *_age(sentence, plan, run)), key=lambda f: -f[0])
    return [one for share, one in found if share >= MATTERS][:MOST]


def _places(sentence: Sentence, run: Run) -> Iterator[tuple[float, Assumed]]:
    """Where each cool box stands: (share of a day's use that it moves, what to say)."""
    use_w = sum(float(draw.asked_w.mean()) for draw in run.draws)
    for place, thing in enumerate(sentence.things):
        appliance = run.case.appliances[place]
        draw = next((d for d in run.draws if d.key == appliance.key), None)
        if draw is None or not isinstance(appliance.pattern, Fridge):
            continue
        now_w, duty = float(draw.asked_w.mean()), appliance.duty
        heated = stands_heated(thing, sentence)
        other = replace(appliance.pattern, room_c=None if heated else HEATED_C)
        air = run.world.air_c
        before = float(appliance.pattern.duty_at(duty, air).mean())
        after = float(other.duty_at(duty, air).mean())
        # In frost it may not run at all: then its label says what it would draw.
        of_duty = now_w / before if before > 0.0 else appliance.power_w
        other_w = of_duty * after
        here, there = "where it is heated", "in the open air"
        if not heated:
            here, there = there, here
        volts = run.case.bank.nominal_v
        text = (
            f"{appliance.name} stands {here} and takes {_a_day(now_w, volts)} a day; {there} "
            f"{_a_day(other_w, volts)}."
        )
        choices = [
            AssumedChoice(
                text=words,
                chosen=heated == (stands == "heated"),
                sentence=_with_thing(sentence, place, stands),
            )
            for stands, words in (("heated", "in the warm"), ("open", "in the open air"))
        ]
        share = abs(other_w - now_w) / max(use_w, 1e-9)
        yield share, Assumed(key=f"stands-{place}", text=text, choices=choices)


def _with_thing(sentence: Sentence, place: int, stands: str) -> Sentence:
    things = list(sentence.things)
    things[place] = things[place].model_copy(update={"stands": stands})
    return sentence.model_copy(update={"things": things})


def _a_day(watts: float, volts: float) -> str:
    if watts < NOTHING_W:
        return "nothing"
    return charge(HOURS_PER_DAY * watts / volts, HOURS_PER_DAY * watts)


def _age(sentence: Sentence, plan: Plan, run: Run) -> Iterator[tuple[float, Assumed]]:
    """How old the battery is, where nobody said."""
    if sentence.bank.kind == UNIT or sentence.bank.age is not None:
        return
    chemistry = chemistry_named(plan.box.battery.chemistry)
    taken, old = (label_share(chemistry, age).mean for age in (None, "old"))
    use_wh = HOURS_PER_DAY * sum(float(draw.asked_w.mean()) for draw in run.draws)
    share = (taken - old) * run.case.bank.nominal_wh / max(use_wh, 1e-9)
    text = (
        f"Nobody has said how old the battery is: {100 * taken:.0f} % of its label are counted on; "
        f"of an old one {100 * old:.0f} %."
    )
    choices = [
        AssumedChoice(
            text=words,
            chosen=False,
            sentence=sentence.model_copy(
                update={"bank": sentence.bank.model_copy(update={"age": age})}
            ),
        )
        for age, words in (("new", "new"), ("years", "some years"), ("old", "old"))
    ]
    yield share, Assumed(key="age", text=text, choices=choices)

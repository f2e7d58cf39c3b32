"""Situations as data files: a plan, a question, and things one might do; the engine answers.

A situation is a JSON file in `situations/`: `title`, `question`, the `sentence` that tells its plan
(and `edits` of that plan), and `choices`, each with its `text`, what it `explains`, whether it is
`right`, and the `edits` that it makes, if it is something that one does. A new file is a new
situation.
"""

from __future__ import annotations

from functools import cache
from pathlib import Path

from pydantic import Field

from oddkettle.core.values.cache import CACHE
from oddkettle.plan import Plan
from oddkettle.plan.quantities import LazyModel, Part
from oddkettle.results.judgements import Edit
from oddkettle.results.run import Sky
from oddkettle.usecases.onboarding.plan_of import plan_of
from oddkettle.usecases.onboarding.sentence import Sentence
from oddkettle.usecases.plans.plan_words import plain_words, words_of
from oddkettle.usecases.simulate.missing import NoSuchSituation
from oddkettle.usecases.simulate.remedies import with_edits
from oddkettle.usecases.simulate.run_report import report_plan

FOLDER = Path(__file__).parent / "situations"
POINTS = 120
EXTREMES: tuple[Sky, Sky] = ("worst", "best")


class Choice(Part):
    """One thing that one might do, or answer."""

    text: str = Field(max_length=120)
    explains: str = Field(max_length=400)
    right: bool = False
    edits: list[Edit] = Field(default=[])
    """What it does to the plan; nothing where it is an answer only."""


class Situation(Part):
    """One data file."""

    place: int
    """Where it stands among the others."""
    title: str = Field(max_length=80)
    question: str = Field(max_length=500)
    sentence: Sentence
    edits: list[Edit] = Field(default=[])
    choices: list[Choice] = Field(min_length=2, max_length=6)


class Asked(LazyModel):
    """A situation as it is put: without its answers."""

    key: str
    title: str
    question: str
    sentence: str
    choices: list[str]


class Line(LazyModel):
    """The level in one weather, thinned; 0 to 100."""

    weather: str
    level_percent: list[float]


class Outcome(LazyModel):
    """What came of it, in the worst and in the best trip of ten."""

    lasts_percent: float
    floor_percent: float
    headline: str
    lines: list[Line]
    sums: list[str]


class Answered(LazyModel):
    """What a choice led to."""

    right: bool
    explains: str
    before: Outcome
    after: Outcome | None
    """None where nothing was done."""


@cache
def situations() -> dict[str, Situation]:
    """Every situation by its file's name, in their order."""
    found = {
        path.stem: Situation.model_validate_json(path.read_bytes())
        for path in sorted(FOLDER.glob("*.json"))
    }
    return dict(sorted(found.items(), key=lambda item: item[1].place))


def all_asked() -> list[Asked]:
    """Every situation as it is put."""
    return [
        Asked(
            key=key,
            title=one.title,
            question=one.question,
            sentence=plain_words(words_of(base_plan(one))),
            choices=[choice.text for choice in one.choices],
        )
        for key, one in situations().items()
    ]


def base_plan(situation: Situation) -> Plan:
    """The plan of a situation before anything is done."""
    plan = plan_of(situation.sentence)
    return with_edits(plan, situation.edits) if situation.edits else plan


def answer(key: str, choice: int) -> Answered:
    """What a choice leads to. Raises NoSuchSituation."""
    situation = situations().get(key)
    if situation is None or not 0 <= choice < len(situation.choices):
        raise NoSuchSituation(f"There is no choice {choice} in a situation called {key!r}.")
    chosen = situation.choices[choice]
    plan = base_plan(situation)
    after = outcome(with_edits(plan, chosen.edits)) if chosen.edits else None
    return Answered(right=chosen.right, explains=chosen.explains, before=outcome(plan), after=after)


def outcome(plan: Plan) -> Outcome:
    """What the engine says of a plan, in worst and best weather."""
    return CACHE.ask(("practise", plan.model_dump_json()), lambda: _outcome(plan))


def _outcome(plan: Plan) -> Outcome:
    report = report_plan(plan, advice=False, odds="full")
    assert report.odds is not None
    lines = []
    for sky in EXTREMES:
        series = report_plan(plan, advice=False, sky=sky).series
        assert series is not None
        every = max(len(series.level_percent) // POINTS, 1)
        weather = "dull" if sky == "worst" else "bright"
        lines.append(Line(weather=weather, level_percent=series.level_percent[::every]))
    total = report.total
    sums = [f"{source.name} brings {source.taken}" for source in total.sources]
    sums += [f"what runs takes {total.used}", f"the difference is {total.net}"]
    return Outcome(
        lasts_percent=report.odds.lasts_percent,
        floor_percent=plan.trip.floor_percent,
        headline=report.headline,
        lines=lines,
        sums=sums,
    )

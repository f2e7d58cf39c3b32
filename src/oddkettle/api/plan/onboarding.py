"""The home page's sentence: what it can be made of, the plan it tells, typed words."""

from __future__ import annotations

from typing import Annotated

from fastapi import APIRouter, Path, Query
from pydantic import BaseModel, Field

from oddkettle.api.problems import PROBLEMS
from oddkettle.plan import Plan
from oddkettle.shipped import EXAMPLES
from oddkettle.usecases.onboarding import answers, labels, stories, things
from oddkettle.usecases.onboarding.answers import BoxOffer, SmallChange, Told
from oddkettle.usecases.onboarding.grammar.read import MAX_TEXT, Reading, read_sentence
from oddkettle.usecases.onboarding.labels import LabelInSentence, SentenceLabel
from oddkettle.usecases.onboarding.of_plan import editing, telling
from oddkettle.usecases.onboarding.of_plan.editing import PlanSentence
from oddkettle.usecases.onboarding.sentence import Sentence
from oddkettle.usecases.onboarding.stories import Story, StoryGlance
from oddkettle.usecases.onboarding.things import Choices
from oddkettle.usecases.plans.plan_words import Piece, words_of
from oddkettle.usecases.plans.plans import OpenPlan
from oddkettle.usecases.process.clock import today

router = APIRouter(prefix="/api/sentence", tags=["sentence"], responses=PROBLEMS)


class Typed(BaseModel):
    """Typed words, and the sentence that they change."""

    text: Annotated[str, Field(max_length=MAX_TEXT)]
    base: Sentence


@router.get("/choices")
def choices() -> Choices:
    """Kinds of box and source, and things that run."""
    return things.choices()


@router.get("")
def begin(timezone: Annotated[str, Query(max_length=60)] = "UTC") -> Sentence:
    """The sentence to begin with."""
    return answers.begin_at(timezone, today())


@router.post("")
def tell(sentence: Sentence) -> Told:
    """The plan of a sentence, and its pieces."""
    return answers.tell(sentence)


@router.post("/read")
def read(typed: Typed) -> Reading:
    """A sentence from typed words."""
    return read_sentence(typed.text, typed.base, today())


@router.post("/label")
def label(asked: SentenceLabel) -> LabelInSentence:
    """A label's text into the sentence."""
    return labels.read_into(asked)


@router.post("/words")
def words(document: Plan) -> list[Piece]:
    """The sentence of a plan."""
    return words_of(document)


@router.post("/of")
def of_plan(document: Plan) -> Sentence:
    """What the pickers of a plan's sentence show."""
    return telling.sentence_of(document)


@router.post("/edit")
def edit_plan(asked: PlanSentence) -> Plan:
    """The plan with what was changed in its sentence, and nothing else."""
    return editing.edited(asked)


@router.post("/change")
def change(document: Plan) -> SmallChange:
    """The surest small change to a plan."""
    return answers.smallest_change(document)


@router.post("/boxes")
def boxes(sentence: Sentence) -> list[BoxOffer]:
    """Which boxes would do."""
    return answers.boxes_for(sentence)


@router.get("/stories")
def all_stories() -> list[Story]:
    """The sample boxes as short stories."""
    return stories.stories()


@router.get("/stories/{key}")
def story_glance(key: Annotated[str, Path(max_length=40)]) -> StoryGlance:
    """How a sample's trip goes."""
    return stories.story_glance(EXAMPLES, key)


@router.post("/stories/{key}", status_code=201)
def take_story(key: Annotated[str, Path(max_length=40)]) -> OpenPlan:
    """Put a sample among one's own plans."""
    return stories.take_story(EXAMPLES, key)

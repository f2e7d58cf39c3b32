"""Ways to charge a plan's box, changed as its sentence is."""

from __future__ import annotations

from typing import Any

from oddkettle.core.sources import SOURCE_KINDS
from oddkettle.plan.box import Box, SourceModel
from oddkettle.plan.sources.mains import MainsModel
from oddkettle.plan.sources.sun import SunModel
from oddkettle.plan.trip import Trip
from oddkettle.usecases.onboarding.chargers import CHARGERS, ChargerKind
from oddkettle.usecases.onboarding.of_plan.telling import size_in, sources_of
from oddkettle.usecases.onboarding.plan_of import MAINS_A, blocks_of
from oddkettle.usecases.onboarding.sentence import Charger, Sentence


class Charging:
    """A box and its trip while ways to charge are changed."""

    def __init__(self, box: Box, trip: Trip, sentence: Sentence) -> None:
        self.box, self.trip, self.sentence = box, trip, sentence

    def change(self, before: list[Charger], after: list[Charger]) -> None:
        """Only ways that differ are touched."""
        had = {one.kind: one for one in before}
        has = {one.kind: one for one in after}
        for key in (had.keys() - has.keys()) & CHARGERS.keys():
            self._put_away(CHARGERS[key])
        for key, new in has.items():
            if key not in CHARGERS:
                continue
            old = had.get(key)
            if old == new:
                continue
            if old is None:
                self._put_in(CHARGERS[key], new)
            elif old.size != new.size:
                self._resize(CHARGERS[key], new.size)
            if old is None or (old.every, old.minutes) != (new.every, new.minutes):
                self._schedule(CHARGERS[key], new)

    def _set(self, group: str, sources: list[Any]) -> None:
        self.box = self.box.model_copy(update={group: sources})

    def _put_away(self, kind: ChargerKind) -> None:
        """It stays in the plan and does nothing: its figures are there when it comes back."""
        sources = getattr(self.box, kind.source)
        self._set(kind.source, [_switched(one, kind, on=False) for one in sources])

    def _put_in(self, kind: ChargerKind, new: Charger) -> None:
        sources = list(getattr(self.box, kind.source))
        back = [_switched(one, kind, on=True) for one in sources]
        if back != sources and size_in(kind, self.box.model_copy(update={kind.source: back})) > 0:
            self._set(kind.source, back)
            return
        taken = {source.id for source in sources_of(self.box)}
        n = next(n for n in range(1, len(taken) + 2) if f"{kind.key}{n}" not in taken)
        self._set(kind.source, [*sources, kind.part(new, f"{kind.key}{n}", self.sentence)])
        through = SOURCE_KINDS[kind.source].through
        if through == "mains" and not any(source.on for source in self.box.mains):
            own = MainsModel(id=f"{kind.key}{n}-mains", name="Mains charger", limit_a=MAINS_A)
            self._set("mains", [*self.box.mains, own])

    def _resize(self, kind: ChargerKind, size: float) -> None:
        now = size_in(kind, self.box)
        if now <= 0:
            return
        times = size / now
        self._set(
            kind.source,
            [
                _scaled(one, kind, times) if one.on and kind.is_of(one) else one
                for one in getattr(self.box, kind.source)
            ],
        )

    def _schedule(self, kind: ChargerKind, new: Charger) -> None:
        """What is done on certain days is done anew; a kind that needs nothing done is not."""
        if kind.block is None or self.trip.kind == "standby":
            return
        others = [block for block in self.trip.blocks if block.kind != kind.block]
        taken = {block.id for block in others}
        blocks = [b for b in blocks_of(new, 0, len(self.trip.days)) if b.id not in taken]
        self.trip = self.trip.model_copy(update={"blocks": [*others, *blocks]})


def _switched(source: SourceModel, kind: ChargerKind, *, on: bool) -> SourceModel:
    if not kind.is_of(source):
        return source
    if kind.portable is None or not isinstance(source, SunModel):
        return source.model_copy(update={"on": on})
    panels = [
        panel.model_copy(update={"on": on}) if panel.portable == kind.portable else panel
        for panel in source.panels
    ]
    own = any(panel.portable == kind.portable for panel in source.panels)
    some = any(panel.on for panel in panels)
    return source.model_copy(update={"panels": panels, "on": some and (source.on or (own and on))})


def _scaled(source: SourceModel, kind: ChargerKind, times: float) -> SourceModel:
    if not isinstance(source, SunModel):
        rated = float(getattr(source, kind.rated) or kind.usual)
        return source.model_copy(update={kind.rated: round(rated * times, 2)})
    panels = [
        # The plate was that of the old one.
        panel.model_copy(update={"power_w": round(panel.power_w * times, 1), "label": None})
        if panel.on and panel.portable == kind.portable
        else panel
        for panel in source.panels
    ]
    return source.model_copy(update={"panels": panels})

"""The cheapest mend: the least bother, over combinations of changes, that makes a plan sure.

A beam search, coarse first: every move is tried alone on a few scenarios; then the states that
miss least for their bother are built on, move by move, and one that is sure bounds all others. What
it finds is checked on all scenarios, and trimmed: a move that is not needed, or needed less of, is
taken back. The same scenarios meet every state, so that two can be compared.
"""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from itertools import combinations
from typing import Literal

from pydantic import ConfigDict, Field, ValidationError

from oddkettle.core.simulation.ensemble import Ensemble
from oddkettle.core.simulation.ensemble_statistics import hours_short
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.plan.quantities import LazyModel, Part, SurePercent
from oddkettle.results.judgements import Edit
from oddkettle.usecases.improve.moves import Bother, Move, moves_of
from oddkettle.usecases.improve.weigh import tightest_day
from oddkettle.usecases.simulate.run_cache import ensemble_of

COARSE, FINE = 48, 200
"""Scenarios of a first look and of the check."""
BEAM, WIDE, DEPTH = 10, 16, 4
"""States that are kept, moves that each is built on with, and moves a state has at most."""
MAX_TRIED = 450
ANSWERS, NEARLY = 3, 1.35
"""Answers that are told, and how much more bother than the best one they may be."""
SWAPS, SWAP_LOOKS, NEAR_SURE = 2, 60, 0.06
"""Rounds of swaps, first looks in each, and how far from sure a first look may be."""
DARK_WEIGHT = 4.0
"""An hour cut out counts as so many under the reserve."""

Run = Callable[[Plan, int], Ensemble]


class MendAsked(Part):
    """How sure it is to be, what each change costs, and what is never touched."""

    model_config = ConfigDict(defer_build=False)

    sure_percent: SurePercent = 90
    bother: Bother = Bother()
    never: list[str] = Field(default=[], max_length=100)
    """Slots, or kinds of them: "drive", "hookup", "appliance:laptop"."""
    shop: bool = False
    """Whether parts may be bought too."""


class Mend(LazyModel):
    """One combination of changes."""

    steps: list[str]
    bother: float
    lasts_percent: float
    bought: bool
    paid: bool
    """Whether any of its steps costs money; fuel is not counted."""
    edits: list[Edit]


class MendProgress(LazyModel):
    """How far the search is."""

    kind: Literal["progress"] = "progress"
    tried: int
    of: int
    best_percent: float


class Mended(LazyModel):
    """What the search found."""

    kind: Literal["mended"] = "mended"
    now_percent: float
    sure_percent: float
    reached: bool
    mends: list[Mend]
    """The least bother first; where nothing suffices, the best there is."""
    single: Mend | None
    """The single change with the least bother that suffices alone, for comparison."""
    tried: int
    text: str


@dataclass(frozen=True)
class _State:
    moves: tuple[Move, ...]
    lasts: float
    missing: float

    @property
    def bother(self) -> float:
        return sum(move.bother for move in self.moves)

    @property
    def slots(self) -> set[str]:
        return {move.slot for move in self.moves}


def mend(plan: Plan, asked: MendAsked) -> Iterator[MendProgress | Mended]:
    """Search the whole trip. Raises PlanRefused."""
    return mend_by(plan, asked, _whole, (0, 0))


def _whole(plan: Plan, count: int) -> Ensemble:
    """The whole trip; a first look at coarser steps than the check."""
    if count == COARSE:
        return ensemble_of(plan, count, drag=True)
    return ensemble_of(plan, count, quick=True)


def mend_by(
    plan: Plan, asked: MendAsked, run: Run, after: tuple[int, int]
) -> Iterator[MendProgress | Mended]:
    """Search with what `run` gives for a variant and a number of scenarios."""
    search = _Search(plan, asked, run, after)
    yield from search.look()
    yield search.answer()


class _Search:
    """One search: the states that were tried, and the sure ones among them."""

    def __init__(self, plan: Plan, asked: MendAsked, run: Run, after: tuple[int, int]) -> None:
        self.plan, self.asked, self.run = plan, asked, run
        self.goal = asked.sure_percent / 100
        self.tried = 0
        fine = run(plan, FINE)
        self.now = float(fine.lasts.mean())
        self.moves = moves_of(
            plan,
            tightest_day(fine),
            asked.bother,
            frozenset(asked.never),
            shop=asked.shop,
            after=after,
        )
        self.base = self._state((), run(plan, COARSE))
        self.sure: list[_State] = []
        self.useful: list[_State] = []
        self.best = self.base

    def look(self) -> Iterator[MendProgress]:
        """Try moves alone, then built on one another, until nothing cheaper can be found."""
        if self.now >= self.goal:
            return
        singles = []
        for move in sorted(self.moves, key=lambda move: move.bother):
            state = self._try((move,))
            if state is not None:
                singles.append(state)
            if self.tried % 8 == 0:
                yield self._progress()
        self.useful = useful = self._two_a_slot(
            [s for s in singles if s.missing < self.base.missing - 1e-6]
        )
        beam = self._kept(useful)
        for _ in range(DEPTH - 1):
            wider: list[_State] = []
            for state in beam:
                for other in self._next_to(state, useful):
                    if self.tried >= MAX_TRIED:
                        break
                    found = self._try((*state.moves, *other.moves))
                    if found is not None and found.missing < state.missing - 1e-6:
                        wider.append(found)
                    if self.tried % 8 == 0:
                        yield self._progress()
            wider = [s for s in wider if s.lasts < self.goal and s.bother < self._bound()]
            unique = {frozenset(m.text for m in s.moves): s for s in wider}
            beam = self._kept(list(unique.values()))
        yield self._progress()

    def _two_a_slot(self, states: list[_State]) -> list[_State]:
        """Of each slot the move that is worth most for its bother, and the one that does most.

        Between them lies what trimming finds.
        """
        slots: dict[str, list[_State]] = {}
        for state in states:
            slots.setdefault(state.moves[0].slot, []).append(state)
        found: list[_State] = []
        for of_slot in slots.values():
            most = min(of_slot, key=lambda state: state.missing)
            worth = max(of_slot, key=self._worth)
            found += [most] if most is worth else [worth, most]
        return sorted(found, key=self._worth, reverse=True)

    def _kept(self, states: list[_State]) -> list[_State]:
        """Half of the beam for the least bother in the end, half for what misses least by now.

        The first alone would go on with moves that are too small to get there in so few.
        """
        frugal = sorted(states, key=self._promise)[: BEAM // 2]
        bold = sorted((s for s in states if s not in frugal), key=lambda s: s.missing)
        return frugal + bold[: BEAM - len(frugal)]

    def _next_to(self, state: _State, useful: list[_State]) -> list[_State]:
        bound = self._bound()
        fits = [
            other
            for other in useful
            if other.moves[0].slot not in state.slots and state.bother + other.bother < bound
        ]
        return fits[:WIDE]

    def _bound(self) -> float:
        return min((s.bother for s in self.sure), default=float("inf")) * NEARLY

    def _worth(self, state: _State) -> float:
        return (self.base.missing - state.missing) / max(state.bother, 1.0)

    def _promise(self, state: _State) -> float:
        """Bother that such a state comes to, if it goes on to mend at the pace it has."""
        pace = (self.base.missing - state.missing) / max(state.bother, 1.0)
        return state.bother + state.missing / max(pace, 1e-9)

    def _try(self, moves: tuple[Move, ...], count: int = COARSE) -> _State | None:
        plan = self.plan
        try:
            for move in moves:
                plan = move.make(plan)
            self.tried += 1
            state = self._state(moves, self.run(plan, count))
        except (PlanRefused, ValidationError):
            return None
        if count == COARSE:
            if state.lasts >= self.goal:
                self.sure.append(state)
            if (state.lasts, -state.missing) > (self.best.lasts, -self.best.missing):
                self.best = state
        return state

    def _state(self, moves: tuple[Move, ...], ensemble: Ensemble) -> _State:
        dark_h, under_h = hours_short(ensemble)
        return _State(moves, float(ensemble.lasts.mean()), under_h + DARK_WEIGHT * dark_h)

    def _progress(self) -> MendProgress:
        best = max(self.best.lasts, max((s.lasts for s in self.sure), default=0.0))
        return MendProgress(tried=self.tried, of=MAX_TRIED, best_percent=100 * best)

    def answer(self) -> Mended:
        """The cheapest states, checked on all scenarios and trimmed."""
        goal = self.asked.sure_percent
        if self.now >= self.goal:
            return self._told([], True, None, f"It is {goal:g} % sure as it is.")
        checked: list[_State] = []
        for state in sorted(self.sure, key=lambda state: state.bother)[: 6 * ANSWERS]:
            if checked and state.bother > NEARLY * checked[0].bother:
                break
            fine = self._fine(state)
            if fine is not None and fine.lasts >= self.goal:
                trimmed = self._trimmed(fine)
                if all(trimmed.slots != other.slots for other in checked):
                    checked.append(trimmed)
                    checked.sort(key=lambda state: state.bother)
            if len(checked) >= ANSWERS:
                break
        if checked:
            checked = self._with_swapped(checked)
        singles = sorted((s for s in self.sure if len(s.moves) == 1), key=lambda s: s.bother)
        single = next((f for s in singles if (f := self._fine(s)) and f.lasts >= self.goal), None)
        if not checked:
            best = self._fine(self.best) or self.best
            return self._told([best], False, None, self._not_enough(best))
        mends = [s for s in checked if s.bother <= NEARLY * checked[0].bother]
        return self._told(mends, True, single, _in_words(mends[0], single))

    def _fine(self, state: _State) -> _State | None:
        return self._try(state.moves, FINE)

    def _trimmed(self, state: _State) -> _State:
        """Without what is not needed, and with less of what is."""
        changed = True
        while changed:
            changed = False
            for n, move in enumerate(state.moves):
                less = [m for m in self.moves if m.slot == move.slot and m.bother < move.bother]
                smaller = [state.moves[:n] + state.moves[n + 1 :]]
                smaller += [
                    (*state.moves[:n], m, *state.moves[n + 1 :])
                    for m in sorted(less, key=lambda m: m.bother)
                ]
                for moves in smaller:
                    found = self._try(moves, FINE) if moves else None
                    if found is not None and found.lasts >= self.goal:
                        state, changed = found, True
                        break
                if changed:
                    break
        return state

    def _with_swapped(self, checked: list[_State]) -> list[_State]:
        """With what comes of the best answer when one or two of its moves give way to another."""
        best = checked[0]
        for _ in range(SWAPS):
            better = self._swapped(best)
            if better is None:
                break
            best = self._trimmed(better)
        others = [state for state in checked if state.slots != best.slots]
        return sorted([best, *others], key=lambda state: state.bother)[:ANSWERS]

    def _swapped(self, state: _State) -> _State | None:
        """A cheaper sure state, one or two moves away; None where none is near."""
        count, cheap = len(state.moves), self._cheap()
        kept = [
            c
            for size in (count - 1, count - 2)
            if size >= 0
            for c in combinations(state.moves, size)
        ]
        tries = sorted(
            (
                (sum(m.bother for m in moves), moves)
                for rest in kept
                for adds in ((), *((m,) for m in cheap), *combinations(cheap, 2))
                if (moves := (*rest, *adds)) and len({m.slot for m in moves}) == len(moves)
            ),
            key=lambda pair: -pair[0],
        )
        looked = 0
        for bother, moves in tries:
            if bother >= state.bother - 1e-9:
                continue
            if looked >= SWAP_LOOKS:
                return None
            looked += 1
            coarse = self._try(moves)
            if coarse is None or coarse.lasts < self.goal - NEAR_SURE:
                continue
            fine = self._try(moves, FINE)
            if fine is not None and fine.lasts >= self.goal:
                return fine
        return None

    def _cheap(self) -> list[Move]:
        """Every move of the slots that help."""
        slots = {state.moves[0].slot for state in self.useful[:WIDE]}
        return [move for move in self.moves if move.slot in slots]

    def _not_enough(self, best: _State) -> str:
        sure = f"{self.asked.sure_percent:g} % sure"
        if not best.moves:
            return f"Nothing here makes it {sure}."
        text = f"Nothing here makes it {sure}. The best reaches {100 * best.lasts:.0f} of 100."
        return text if self.asked.shop else f"{text} A larger part may: allow a shop."

    def _told(
        self, states: list[_State], reached: bool, single: _State | None, text: str
    ) -> Mended:
        return Mended(
            now_percent=100 * self.now,
            sure_percent=self.asked.sure_percent,
            reached=reached,
            mends=[self._mend(state) for state in states if state.moves],
            single=None if single is None else self._mend(single),
            tried=self.tried,
            text=text,
        )

    def _mend(self, state: _State) -> Mend:
        plan = self.plan
        for move in state.moves:
            plan = move.make(plan)
        before, after = (p.model_dump(mode="json") for p in (self.plan, plan))
        return Mend(
            steps=[move.text for move in state.moves],
            bother=state.bother,
            lasts_percent=100 * state.lasts,
            bought=any(move.bought for move in state.moves),
            paid=any(move.paid for move in state.moves),
            edits=[
                Edit(path=[part], value=after[part])
                for part in ("use", "box", "trip")
                if before[part] != after[part]
            ],
        )


def _in_words(best: _State, single: _State | None) -> str:
    steps = [move.text[0].lower() + move.text[1:] for move in best.moves]
    what = steps[0] if len(steps) == 1 else f"{', '.join(steps[:-1])} and {steps[-1]}"
    text = f"The easiest fix: {what}"
    if single is None and len(best.moves) > 1:
        return f"{text}. No single change is enough."
    if single is not None and single.bother > best.bother:
        saves = 100 * (1 - best.bother / single.bother)
        return f"{text}. That is {saves:.0f} % less effort than the best single change."
    return f"{text}."

"""How the odds were made: how many scenarios, what differs between them, and which ones fail."""

from __future__ import annotations

import numpy as np

from oddkettle.core.simulation.ensemble import Ensemble
from oddkettle.core.simulation.ensemble_statistics import (
    CLEAR_SIGMAS,
    FEWEST_CHANGED,
    Difference,
    quantiles,
    share_of,
)
from oddkettle.core.simulation.given import KINDS
from oddkettle.core.simulation.scenarios import panel_sd
from oddkettle.core.trip.blocks import BLOCKS, MAX_STRAY_SHARE, STRAYS_H
from oddkettle.core.weather.weather_generator import HOLDS, HOLDS_BEYOND, PERSISTENCE
from oddkettle.results.sums import Constant, Sum, figure_line

FITTED = "fitted on 21 measured weather series from 14 places"
JUDGED = "judgement"
NOBODY_TOLD = "nobody told its age: say it on the Box page"
SAID_AND_CAME = ((4, 2), (28, 29), (49, 48), (71, 75), (95, 96))
DARKEST = ((5, 1), (29, 12), (51, 28), (70, 49), (93, 87))
"""The row of docs/calibration.md of the years that chose no constant, and one satellite's:
times of 100 that boxes were said to last, and that they did (`bench/calibration.py`)."""


def _row(pairs: tuple[tuple[int, int], ...]) -> str:
    said, came = (", ".join(str(one) for one in line) for line in zip(*pairs, strict=True))
    return f"said {said} times of 100; came {came}"


TRIED = (
    "Tried on real and typical years that chose nothing here, foreseen by the climate of the "
    "place alone: boxes that "
    f"were {_row(SAID_AND_CAME)}. In the darkest year, a satellite's of Europe, it was worse: "
    f"{_row(DARKEST)}."
)


def odds_sum(ensemble: Ensemble, day: int | None, when: str) -> Sum:
    """The chance of lasting the trip, or of staying above the floor on one day."""
    case, count = ensemble.case, ensemble.scenarios.count
    dark = ensemble.dark_h > 0.0
    low = ensemble.lowest if day is None else ensemble.lowest_by_day[:, day]
    under = np.asarray(ensemble.under.any(axis=1) if day is None else ensemble.under_by_day[:, day])
    cut = dark.any(axis=1) if day is None else dark[:, day]
    fine = ~(under | cut)
    share = share_of(fine)
    worst, middle, best = quantiles(100 * low)
    reserve = f"go under your reserve of {100 * case.floor:.0f} %"
    lines = [
        figure_line("trips tried", str(count)),
        figure_line(reserve, str(int(under.sum())), "-"),
        figure_line("cut out without that", str(int((cut & ~under).sum())), "-"),
        figure_line("come through", str(int(fine.sum())), "="),
        figure_line(
            "of all",
            f"{100 * share.share:.0f} %",
            "=",
            f"give or take {200 * share.error:.0f} points, for their number alone",
        ),
        figure_line("lowest level in the worst of ten, at best", f"{worst:.0f} %"),
        figure_line("in a usual one", f"{middle:.0f} %"),
        figure_line("in the best of ten, at least", f"{best:.0f} %"),
    ]
    if case.shed:
        shed = ensemble.shed_h.sum(axis=1) if day is None else ensemble.shed_h[:, day]
        lines.append(
            figure_line(
                "something is switched off by level",
                f"{float(shed.mean()):.1f} h",
                "",
                f"on average; in {100 * float((shed > 0).mean()):.0f} % of the trips",
            )
        )
    return Sum(
        title=f"How often it lasts, {when}",
        text="Each trip is a whole run of this plan with weather, warmth and luck of its own. "
        "The same weather meets every variant of a plan, so that two can be compared. "
        f"{TRIED}",
        lines=lines,
        constants=_constants(ensemble),
    )


def change_sum(text: str, tried: Ensemble, base: Ensemble, gained: Difference) -> Sum:
    """What a change of the plan buys over the scenarios that both meet."""
    count = base.scenarios.count
    changed = gained.gained + gained.lost
    worst = f"{100 * quantiles(base.lowest)[0]:.0f} %"
    lines = [
        figure_line("trips that both meet", str(count)),
        figure_line("come through as it is", str(int(base.lasts.sum()))),
        figure_line("come through only with the change", str(gained.gained), "+"),
        figure_line("come through only without it", str(gained.lost), "-"),
        figure_line("come through with it", str(int(tried.lasts.sum())), "="),
        figure_line("of all", f"{100 * float(tried.lasts.mean()):.0f} %", "="),
        figure_line(
            "luck alone may part the two by",
            f"{CLEAR_SIGMAS * changed**0.5:.0f}",
            "",
            f"{CLEAR_SIGMAS:g} times the root of the {changed} that treat them unlike",
        ),
        figure_line("lowest level in the worst of ten, as it is", worst),
        figure_line("and with it", f"{100 * quantiles(tried.lowest)[0]:.0f} %"),
    ]
    test = Constant(
        text="more than luck from",
        value=f"{CLEAR_SIGMAS:g} standard errors and {FEWEST_CHANGED} trips on",
        source="McNemar's test of pairs [textbook]",
    )
    return Sum(
        title=text,
        text="Only trips that one of the two comes through and the other does not tell them "
        "apart, for weather, warmth and luck are the same.",
        lines=lines,
        constants=[test, *_constants(base)],
    )


def _constants(ensemble: Ensemble) -> list[Constant]:
    case = ensemble.case
    doubt = case.doubt
    guesses = [a.spread for a in case.appliances if a.spread > 0.0]
    found = [
        Constant(
            text="the weather is named by", value=f"seed {doubt.seed}", source="your assumptions"
        ),
        Constant(
            text="a word said of a day holds",
            value=f"{100 * HOLDS[0][1]:.0f} % at first, {100 * HOLDS_BEYOND:.0f} % past day 10",
            source=JUDGED,
        ),
        Constant(
            text="how settled the weather is", value=f"{doubt.settled:g}", source="your climate"
        ),
        Constant(
            text="a dull day follows a dull one", value=f"{PERSISTENCE:g} of the way", source=FITTED
        ),
        Constant(
            text="the place's mean light is unsure by",
            value=f"{100 * doubt.place:.0f} % of a clear day",
            source=FITTED,
        ),
        Constant(
            text="start level",
            value=f"give or take {100 * doubt.start:.0f} points",
            source="your assumptions",
        ),
        Constant(
            text="the battery holds",
            value=f"{100 * case.content:.0f} % of its label, give or take "
            f"{100 * doubt.capacity:.0f}",
            source="its age, on the Box page" if doubt.capacity_told else NOBODY_TOLD,
        ),
        Constant(
            text="panels",
            value=f"give or take {100 * panel_sd(case):.0f} %",
            source="your assumptions, and how folding ones are put out",
        ),
    ]
    if case.bank.chemistry.lead:
        share = 100 * case.bank.chemistry.acceptance_sd
        found.append(
            Constant(
                text="how fast lead takes its last charge",
                value=f"give or take {share:.0f} %",
                source=f"{JUDGED}: no public measurement tells it",
            )
        )
    kinds = sorted({block.kind for block in case.blocks} & set(KINDS))
    if kinds:
        found.append(
            Constant(
                text="drives, hook-ups and the like stray",
                value=f"{60 * STRAYS_H:.0f} min either way, by {100 * MAX_STRAY_SHARE:.0f} % of "
                "theirs at the most",
                source=JUDGED,
            )
        )
    found += [
        Constant(
            text=f"{BLOCKS[kind].does}: nothing comes of it",
            value=f"once in {1 / BLOCKS[kind].fails:.0f}",
            source=JUDGED,
        )
        for kind in kinds
        if BLOCKS[kind].fails > 0.0
    ]
    if guesses:
        found.append(
            Constant(
                text=f"{len(guesses)} guessed appliances",
                value=f"each off by up to {100 * max(guesses):.0f} %",
                source="your Use page",
            )
        )
    return found

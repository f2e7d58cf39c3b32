"""Judgements about heat and frost in a battery, charging and at rest."""

from __future__ import annotations

from collections.abc import Iterator

import numpy as np

from oddkettle.core.judgement.evidence import Evidence, Judgement, Number, hours
from oddkettle.core.units.quantity import celsius

HOT_LITHIUM_C, HOT_LEAD_C = 45.0, 50.0
"""Above so much makers of most batteries bar charging [datasheets]."""
HALVES_K = 10.0
"""Life halves with so much more warmth [Arrhenius; textbook]."""
FREEZES = ((0.0, -9.0), (0.25, -16.0), (0.5, -25.0), (0.75, -37.0), (1.0, -60.0))
"""(level, temperature at which the acid of a lead battery freezes [C]) [battery handbooks]."""
COLD_DISCHARGE_C = -20.0
"""Below so much makers of lithium batteries bar discharge, or their systems do [datasheets]."""
SOON_H = 0.25
"""What is shorter is not spoken of."""


def charge_hot(evidence: Evidence) -> Iterator[Judgement]:
    """It is charged while it is hotter than its makers allow."""
    run = evidence.run
    chemistry = run.case.bank.chemistry
    limit = HOT_LEAD_C if chemistry.lead else HOT_LITHIUM_C
    warm = run.track.battery_c[:-1, 0]
    hot = (warm > limit) & (run.taken_a.sum(axis=0) > 0.0)
    if hours(hot, run) < SOON_H:
        return
    most = float(warm[hot].max())
    share = 2.0 ** ((float(warm[hot].mean()) - 25.0) / HALVES_K)
    yield Judgement(
        code="charge-hot",
        severity="fault",
        part="warmth",
        text=f"For {hours(hot, run):.1f} h it is charged at up to {celsius(most)}; makers bar it "
        f"above {celsius(limit)}.",
        means=f"It swells and ages: about {share:.0f} times as fast as at {celsius(25)}. Its "
        "management system may switch it off.",
        remedy="Shade and air its place, move it out of the sun, or stop charging at midday.",
        source="charging temperatures of data sheets; life halves each 10 K [textbook]",
        numbers=(Number("hottest", most, "C"), Number("hours", hours(hot, run), "h")),
    )


def lead_freezes(evidence: Evidence) -> Iterator[Judgement]:
    """The acid of a lead battery freezes at the level that it has in the cold."""
    run = evidence.run
    if not run.case.bank.chemistry.lead:
        return
    level, freezes = zip(*FREEZES, strict=True)
    cold = run.track.battery_c[:, 0]
    spare = cold - np.interp(run.level, level, freezes)
    worst = int(spare.argmin())
    if spare[worst] >= 0.0:
        return
    safe = float(np.interp(cold[worst], freezes[::-1], level[::-1]))
    yield Judgement(
        code="lead-freezes",
        severity="danger",
        part="battery",
        text=f"At {100 * max(run.level[worst], 0.0):.0f} % and {celsius(cold[worst])} its acid "
        "freezes.",
        means="Ice cracks its case and lets the acid out; charged frozen it may burst.",
        remedy=f"Keep it above {100 * safe:.0f} % in such cold, or take it indoors. Never charge "
        "one that was frozen.",
        source="freezing of acid by state of charge [battery handbooks]",
        numbers=(
            Number("level", 100 * max(float(run.level[worst]), 0.0), "%"),
            Number("temperature", float(cold[worst]), "C"),
        ),
    )


def discharge_cold(evidence: Evidence) -> Iterator[Judgement]:
    """A lithium battery is used in frost in which its makers bar discharge too."""
    run = evidence.run
    if run.case.bank.chemistry.lead:
        return
    limit = min(COLD_DISCHARGE_C, run.case.bank.chemistry.cold.barred_below_c)
    cold = run.track.battery_c[:-1, 0] < limit
    frozen = hours(cold, run)
    if frozen < SOON_H:
        return
    yield Judgement(
        code="discharge-cold",
        severity="fault",
        part="warmth",
        text=f"For {frozen:.0f} h the battery is below {celsius(limit)}.",
        means="Most management systems switch it off then, and what hangs on it goes dark.",
        remedy="Indoors, insulated, or with pads.",
        source="discharge temperatures of data sheets",
        numbers=(Number("hours", frozen, "h"),),
    )


RULES = (charge_hot, lead_freezes, discharge_cold)

"""What a battery still holds of its label, by its age: one prior for whoever asks.

The plan, the odds, endurance, the sentence, the changes that are offered and the tracker all start
from it, so that none of them is more hopeful than another.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.battery.chemistry import Chemistry
from oddkettle.core.weather.weather_generator import UNTOLD_CONTENT

Floats = NDArray[np.float64]


class LabelShare(NamedTuple):
    """What a battery holds as a share of its label: mean and standard deviation, 0..1."""

    mean: float
    sd: float


UNTOLD = "unknown"
MEASURED = LabelShare(1.0, 0.04)
"""A capacity that was measured, where its own spread was not typed: a good monitor's
[judgement]."""
LITHIUM: dict[str, LabelShare] = {
    "new": LabelShare(0.98, 0.03),
    "years": LabelShare(0.88, 0.08),
    "old": LabelShare(0.75, 0.12),
    UNTOLD: LabelShare(*UNTOLD_CONTENT),
}
"""New as sheets guarantee it, some years and old by the calendar [judgement]."""
LEAD: dict[str, LabelShare] = {
    "new": LabelShare(0.97, 0.04),
    "years": LabelShare(0.82, 0.10),
    "old": LabelShare(0.65, 0.15),
    UNTOLD: LabelShare(0.90, 0.08),
}
"""Lead ages about twice as fast by the calendar and by cycles [judgement, from the lives in its
record]."""


def label_share(chemistry: Chemistry, age: str | None) -> LabelShare:
    """What a battery of this chemistry and age holds of its label; None is an age nobody told."""
    if age == "measured":
        return MEASURED
    return (LEAD if chemistry.lead else LITHIUM)[UNTOLD if age is None else age]


def level_from_shown(shown: Floats | float, content: Floats | float) -> Floats:
    """State of charge where a monitor shows `shown`; the battery holds `content` of its label.

    A monitor counts amp-hours below full and tells them as a share of the label; all 0..1.
    """
    return np.asarray(1.0 - (1.0 - shown) / content)

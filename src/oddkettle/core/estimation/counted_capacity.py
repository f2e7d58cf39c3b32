"""What a battery holds, from one slow discharge that was counted: the test an owner can do."""

from __future__ import annotations

from dataclasses import dataclass

from oddkettle.core.battery.bank import Bank
from oddkettle.core.messages.errors import PlanError
from oddkettle.core.simulation.run_metrics import level_from_rested_v

COUNTER_SHARE = 0.02
"""A shunt's counter is true to so much, calibrated as it comes [textbook]."""
EMPTY_LEVEL = 0.02
"""What is left when a battery is cut out under a slow load, at most [judgement]."""
HIGHEST_END = 0.6
"""A test that ends above this leaves the capacity wider than the label does; lead is to end at a
half, give or take the reading [judgement]."""
MIN_SHARE, MAX_SHARE = 0.2, 1.6


@dataclass(frozen=True)
class Capacity:
    """A bank's capacity [Ah], its doubt (middle four fifths), and between which levels it ran."""

    low_ah: float
    ah: float
    high_ah: float
    end_low: float
    end: float
    end_high: float

    @property
    def spread(self) -> float:
        """Half the band over the middle."""
        return (self.high_ah - self.low_ah) / (2.0 * self.ah)


def capacity_from_discharge(bank: Bank, drawn_ah: float, rested_v: float | None) -> Capacity:
    """A bank's capacity from `drawn_ah` since it was full [Ah].

    The discharge ended at rest at `rested_v` [V], or (None) when the battery cut out. Raises
    PlanError where it ended too full to tell, or where the figures contradict each other.
    """
    if rested_v is None:
        low, middle, high = 0.0, EMPTY_LEVEL / 2.0, EMPTY_LEVEL
    else:
        found = level_from_rested_v(bank, rested_v)
        low, middle, high = found.low, found.mid, found.high
    if middle > HIGHEST_END:
        raise PlanError(
            f"A rested {rested_v:.2f} V is still {100 * middle:.0f} % ({100 * low:.0f} to "
            f"{100 * high:.0f}): too full to tell the capacity.",
            where=("rested_v",),
            value=rested_v,
            limit=f"an end below {100 * HIGHEST_END:.0f} %",
            remedy="Go on discharging, down to about a fifth, and read both again.",
        )
    whole = drawn_ah / (1.0 - middle)
    share = whole / bank.capacity_ah
    if not MIN_SHARE <= share <= MAX_SHARE:
        raise PlanError(
            f"{drawn_ah:g} Ah down to {100 * middle:.0f} % would make {whole:.0f} Ah, "
            f"{100 * share:.0f} % of the label.",
            where=("drawn_ah",),
            value=drawn_ah,
            limit=f"{100 * MIN_SHARE:.0f} to {100 * MAX_SHARE:.0f} % of {bank.capacity_ah:g} Ah",
            remedy="Check that the counter was reset to zero at the full charge.",
        )
    return Capacity(
        low_ah=drawn_ah * (1.0 - COUNTER_SHARE) / (1.0 - low),
        ah=whole,
        high_ah=drawn_ah * (1.0 + COUNTER_SHARE) / (1.0 - high),
        end_low=low,
        end=middle,
        end_high=high,
    )

"""Mains chargers."""

from __future__ import annotations

from collections.abc import Iterator
from typing import ClassVar

from oddkettle.core.sources.mains import MainsCharger
from oddkettle.core.values.copying import copied
from oddkettle.plan import quantities as q
from oddkettle.plan.quantities import Key, Name, Part, Where
from oddkettle.plan.sources.profile import ProfileModel, profile_from


class MainsModel(Part):
    """A mains charger; a trickle charger is one with a small limit and one voltage."""

    group: ClassVar[str] = "mains"
    """Where such sources stand in a box."""

    id: Key
    name: Name
    limit_a: q.ChargerAmps
    efficiency_percent: q.EfficiencyPercent = 88
    supply_w: q.InputWatts | None = None
    """What the hook-up's breaker leaves for it."""
    noisy: bool = False
    profile: ProfileModel | None = None
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""

    @property
    def said(self) -> str:
        """What it is in the sentence of a plan."""
        return f"mains ({self.limit_a:g} A)"

    @classmethod
    def fresh(cls) -> Iterator[tuple[str, MainsModel]]:
        """What the menu adds, each under its name there. Its id is to be replaced."""
        yield "mains charger", cls(id="new", name="Mains charger", limit_a=10)
        gentle = ProfileModel(absorption_v=13.7, float_v=13.7)
        yield (
            "trickle charger",
            cls(id="new", name="Trickle charger", limit_a=1, efficiency_percent=80, profile=gentle),
        )

    def to_core(self, where: Where, system_v: float) -> MainsCharger:
        """A mains charger. Raises PlanError."""
        return mains_from(self, where)


def mains_from(model: MainsModel, where: Where) -> MainsCharger:
    """A mains charger."""
    return copied(
        MainsCharger,
        model,
        key=model.id,
        efficiency=model.efficiency_percent / 100,
        profile=profile_from(model.profile, where),
    )

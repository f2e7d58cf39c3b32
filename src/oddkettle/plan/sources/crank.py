"""A generator turned by hand or trodden."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, ClassVar

from oddkettle.core.sources.crank import Crank
from oddkettle.core.values.copying import copied
from oddkettle.plan import quantities as q
from oddkettle.plan.quantities import Key, Name, Part, Where, measure
from oddkettle.plan.sources.profile import ProfileModel, profile_from

CrankWatts = Annotated[float, measure("W", 2, 400)]


class CrankModel(Part):
    """A hand crank or a treadle; it works in its blocks."""

    group: ClassVar[str] = "crank"
    """Where such sources stand in a box."""

    id: Key
    name: Name
    power_w: CrankWatts = 30
    """What somebody turns into it for as long as it stands on the day board."""
    efficiency_percent: q.EfficiencyPercent = 60
    """Of its generator and charger together."""
    limit_a: q.ChargerAmps = 5
    noisy: bool = False
    """Quiet hours keep it still."""
    profile: ProfileModel | None = None
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""

    @property
    def said(self) -> str:
        """What it is in the sentence of a plan."""
        return "a hand crank"

    @classmethod
    def fresh(cls) -> Iterator[tuple[str, CrankModel]]:
        """What the menu adds, each under its name there. Its id is to be replaced."""
        yield "hand crank", cls(id="new", name="Hand crank")

    def to_core(self, where: Where, system_v: float) -> Crank:
        """What the core runs. Raises PlanError."""
        return copied(
            Crank,
            self,
            key=self.id,
            efficiency=self.efficiency_percent / 100,
            profile=profile_from(self.profile, where),
        )

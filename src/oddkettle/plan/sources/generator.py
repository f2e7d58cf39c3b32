"""A small fuel generator that feeds a mains charger of the box."""

from __future__ import annotations

from collections.abc import Iterator
from typing import Annotated, ClassVar, Literal

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.sources.generator import Generator
from oddkettle.plan.quantities import Key, Name, Part, Where, measure

GeneratorWatts = Annotated[float, measure("W", 100, 10000)]
LitresAnHour = Annotated[float, measure("l/h", 0.01, 10)]
Litres = Annotated[float, measure("l", 0.1, 100)]
Decibels = Annotated[float, measure("dB(A) at 7 m", 30, 100)]


class GeneratorModel(Part):
    """A fuel generator; it works in its blocks, through a mains charger of the box."""

    group: ClassVar[str] = "generator"
    """Where such sources stand in a box."""
    needs: ClassVar[str] = "mains"
    """It works through one of these."""

    id: Key
    name: Name
    rated_w: GeneratorWatts = 900
    """What it gives for hours, not for a moment."""
    feeds: Key | None = None
    """Which mains charger it feeds; the first that is there when absent."""
    idle_l_h: LitresAnHour = 0.18
    """Fuel an hour with nothing plugged in."""
    full_l_h: LitresAnHour = 0.55
    """Fuel an hour at full load."""
    tank_l: Litres = 2.1
    noise_db: Decibels = 58
    quiet_rule: bool = True
    """It is off in quiet hours."""
    stands: Literal["open", "near", "inside"] = "open"
    """In the open well away, near a door, window or tent, or inside something."""
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""

    @property
    def noisy(self) -> bool:
        """Whether quiet hours switch it off."""
        return self.quiet_rule

    @property
    def said(self) -> str:
        """What it is in the sentence of a plan."""
        return "a generator"

    @classmethod
    def fresh(cls) -> Iterator[tuple[str, GeneratorModel]]:
        """What the menu adds, each under its name there. Its id is to be replaced."""
        yield "fuel generator", cls(id="new", name="Generator")

    def to_core(self, where: Where, system_v: float) -> Generator:
        """What the core runs. Raises PlanError for fuel that falls with the load."""
        if self.full_l_h < self.idle_l_h:
            raise PlanError(
                f"{self.name} would burn {self.full_l_h:g} l/h at full load and "
                f"{self.idle_l_h:g} l/h with nothing plugged in.",
                where=(*where, "full_l_h"),
                value=self.full_l_h,
                limit=f"at least {self.idle_l_h:g} l/h",
                remedy="Take both from its sheet; full load burns more.",
            )
        return Generator(
            key=self.id,
            name=self.name,
            rated_w=self.rated_w,
            feeds=self.feeds,
            idle_l_h=self.idle_l_h,
            full_l_h=self.full_l_h,
            tank_l=self.tank_l,
            noise_db=self.noise_db,
            noisy=self.quiet_rule,
            stands=self.stands,
        )

"""Panels and their controllers."""

from __future__ import annotations

from collections.abc import Iterator
from typing import ClassVar, Literal

from pydantic import Field

from oddkettle.core.sources.panel import Label, Panel, check_label
from oddkettle.core.sources.solar import Controller, Shade, SunInput, check_array
from oddkettle.core.units.conversion import CLASS_V, MINUTES_PER_DAY, cable_ohm
from oddkettle.core.values.copying import copied
from oddkettle.plan import quantities as q
from oddkettle.plan.quantities import Key, Name, Part, Where, clock_minutes
from oddkettle.plan.sources.profile import ProfileModel, profile_from
from oddkettle.plan.use import Hours
from oddkettle.text.words import article


class PanelLabelModel(Part):
    """The electrical figures of a panel's label, at standard test conditions."""

    voc_v: q.LabelVolts
    vmp_v: q.LabelVolts
    isc_a: q.PanelAmps
    imp_a: q.PanelAmps
    voc_percent_per_k: q.CoefficientPercent = -0.29
    power_percent_per_k: q.CoefficientPercent = -0.35
    fuse_max_a: q.FuseAmps | None = None
    """Largest fuse allowed in its string, where the label says one."""


class PanelModel(Part):
    """One panel, or several that lie alike."""

    id: Key
    name: Name
    power_w: q.PanelWatts
    """Of one panel."""
    count: q.PanelCount = 1
    mount: Literal["flat", "tilted", "aimed"] = "flat"
    tilt_deg: q.Tilt = 35
    azimuth_deg: q.Azimuth = 180
    aims: q.Aims = 3
    """How often a day an aimed panel is turned to the sun."""
    portable: bool = False
    """A portable panel works only while it is put out, and never while driving."""
    own_regulator: bool = False
    """A regulator sits on its back and holds it near the battery's voltage."""
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""
    label: PanelLabelModel | None = None


class LoadOutputModel(Part):
    """A controller's own output for loads: it goes off before the battery is empty."""

    limit_a: q.ChargerAmps = 10
    off_v: q.ChargeVolts = 11.4
    """Below so much at the battery it switches them off."""
    on_v: q.ChargeVolts = 12.6
    """Above so much they come back."""
    appliances: list[Key] = Field(default=[], max_length=60)
    """What hangs on it; what the plan no longer has, or has on another supply, is not counted."""


class ControllerModel(Part):
    """A charge controller."""

    kind: Literal["tracking", "pwm", "none"] = "tracking"
    """None: the panel goes straight to the battery."""
    limit_a: q.ChargerAmps
    efficiency_percent: q.EfficiencyPercent = 96
    input_limit_w: q.InputWatts | None = None
    input_limit_v: q.InputVolts | None = None
    headroom_v: q.HeadroomVolts = 1
    """What a tracking one needs above the battery."""
    own_w: q.IdleWatts = 0
    """Drawn by itself, day and night."""
    load_output: LoadOutputModel | None = None


class ShadeModel(Part):
    """Daily hours in which something stands in the light."""

    hours: Hours
    loses_percent: q.SharePercent


class SunModel(Part):
    """Panels on one controller."""

    group: ClassVar[str] = "sun"
    """Where such sources stand in a box."""

    id: Key
    name: Name
    panels: list[PanelModel] = Field(min_length=1, max_length=12)
    controller: ControllerModel
    series: q.StringLength = 1
    """Panels in series in each string; the strings lie in parallel."""
    cable_m: q.CableMetres | None = None
    cable_mm2: q.CableArea = 4
    dirt_percent: q.SharePercent = 3
    """Light that dust on the panels takes."""
    shade: list[ShadeModel] = Field(default=[], max_length=6)
    noisy: bool = False
    profile: ProfileModel | None = None
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""

    @property
    def said(self) -> str:
        """What it is in the sentence of a plan; empty where no panel is there."""
        panels = [panel for panel in self.panels if panel.on]
        if not panels:
            return ""
        watts = sum(panel.power_w * panel.count for panel in panels)
        count = sum(panel.count for panel in panels)
        kinds = {panel.portable for panel in panels}
        if len(kinds) > 1:
            return f"{watts:g} W of panels"
        fixed = "fixed" if panels[0].mount == "tilted" else "roof"
        kind = "folding" if kinds == {True} else fixed
        size = f"{watts:g} W {kind} {'panel' if count == 1 else 'panels'}"
        return f"{article(size)} {size}" if count == 1 else size

    @classmethod
    def fresh(cls) -> Iterator[tuple[str, SunModel]]:
        """What the menu adds, each under its name there. Its id is to be replaced."""
        panel = PanelModel(id="new", name="Panel", power_w=100)
        controller = ControllerModel(limit_a=10)
        yield (
            "panel and controller",
            cls(id="new", name="Solar panel", panels=[panel], controller=controller),
        )

    def to_core(self, where: Where, system_v: float) -> SunInput | None:
        """The array, where it has a panel out. Raises PlanError."""
        if not any(panel.on for panel in self.panels):
            return None
        return sun_from(self, where, system_v)


def sun_from(array: SunModel, where: Where, system_v: float) -> SunInput:
    """An array with its controller on a box of `system_v`. Raises PlanError."""
    controller = array.controller
    found = copied(
        SunInput,
        array,
        key=array.id,
        panels=tuple(
            _panel(panel, (*where, "panels", place), system_v / array.series)
            for place, panel in enumerate(array.panels)
            if panel.on
        ),
        controller=copied(Controller, controller, efficiency=controller.efficiency_percent / 100),
        cable_ohm=0.0 if array.cable_m is None else cable_ohm(array.cable_m, array.cable_mm2),
        shade=tuple(
            Shade(
                clock_minutes(s.hours.start) % MINUTES_PER_DAY,
                clock_minutes(s.hours.end),
                s.loses_percent / 100,
            )
            for s in array.shade
        ),
        dirt=array.dirt_percent / 100,
        profile=profile_from(array.profile, where),
    )
    check_array(found, where)
    return found


def _panel(panel: PanelModel, where: Where, class_v: float) -> Panel:
    label = panel.label
    found = copied(
        Panel,
        panel,
        class_v=max(class_v, CLASS_V),
        label=None
        if label is None
        else Label(
            label.voc_v,
            label.vmp_v,
            label.isc_a,
            label.imp_a,
            label.voc_percent_per_k / 100,
            label.power_percent_per_k / 100,
            label.fuse_max_a,
        ),
    )
    check_label(found, (*where, "label"))
    return found

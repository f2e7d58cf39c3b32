"""Chargers and relays on the vehicle's alternator."""

from __future__ import annotations

from collections.abc import Iterator
from typing import ClassVar, Literal

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.sources.alternator import Alternator, Feed
from oddkettle.core.sources.dcdc import DcDc
from oddkettle.core.sources.relay import RELAY_FUSE_A, Relay
from oddkettle.core.values.copying import copied
from oddkettle.plan import quantities as q
from oddkettle.plan.quantities import Key, Name, Part, Where
from oddkettle.plan.sources.profile import ProfileModel, profile_from

SOCKET_FUSE_A = 10.0
"""What a vehicle's 12 V socket is usually fused for [textbook]."""


class AlternatorModel(Part):
    """What charges the vehicle's own battery."""

    rated_a: q.AlternatorAmps = 90
    idle_percent: q.SharePercent = 40
    """What it gives at idle, of its rating."""
    own_loads_a: q.OwnLoadAmps = 20
    """What the vehicle takes for itself."""
    volts: q.VehicleVolts = 14.2
    smart: bool = False
    """It lets its voltage fall once the starter battery is full."""
    smart_v: q.VehicleVolts = 12.5
    smart_after_min: q.WaitMinutes = 20


class FeedModel(Part):
    """The cable from the starter battery to the box."""

    length_m: q.CableMetres = 4
    area_mm2: q.CableArea = 10
    connectors_mohm: q.LinkMilliohms = 4


class VehicleModel(Part):
    """A DC-DC charger, a voltage-sensitive relay, or a charger behind a 12 V socket."""

    group: ClassVar[str] = "vehicle"
    """Where such sources stand in a box."""

    id: Key
    name: Name
    kind: Literal["dcdc", "relay", "socket"] = "dcdc"
    limit_a: q.ChargerAmps = 30
    """Largest output current; not for a relay."""
    efficiency_percent: q.EfficiencyPercent = 92
    half_current: bool = False
    ignition: bool = True
    """It has a trigger wire; otherwise it senses the voltage."""
    cut_in_v: q.VehicleVolts = 13.2
    cut_out_v: q.VehicleVolts = 11.5
    hot_from_c: q.Celsius = 45
    """Around it; above this it gives 3 % less a kelvin."""
    fuse_a: q.FuseAmps | None = None
    delay_min: q.WaitMinutes = 0
    """How long after each start the starter battery comes first."""
    forced: bool = False
    """A relay held closed by a switch lets current back into the vehicle."""
    alternator: AlternatorModel = AlternatorModel()
    feed: FeedModel = FeedModel()
    noisy: bool = False
    profile: ProfileModel | None = None
    on: bool = True
    """Whether it is there: one that is off stays in the plan and does nothing."""

    @property
    def said(self) -> str:
        """What it is in the sentence of a plan."""
        return {
            "dcdc": f"driving ({self.limit_a:g} A)",
            "socket": "the vehicle's 12 V socket",
            "relay": "a relay while driving",
        }[self.kind]

    @classmethod
    def fresh(cls) -> Iterator[tuple[str, VehicleModel]]:
        """What the menu adds, each under its name there. Its id is to be replaced."""
        yield "DC-DC charger", cls(id="new", name="DC-DC charger")
        yield (
            "voltage-sensitive relay",
            cls(id="new", name="Relay", kind="relay", fuse_a=RELAY_FUSE_A),
        )
        thin = FeedModel(length_m=3, area_mm2=1.5, connectors_mohm=15)
        yield (
            "vehicle socket",
            cls(
                id="new",
                name="Vehicle socket",
                kind="socket",
                limit_a=5,
                efficiency_percent=90,
                fuse_a=10,
                feed=thin,
                cut_out_v=11,
            ),
        )
        lead = FeedModel(length_m=12, area_mm2=4, connectors_mohm=12)
        yield (
            "charger on a trailer lead",
            cls(
                # So much as the fuse on 4 mm2 bears.
                id="new",
                name="Charger on the trailer lead",
                limit_a=15,
                cut_out_v=10.5,
                feed=lead,
            ),
        )

    def to_core(self, where: Where, system_v: float) -> DcDc | Relay:
        """A DC-DC charger, relay or socket charger on its alternator. Raises PlanError."""
        return vehicle_from(self, where, system_v)


def nearest_class_v(volts: float) -> float:
    """The class of a charging voltage: 12 V charges at about 14, 24 V at about 28."""
    return min((12.0, 24.0, 48.0), key=lambda class_v: abs(volts - 1.18 * class_v))


def vehicle_from(model: VehicleModel, where: Where, system_v: float) -> DcDc | Relay:
    """A DC-DC charger, relay or socket charger on its alternator and feed. Raises PlanError."""
    _check(model, where, system_v)
    motor = model.alternator
    alternator = Alternator(
        motor.rated_a,
        motor.idle_percent / 100,
        motor.own_loads_a,
        motor.volts,
        motor.smart,
        motor.smart_v,
        motor.smart_after_min,
    )
    feed = Feed(model.feed.length_m, model.feed.area_mm2, model.feed.connectors_mohm)
    profile = profile_from(model.profile, where)
    if model.kind == "relay":
        return copied(Relay, model, key=model.id, alternator=alternator, feed=feed, profile=profile)
    fuse = model.fuse_a
    if model.kind == "socket":
        fuse = min(fuse or SOCKET_FUSE_A, SOCKET_FUSE_A) if fuse is None else fuse
    return copied(
        DcDc,
        model,
        key=model.id,
        kind="dcdc",  # a socket's too
        socket=model.kind == "socket",
        efficiency=model.efficiency_percent / 100,
        alternator=alternator,
        feed=feed,
        derate_from_c=model.hot_from_c,
        fuse_a=fuse,
        profile=profile,
    )


def _check(model: VehicleModel, where: Where, system_v: float) -> None:
    motor = model.alternator
    if model.cut_out_v >= motor.volts:
        raise PlanError(
            f"The charger lets go below {model.cut_out_v:g} V, but the alternator makes only "
            f"{motor.volts:g} V: it would never charge.",
            where=(*where, "cut_out_v"),
            value=model.cut_out_v,
            limit=f"below {motor.volts:g} V",
            remedy="Lower the cut-out, or correct the alternator's voltage.",
        )
    class_v = nearest_class_v(motor.volts)
    if model.kind == "relay" and abs(system_v - class_v) > 1.0:
        raise PlanError(
            f"{model.name} would join a vehicle of {motor.volts:g} V to a box of "
            f"{system_v:g} V: a relay joins equal voltages only.",
            where=(*where, "kind"),
            value=model.kind,
            limit=f"a DC-DC charger from {class_v:g} to {system_v:g} V",
            remedy="Make it a DC-DC charger, or set the alternator to the vehicle's own voltage.",
        )

"""How the box is built, as far as its owner says: circuits, parts, enclosure, faces."""

from __future__ import annotations

from typing import Annotated, Literal

from pydantic import Field, StringConstraints

from oddkettle.core.simulation.own_wiring import ConnectorKey, Family
from oddkettle.plan import quantities as q
from oddkettle.plan.part_names import CircuitName, ItemName, PartName
from oddkettle.plan.quantities import Part

OutletName = Annotated[str, StringConstraints(pattern=r"^(own|outlet|shared|usb)-[\w-]{1,60}$")]
"""May be that of an outlet which the tool would make; never that of another circuit."""
FaceKey = Literal["front", "back", "left", "right"]
Material = Literal["wood", "plastic", "metal"]


class CircuitChoice(Part):
    """What the user fixed of one circuit; what is left out the tool chooses."""

    circuit: CircuitName
    run_m: q.RunMetres | None = None
    """One way, along the way that the cable goes."""
    cable_mm2: q.CableArea | None = None
    protection: Literal["fuse", "breaker", "none"] | None = None
    family: Family | None = None
    fuse_a: q.FuseAmps | None = None
    connector: ConnectorKey | None = None
    returns: Literal["load_side", "battery_side"] | None = None
    """To which side of the shunt its negative goes."""
    bundled: bool | None = None
    """It lies in a bundle with three or more other loaded cables."""
    engine_bay: bool | None = None
    disconnect: bool | None = None
    """It can be opened by hand."""
    string_fuses: bool | None = None
    """Each string of panels has a fuse of its own."""
    fuse_with: CircuitName | None = None
    """The circuit whose fuse it shares."""


class OutletModel(Part):
    """An outlet as the owner wants it; its circuit is chosen under the same name."""

    outlet: OutletName
    name: q.Name
    usb: bool = False
    mains: bool = False
    """It is behind the inverter, and gives mains voltage."""
    appliances: list[q.Key] = Field(default=[], max_length=60)
    """What is plugged in there; what the plan no longer has, or has on another supply, is kept
    and not counted."""
    spare_a: q.SpareAmps = 0
    """Foreseen besides, for what the plan does not list."""


class OwnedPart(Part):
    """A part that is there already, or whose price, weight or size is known."""

    part: PartName
    owned: bool = False
    euro: q.Euro | None = None
    """Of one."""
    kg: q.MoreKilograms | None = None
    length_mm: q.PartMillimetres | None = None
    width_mm: q.PartMillimetres | None = None
    height_mm: q.PartMillimetres | None = None


class EnclosureModel(Part):
    """The box or case that everything goes into; what is left out the tool proposes."""

    length_mm: q.BoxMillimetres | None = None
    """Inner sizes."""
    width_mm: q.BoxMillimetres | None = None
    height_mm: q.BoxMillimetres | None = None
    wall_mm: q.WallMillimetres = 12
    material: Material = "wood"
    empty_kg: q.MoreKilograms | None = None
    vented: bool = True
    """It has the vents that are proposed; without them it counts as closed."""
    battery_apart: bool = False
    """The battery stands in a box of its own."""
    grommets: bool = True
    """Where cables pass a wall of metal they lie in a grommet or a gland."""


class PlacedPart(Part):
    """Where a part stands: its near left lower corner from the box's own."""

    part: PartName
    x_mm: q.PlaceMillimetres
    y_mm: q.PlaceMillimetres
    z_mm: q.PlaceMillimetres = 0
    turned: bool = False
    """Its length lies along the box's width."""


class FaceItem(Part):
    """Where something sits on a face: its centre from the lower left corner, seen from outside."""

    item: ItemName
    face: FaceKey
    x_mm: q.PlaceMillimetres
    y_mm: q.PlaceMillimetres
    hole_mm: q.HoleMillimetres | None = None
    """From the part's own sheet; the usual one when absent."""


class ComparedUnitModel(Part):
    """A ready-made unit on sale with which the box is compared; what is left out is usual."""

    name: q.Name = "A ready-made unit"
    capacity_wh: q.WattHours | None = None
    """The box's own when absent."""
    euro: q.Euro | None = None
    kg: q.MoreKilograms | None = None


class Build(Part):
    """Everything about building that is not the tool's own choice."""

    cable_series: Literal["metric", "awg"] = "metric"
    ambient_c: q.AmbientCelsius = 30
    """The air around the cables."""
    main_fuse_mm: q.FuseMillimetres = 100
    """How far along the cable the main fuse sits from the positive post."""
    shunt: bool = True
    """A shunt counts what goes in and out."""
    voltmeter: bool = True
    """Something shows the battery's volts: a meter, a charger, the battery's own display."""
    loose_key: bool = False
    """The isolator's key or handle comes off."""
    circuits: list[CircuitChoice] = Field(default=[], max_length=120)
    outlets: list[OutletModel] = Field(default=[], max_length=40)
    """Outlets as the owner wants them; the tool makes those for what is placed in none."""
    waste_percent: q.SharePercent = 10
    """Cable bought beyond what is needed."""
    parts: list[OwnedPart] = Field(default=[], max_length=300)
    compared: ComparedUnitModel | None = None
    """What it is compared with; a usual unit of the same nameplate energy when absent."""
    enclosure: EnclosureModel = EnclosureModel()
    placed: list[PlacedPart] = Field(default=[], max_length=120)
    items: list[FaceItem] = Field(default=[], max_length=200)
    paper: Literal["a4", "letter"] = "a4"

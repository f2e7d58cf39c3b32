"""The document of the Build page, ready for JSON."""

from __future__ import annotations

from typing import Literal

from oddkettle.core.simulation.own_wiring import ConnectorKey, Family
from oddkettle.plan.quantities import LazyModel
from oddkettle.results.judgements import JudgementReport

Ink = Literal["sun", "vehicle", "mains", "use", "level", "negative", "danger", "ink"]
ShapeKind = Literal[
    "box", "fuse", "breaker", "switch", "shunt", "battery", "bar", "dot", "number", "plug",
    "earth", "frame", "stud",
]  # fmt: skip
FaceName = Literal["front", "back", "left", "right"]


class CautionText(LazyModel):
    """A caution, and the parts beside which it is shown."""

    key: str
    title: str
    text: str
    source: str
    about: list[str]


class Choosable(LazyModel):
    """Something to choose, and its name."""

    key: str
    text: str


class CircuitReport(LazyModel):
    """One circuit, with what was chosen, by whom, and why."""

    key: str
    number: int
    role: str
    name: str
    begins: str
    ends: str
    part: str
    ink: Ink
    continuous_a: float
    peak_a: float
    seen_a: float
    run_m: float
    cable_mm2: float | None
    cable: str
    ampacity_a: float
    protection: Literal["fuse", "breaker", "none"]
    family: Family | None
    fuse_a: float | None
    fuse: str
    short: str
    """What a short sends through its protection, and what that breaks."""
    connector: ConnectorKey
    connector_text: str
    returns: Literal["load_side", "battery_side"]
    returns_text: str
    bundled: bool
    engine_bay: bool
    disconnect: bool
    fuse_with: str | None
    strings: float
    """Strings of panels in parallel; 1 where it has none."""
    string_fuse_a: float | None
    drop_v: float
    drop_percent: float
    limit_percent: float
    lost_wh: float
    cost: str
    how: list[str]
    fixed: list[str]
    """Names of what the user fixed here; the rest the tool chose."""
    stated: list[str]
    """Names of what another page of the plan states."""
    trouble: str
    holds: list[Choosable]
    """What hangs on it."""
    own: bool
    """An outlet as the owner wants it."""
    spare_a: float


class SizeChoice(LazyModel):
    """A cable size."""

    area_mm2: float
    text: str


class FamilyChoice(LazyModel):
    """A family of fuses."""

    key: Family
    text: str
    sizes_a: list[float]
    breaks_a: float


class WireLine(LazyModel):
    """A conductor of the drawing: its way as an SVG path [mm], bows over crossings included."""

    path: str
    ink: Ink
    circuit: int | None
    sign: Literal["+", "-", "signal", "ac"]


class DrawnShape(LazyModel):
    """A symbol of the schematic [mm]."""

    kind: ShapeKind
    x: float
    y: float
    w: float
    h: float
    ink: Ink
    circuit: int | None
    lines: list[str]


class DrawnLabel(LazyModel):
    """Words of the schematic [mm]."""

    x: float
    y: float
    text: str
    size: float
    anchor: Literal["start", "middle", "end"]
    circuit: int | None
    bold: bool


class Drawing(LazyModel):
    """One sheet of the wiring drawing as plain shapes."""

    title: str
    width: float
    height: float
    wires: list[WireLine]
    shapes: list[DrawnShape]
    labels: list[DrawnLabel]


class PartLine(LazyModel):
    """A line of the parts list; price and weight are of all of it."""

    key: str
    name: str
    lacks: str
    """Why nothing that one can buy suits here; empty where something does."""
    group: str
    count: float
    unit: str
    owned: bool
    euro_low: float
    euro_high: float
    kg: float
    price_known: bool
    weight_known: bool
    size_known: bool
    length_mm: float | None
    width_mm: float | None
    height_mm: float | None


class PartsReport(LazyModel):
    """The parts list and what it comes to."""

    lines: list[PartLine]
    buy_low: float
    buy_high: float
    all_low: float
    all_high: float
    kg: float
    carried_kg: float
    per_kg: str
    per_euro: str
    ready_made: str
    """Against a ready-made unit of the same nameplate energy and the same use, in words."""


class BodyReport(LazyModel):
    """Something in its place: size, corner and span [mm]."""

    key: str
    name: str
    kg: float
    clear_mm: float
    above_mm: float
    hot: bool
    low: bool
    x0: float
    x1: float
    y0: float
    y1: float
    z0: float
    z1: float
    turned: bool
    pinned: bool


class ClashReport(LazyModel):
    """What does not go, and what would."""

    code: str
    bodies: list[str]
    by_mm: float
    text: str
    remedy: str


class EnclosureReport(LazyModel):
    """The box: inner sizes [mm]."""

    length_mm: float
    width_mm: float
    height_mm: float
    wall_mm: float
    material: str
    empty_kg: float
    proposed: bool


class FitReport(LazyModel):
    """Where everything stands and what is wrong with it."""

    bodies: list[BodyReport]
    clashes: list[ClashReport]
    kg: float
    centre_mm: list[float]
    verdict: str
    lift: str


class FittingReport(LazyModel):
    """Something on a face [mm]."""

    key: str
    name: str
    kind: str
    circuit: int | None
    face: FaceName
    x_mm: float
    y_mm: float
    hole_mm: float
    flange_mm: float
    depth_mm: float
    pinned: bool


class FaceReport(LazyModel):
    """One face: its outer size [mm]."""

    face: FaceName
    width_mm: float
    height_mm: float


class FaceFaultReport(LazyModel):
    """What does not go on a face."""

    face: FaceName | None
    items: list[str]
    text: str
    remedy: str


class FacesReport(LazyModel):
    """All faces."""

    sizes: list[FaceReport]
    fittings: list[FittingReport]
    faults: list[FaceFaultReport]


class CheckReport(LazyModel):
    """One line of a checklist."""

    key: str
    text: str
    expect: str
    why: str


class ChecklistReport(LazyModel):
    """A checklist."""

    key: str
    title: str
    when: str
    checks: list[CheckReport]
    keyed: bool
    """What is expected is keyed in and not measured."""


class CauseReport(LazyModel):
    """One question of a symptom.

    What to measure, and what it shows when this is not the cause,
    or, with `found_when` "right", when it is.
    """

    key: str
    text: str
    measure: str
    shows: str
    then: str
    found_when: Literal["wrong", "right"]
    leads_to: str
    """Another symptom to go on with; empty for none."""


class SymptomReport(LazyModel):
    """A symptom with its causes, the likeliest first."""

    key: str
    where: str
    text: str
    causes: list[CauseReport]


class UnitNoteReport(LazyModel):
    """One line about a ready-made unit."""

    key: str
    about: str
    text: str
    figure: str


class UnitPartReport(LazyModel):
    """Some lines about a ready-made unit under a heading."""

    key: str
    title: str
    notes: list[UnitNoteReport]


class EmergencyReport(LazyModel):
    """What is done right now, before any fault is looked for."""

    key: str
    title: str
    steps: list[str]
    source: str


class MovedReport(LazyModel):
    """Where everything stands: all that changes while something is moved."""

    enclosure: EnclosureReport
    fit: FitReport | None
    """None for a ready-made unit: it is not built."""
    faces: FacesReport | None


class BuildReport(MovedReport):
    """Everything about building a plan's box."""

    headline: str
    detail: str
    circuits: list[CircuitReport]
    judgements: list[JudgementReport]
    emergencies: list[EmergencyReport]
    short_a: float
    sizes: list[SizeChoice]
    families: list[FamilyChoice]
    connectors: list[Choosable]
    schematic: list[Drawing]
    parts: PartsReport
    checklists: list[ChecklistReport]
    symptoms: list[SymptomReport]
    unit: list[UnitPartReport]
    """What to know of a ready-made unit; empty for a box that is built."""
    cautions: list[CautionText]

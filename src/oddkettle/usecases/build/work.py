"""From a plan to the Build page's document and to paper."""

from __future__ import annotations

from oddkettle.core.construction import text as sayings
from oddkettle.core.construction.design import Building, build_up, lay_out
from oddkettle.core.construction.procedures.emergency import emergencies
from oddkettle.core.construction.schematic.draft import ink_of
from oddkettle.core.construction.schematic.figures import Sheet
from oddkettle.core.construction.settings import settings_sheet
from oddkettle.core.construction.wiring.cable import sizes_of
from oddkettle.core.construction.wiring.circuits import Board, Circuit
from oddkettle.core.construction.wiring.connectors import CONNECTORS
from oddkettle.core.construction.wiring.fuses import FAMILIES
from oddkettle.core.construction.wiring.sizing import board_of
from oddkettle.core.judgement import Judgement
from oddkettle.core.judgement.cautions import cautions_for
from oddkettle.core.judgement.evidence import GRAVE, OF_THE_TRIP
from oddkettle.core.simulation.run import Run
from oddkettle.core.simulation.run_metrics import lowest
from oddkettle.core.units.quantity import charge, kilogram, money
from oddkettle.core.values.cache import CACHE
from oddkettle.core.values.copying import copied
from oddkettle.formats.schematic_svg import wire_path
from oddkettle.plan import Plan
from oddkettle.plan.making.to_core import own_build_from
from oddkettle.results import build as doc
from oddkettle.results.build import CautionText
from oddkettle.results.settings import DeviceSettingsReport, SetPointReport
from oddkettle.text.habits import reader
from oddkettle.text.render import render_bytes
from oddkettle.usecases.build.one_system import in_one_system, written_in_one_system
from oddkettle.usecases.build.places import report_places
from oddkettle.usecases.improve.compare import as_ready_made
from oddkettle.usecases.simulate.check import judge_plan
from oddkettle.usecases.simulate.remedies import with_tried_remedies
from oddkettle.usecases.simulate.run_cache import plan_digest, run_plan


def work_out(plan: Plan) -> tuple[Building, tuple[Judgement, ...]]:
    """A plan's building, and every judgement on the plan, the gravest first.

    What is said of the whole plan counts here, too: a box whose circuits are in order is not sound
    while it can hurt somebody in another way.
    """
    plan = in_one_system(plan)
    run, board = _run_of(plan)
    return build_up(run, own_build_from(plan.build), plan.name, board), judge_plan(plan)


def _run_of(plan: Plan) -> tuple[Run, Board]:
    """The plan's run and circuits. While a part is moved neither changes: they are kept."""
    run = run_plan(plan)
    board = CACHE.ask(("board", plan_digest(plan), run.case.wiring), lambda: board_of(run))
    return run, board


def _low_of_unit(plan: Plan) -> float:
    """Lowest level 0..1 of the same use on a ready-made unit of the same nameplate energy."""
    return lowest(run_plan(as_ready_made(plan))).soc


def report_moved(plan: Plan) -> doc.MovedReport:
    """What changes while a part or a fitting is dragged. Raises PlanRefused."""
    run, board = _run_of(plan)
    return report_places(lay_out(run, board, own_build_from(plan.build)))


def report_settings(plan: Plan) -> list[DeviceSettingsReport]:
    """What to key into every device. Raises PlanRefused."""
    return [
        DeviceSettingsReport(
            part=device.part,
            name=device.name,
            rows=[copied(SetPointReport, row) for row in device.rows],
            preset=device.preset,
            also=list(device.also),
        )
        for device in settings_sheet(run_plan(plan))
    ]


def written_build(plan: Plan) -> bytes:
    """The Build page's document as JSON, its cables all in one system. Raises PlanRefused."""
    with written_in_one_system(plan):
        return render_bytes(report_build(plan).model_dump_json().encode(), reader())


def report_build(plan: Plan) -> doc.BuildReport:
    """The Build page's document. Raises PlanRefused."""
    building, judged = work_out(plan)
    run, board = building.run, building.board
    numbers = {circuit.key: circuit.number for circuit in board.circuits}
    headline, detail = _headline(building, judged)
    return doc.BuildReport(
        headline=headline,
        detail=detail,
        circuits=[_circuit(building, circuit, numbers) for circuit in board.circuits],
        judgements=with_tried_remedies(plan, run, judged),
        short_a=board.short_a,
        sizes=[
            doc.SizeChoice(area_mm2=size.area_mm2, text=size.text)
            for size in sizes_of(board.wiring.series)
        ],
        families=[
            doc.FamilyChoice(
                key=kind.key,
                text=kind.name,
                sizes_a=list(kind.sizes_a),
                breaks_a=kind.breaks_a(board.most_v),
            )
            for kind in FAMILIES.values()
        ],
        connectors=[doc.Choosable(key=part.key, text=part.name) for part in CONNECTORS.values()],
        schematic=[_drawing(sheet) for sheet in building.schematic],
        parts=_parts(plan, building),
        **dict(report_places(building)),
        checklists=[
            doc.ChecklistReport(
                key=one.key,
                title=one.title,
                when=one.when,
                checks=[doc.CheckReport(**vars(check)) for check in one.checks],
                keyed=one.keyed,
            )
            for one in building.lists
        ],
        emergencies=[
            doc.EmergencyReport(
                key=one.key, title=one.title, steps=list(one.steps), source=one.source
            )
            for one in emergencies(run.case)
        ],
        symptoms=_symptoms(building),
        unit=[
            doc.UnitPartReport(
                key=part.key,
                title=part.title,
                notes=[doc.UnitNoteReport(**vars(note)) for note in part.notes],
            )
            for part in building.unit
        ],
        cautions=[
            copied(CautionText, c, about=list(c.about))
            for c in cautions_for(run.case, building.totals.carried_kg)
        ],
    )


def _symptoms(building: Building) -> list[doc.SymptomReport]:
    return [
        doc.SymptomReport(
            key=one.key,
            where=one.where,
            text=one.text,
            causes=[copied(doc.CauseReport, c) for c in one.causes],
        )
        for one in building.symptoms
    ]


def _headline(building: Building, judged: tuple[Judgement, ...]) -> tuple[str, str]:
    """The answer first: whether this can be built as it stands.

    Never that it is sound: only that nothing was found against it, for not everything is asked.
    """
    # What is wrong with the box itself speaks before what is wrong with this trip.
    grave = sorted(
        (j for j in judged if j.severity in GRAVE),
        key=lambda j: (j.code in OF_THE_TRIP, GRAVE.index(j.severity)),
    )
    lacks = [line for line in building.lines if line.article.lacks]
    clashes = [] if building.fits is None else building.fits.clashes
    faults = [] if building.faces is None else building.faces.faults
    wasteful = [j for j in judged if j.severity == "waste"]
    count = len(building.board.circuits)
    unit = building.run.case.unit is not None
    what = f"Nothing is built inside; {count} leads go to the unit" if unit else f"{count} circuits"
    first = grave[0] if grave else None
    if first and first.code not in OF_THE_TRIP:
        opening = "Not safe yet" if first.severity == "danger" else "Not ready yet"
        more = f" And {len(grave) - 1} more." if len(grave) > 1 else ""
        headline = f"{opening}: {first.text}{more}"
    elif lacks:
        headline = f"A part is missing: {lacks[0].article.name}."
    elif clashes or faults:
        text = clashes[0].text if clashes else faults[0].text
        headline = f"{what}, no problems found in them, but it does not fit yet: {text}"
    else:
        headline = f"{what}, no problems found{'.' if unit else ', and everything fits.'}"
        if wasteful and not first:
            headline += f" Something is lost, though: {wasteful[0].text}"
    if first and first.code in OF_THE_TRIP:
        trip = f"On this trip something is missing, though. {first.text}"
        return headline, f"{trip} {_in_short(building)}"
    return headline, _in_short(building)


def _in_short(building: Building) -> str:
    """What the battery gives, what it weighs, what it costs."""
    main = building.board.of("battery")
    parts = []
    if main is not None and main.fuse_a is not None and main.cable_mm2 is not None:
        fuse = sayings.fuse_text(main, {})
        cable = sayings.cable_text(main, building.board.wiring.series)
        parts.append(
            f"The battery gives {main.need.continuous_a:.0f} A through a {fuse} and {cable}."
        )
    totals = building.totals
    price = money(totals.buy_low, totals.buy_high)
    parts.append(f"{kilogram(totals.carried_kg, '.0f')} to carry, {price} to buy.")
    return " ".join(parts)


def _circuit(building: Building, c: Circuit, numbers: dict[str, int]) -> doc.CircuitReport:
    wires = building.board.wiring
    return copied(
        doc.CircuitReport,
        c,
        role=c.need.role,
        name=c.need.name,
        begins=c.need.begins,
        ends=c.need.ends,
        part=c.need.part,
        ink=ink_of(c),
        continuous_a=c.need.continuous_a,
        peak_a=c.need.peak_a,
        seen_a=c.need.seen_a,
        cable=sayings.cable_text(c, wires.series),
        fuse=sayings.fuse_text(c, numbers),
        short=sayings.short_text(c, building.board.most_v),
        connector_text=sayings.connector_text(c),
        returns_text=sayings.returns_text(c),
        strings=c.need.strings,
        drop_percent=100 * c.drop_share,
        limit_percent=100 * c.most_share,
        cost=sayings.cost_text(c),
        how=list(sayings.how_made(c, wires)),
        fixed=sorted(c.fixed),
        stated=sorted(c.need.stated),
        holds=[
            doc.Choosable(key=a.key, text=a.name)
            for a in building.run.case.appliances
            if a.key in c.need.appliances
        ],
        own=any(outlet.key == c.key for outlet in wires.outlets),
        spare_a=c.need.spare_a,
    )


def _drawing(sheet: Sheet) -> doc.Drawing:
    return doc.Drawing(
        title=sheet.title,
        width=sheet.width,
        height=sheet.height,
        wires=[
            doc.WireLine(path=wire_path(w), ink=w.ink, circuit=w.circuit, sign=w.sign)
            for w in sheet.wires
        ],
        shapes=[
            copied(
                doc.DrawnShape,
                s,
                lines=list(s.lines),
            )
            for s in sheet.shapes
        ],
        labels=[doc.DrawnLabel(**vars(label)) for label in sheet.labels],
    )


def _parts(plan: Plan, building: Building) -> doc.PartsReport:
    totals = building.totals
    lines = []
    for line in building.lines:
        part, bulk = line.article, line.article.bulk
        lines.append(
            copied(
                doc.PartLine,
                line,
                key=part.key,
                name=part.name,
                lacks=part.lacks,
                group=part.group,
                count=part.count,
                unit=part.unit,
                length_mm=None if bulk is None else bulk.length_mm,
                width_mm=None if bulk is None else bulk.width_mm,
                height_mm=None if bulk is None else bulk.height_mm,
            )
        )
    wh, volts = building.usable_wh, building.run.case.bank.nominal_v
    price = (totals.all_low + totals.all_high) / 2
    return copied(
        doc.PartsReport,
        totals,
        lines=lines,
        per_kg=_rate(wh, volts, totals.carried_kg, "kg carried"),
        per_euro=_rate(100 * wh, volts, price, money(100)),
        ready_made=_against_ready_made(plan, building),
    )


def _rate(wh: float, volts: float, per: float, word: str) -> str:
    rate = wh / max(per, 1e-9)
    return f"{charge(rate / volts, rate, '.1f')} usable for each {word}"


def _against_ready_made(plan: Plan, building: Building) -> str:
    """The box against a ready-made unit of the same nameplate energy, on the same trip."""
    if plan.box.unit is not None:
        return "This plan is a ready-made unit."
    unit, totals = building.ready_made, building.totals
    here = 100 * lowest(building.run).soc
    there = 100 * _low_of_unit(plan)
    panels = [line for line in building.lines if line.article.group == "panels"]
    low = totals.all_low - sum(line.euro_low for line in panels)
    high = totals.all_high - sum(line.euro_high for line in panels)
    same = abs(unit.wh - building.run.case.bank.nominal_wh) < 1.0
    return (
        f"{unit.name} of {unit.wh:,.0f} Wh"
        f"{' on its label, as much as this box' if same else ''}: "
        f"{money(unit.euro_low, unit.euro_high)} and "
        f"{kilogram(unit.kg, '.0f')} with chargers and inverter inside, against "
        f"{money(low, high)} and {kilogram(totals.carried_kg, '.0f')} for this "
        "box, panels apart in both. With the same use under the expected sky it falls "
        f"to {there:.0f} %, this box to {here:.0f} %."
    )

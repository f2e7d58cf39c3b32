"""The sheets of the bench booklet, each a list of what stands on it."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from typing import Any

from reportlab.lib.styles import ParagraphStyle
from reportlab.lib.units import mm
from reportlab.platypus import Flowable, KeepTogether, Spacer, Table

from oddkettle.core.construction.design import Building
from oddkettle.core.construction.procedures.check import Check
from oddkettle.core.construction.procedures.emergency import emergencies
from oddkettle.core.construction.procedures.fault import WHERE, Cause, Symptom
from oddkettle.core.construction.text import (
    INSULATION,
    cable_text,
    connector_text,
    cost_text,
    count_text,
    fuse_text,
    returns_text,
    short_text,
)
from oddkettle.core.judgement import Judgement
from oddkettle.core.judgement.cautions import cautions_for
from oddkettle.core.judgement.evidence import GRAVE, OF_THE_TRIP
from oddkettle.core.units.quantity import celsius, kilogram, money
from oddkettle.formats.booklet import Ticked
from oddkettle.formats.booklet.drawings import FitSheet
from oddkettle.formats.booklet.page import (
    BODY,
    BOXED,
    CELL,
    CELL_BOLD,
    CELL_RIGHT,
    DANGER_BOX,
    H1,
    H2,
    SMALL,
    Paper,
    inner_mm,
    para,
    table,
)


def cautions_sheet(building: Building, judged: Sequence[Judgement]) -> list[Flowable]:
    """What is wrong with this box and what can hurt, first of all."""
    story: list[Flowable] = [
        para("Before you begin", H1),
        *_grave_box(judged),
        para(
            "This booklet was worked out from a plan. It replaces neither the parts' own sheets "
            "nor a licensed person, and your local code comes first."
        ),
        Spacer(1, 4),
    ]
    story.extend(
        KeepTogether([para(caution.title, H2), para(caution.text), para(caution.source, SMALL)])
        for caution in cautions_for(building.run.case, building.totals.carried_kg)
    )
    return story


def _grave_box(judged: Sequence[Judgement]) -> list[Flowable]:
    """Dangers and faults in a box that nobody overlooks, in grey either."""
    grave = [one for one in judged if one.severity in GRAVE]
    if not grave:
        return []
    only_now = all(one.code in OF_THE_TRIP for one in grave)
    head = "NOT READY FOR THIS TRIP." if only_now else "DO NOT BUILD IT YET."
    rows: list[list[Any]] = [[para(f"{head} To fix first:", BOXED)]]
    rows += [
        [
            [
                para(f"{one.severity.upper()}: {one.text}", CELL_BOLD),
                para(f"{one.means} {one.remedy}", CELL),
            ]
        ]
        for one in grave
    ]
    return [Table(rows, colWidths=[180 * mm], style=DANGER_BOX, hAlign="LEFT"), Spacer(1, 6)]


def judgements_sheet(judged: Sequence[Judgement]) -> list[Flowable]:
    """What is to be mended before anything is built."""
    told = [one for one in judged if one.severity != "note"]
    if not told:
        return [para("Nothing about this box is judged unsafe or wasteful.", BODY), Spacer(1, 4)]
    story: list[Flowable] = [para("To fix first", H2)]
    for one in told:
        story.append(para(f"{one.severity.upper()}: {one.text}", CELL_BOLD))
        story.append(para(f"{one.means} {one.remedy} ({one.source})", CELL))
        story.append(Spacer(1, 3))
    return story


def circuits_sheet(building: Building, judged: Sequence[Judgement]) -> list[Flowable]:
    """Every circuit with its currents, cable and protection."""
    board = building.board
    numbers = {c.key: c.number for c in board.circuits}
    rows = [
        [
            para(str(c.number), CELL_BOLD),
            [para(c.need.name, CELL_BOLD), para(f"{c.need.begins} to {c.need.ends}", CELL)],
            para(
                f"{c.need.continuous_a:.1f} / {c.need.peak_a:.1f} / {c.need.seen_a:.1f}", CELL_RIGHT
            ),
            para(f"{c.run_m:g} m", CELL_RIGHT),
            [
                para(cable_text(c, board.wiring.series), CELL),
                para(f"bears {c.ampacity_a:.0f} A", CELL),
            ],
            [
                para(fuse_text(c, numbers), CELL),
                para(short_text(c, board.most_v), CELL),
                para(connector_text(c), CELL),
            ],
            para(f"{c.drop_v:.2f} V, {100 * c.drop_share:.1f} %", CELL_RIGHT),
            para(returns_text(c), CELL),
        ]
        for c in board.circuits
    ]
    heads = (
        "No.",
        "Circuit",
        "A: hours / peak / seen",
        "Run",
        "Cable",
        "Protection, connector",
        "Drop",
        "Negative to",
    )
    story: list[Flowable] = [
        para("Circuits", H1),
        *judgements_sheet(judged),
        table(heads, rows, (9, 42, 27, 13, 20, 33, 19, 21)),
        Spacer(1, 5),
        para(
            "Hours: what it must bear. Peak: for a moment. Seen: the most in the simulated trip. "
            "Runs are one way; drops are there and back from the source to the load, contacts "
            f"included, the strand as warm as its load makes it. Ampacities are for {INSULATION}; "
            f"PVC of {celsius(70)} bears three quarters of them."
        ),
        para(
            f"A dead short gives about {board.short_a:.0f} A at the battery's posts and "
            f"{board.bar_a:.0f} A at the bar, at the most; the main fuse sits "
            f"{board.wiring.main_fuse_mm:.0f} mm from the post along its cable. Air about the "
            f"cables: {celsius(board.wiring.ambient_c)}."
        ),
        para("Off: solar first, then battery. On: battery first, then solar.", CELL_BOLD),
        para("What each drop costs", H2),
    ]
    story += [para(f"{c.number}  {c.need.name}: {cost_text(c)}", CELL) for c in board.circuits]
    return story


def parts_sheet(building: Building) -> list[Flowable]:
    """What to buy, with weights and prices."""
    rows = []
    for line in building.lines:
        price = money(line.euro_low, line.euro_high)
        rows.append(
            [
                para("!" if line.article.lacks else "[x]" if line.owned else "[  ]", CELL_BOLD),
                [para(line.article.name, CELL_BOLD), para(line.article.lacks, CELL)]
                if line.article.lacks
                else para(line.article.name, CELL),
                para("none" if line.article.lacks else count_text(line), CELL_RIGHT),
                para(f"{line.kg:.2f}" + ("" if line.weight_known else " ?"), CELL_RIGHT),
                para(price + ("" if line.price_known else " ?"), CELL_RIGHT),
            ]
        )
    totals = building.totals
    return [
        para("Parts", H1),
        para(
            f"To buy: {money(totals.buy_low, totals.buy_high)}. All of it: "
            f"{money(totals.all_low, totals.all_high)}, {kilogram(totals.kg)}, of which "
            f"{kilogram(totals.carried_kg)} are carried with the box.",
            CELL_BOLD,
        ),
        para(
            "A question mark is a guess: typical of plain parts in 2026 in euros, taken one for "
            "one in another currency.",
            SMALL,
        ),
        Spacer(1, 5),
        table(("Have", "Part", "Count", "kg", "Price"), rows, (12, 96, 20, 20, 34)),
    ]


def fit_sheet(building: Building, paper: Paper) -> list[Flowable]:
    """Where everything stands."""
    fits = building.fits
    if fits is None:
        return [para("Box fit", H1), para("A ready-made unit has its own inside.")]
    box = building.enclosure
    rows = [
        [
            para(str(n), CELL_BOLD),
            para(s.body.name, CELL),
            para(
                f"{s.body.length_mm:.0f} x {s.body.width_mm:.0f} x {s.body.height_mm:.0f}",
                CELL_RIGHT,
            ),
            para(
                f"{s.x_mm:.0f}, {s.y_mm:.0f}, {s.z_mm:.0f}" + (" turned" if s.turned else ""),
                CELL_RIGHT,
            ),
            para(f"{s.body.kg:.1f}", CELL_RIGHT),
        ]
        for n, s in enumerate(fits.standing, start=1)
    ]
    x, y, z = fits.centre_mm
    return [
        para("Box fit", H1),
        para(
            f"Inside {box.length_mm:.0f} x {box.width_mm:.0f} x {box.height_mm:.0f} mm, "
            f"{box.material}, wall {box.wall_mm:g} mm"
            + (", as the tool proposes. " if building.proposed else ". ")
            + fits.verdict
        ),
        *[para(f"{clash.text} {clash.remedy}", CELL) for clash in fits.clashes],
        Spacer(1, 4),
        FitSheet(box, fits, inner_mm(paper)[0] * 0.72),
        Spacer(1, 4),
        table(("No.", "Part", "Size, mm", "Corner, mm", "kg"), rows, (10, 88, 34, 34, 14)),
        Spacer(1, 4),
        para(
            f"{fits.lift} Its centre of mass lies {x:.0f} mm from the left, {y:.0f} mm from the "
            f"front and {z:.0f} mm above the floor. Sizes are typical: measure the parts first."
        ),
    ]


def faces_sheet(building: Building) -> list[Flowable]:
    """What sits on which face, in numbers; the template itself follows at 1:1."""
    faces = building.faces
    if faces is None:
        return [para("Faces", H1), para("A ready-made unit is not drilled.")]
    rows = [
        [
            para(m.face, CELL),
            para("" if m.fitting.circuit is None else str(m.fitting.circuit), CELL_BOLD),
            para(m.fitting.name, CELL),
            para(f"{m.fitting.hole_mm:g}", CELL_RIGHT),
            para(f"{m.x_mm:g}, {m.y_mm:g}", CELL_RIGHT),
            para(f"{m.fitting.depth_mm:g}", CELL_RIGHT),
        ]
        for m in sorted(faces.mounted, key=lambda m: m.face)
    ]
    heads = ("Face", "No.", "Fitting", "Hole, mm", "Centre x, y", "Depth")
    return [
        para("Faces", H1),
        para(
            "Faces are seen from outside; centres are measured from the lower left corner. The "
            "part's own sheet goes before every hole given here."
        ),
        *[para(f"{fault.text} {fault.remedy}", CELL_BOLD) for fault in faces.faults],
        Spacer(1, 4),
        table(heads, rows, (18, 12, 84, 22, 30, 16)),
    ]


def checks_sheet(building: Building, ticked: Mapping[str, Ticked]) -> list[Flowable]:
    """The checklists, with boxes to tick; what is `ticked` already shows when, as `list/check`."""
    story: list[Flowable] = [para("Checklists", H1)]
    for one in building.lists:
        rows = [
            [
                _box(ticked.get(f"{one.key}/{check.key}")),
                [para(check.text, CELL), *([para(check.why, SMALL)] if check.why else [])],
                para(check.expect, CELL_BOLD),
                _measured(check, ticked.get(f"{one.key}/{check.key}")),
            ]
            for check in one.checks
        ]
        shows, found = ("Set to", "Read back") if one.keyed else ("The meter shows", "Measured")
        story.append(para(f"{one.title}: {one.when}", H2))
        story.append(table(("", "Do or look", shows, found), rows, (17, 88, 52, 26)))
    return story


def _box(tick: Ticked | None) -> list[Flowable]:
    """A box to tick, or the tick and its date."""
    if tick is None:
        return [para("[  ]", CELL)]
    return [para("[x]", CELL_BOLD), para(tick.day, SMALL)]


def _measured(check: Check, tick: Ticked | None) -> Flowable:
    """What was measured, or a blank to write it on where there is something to measure."""
    if tick is not None and tick.measured:
        return para(tick.measured, CELL_BOLD)
    return para("________" if check.expect else "", CELL)


def _emergency_box(building: Building) -> list[Flowable]:
    """What to do right now, in a frame of its own at the head of the page."""
    rows: list[list[Any]] = [[para("IN AN EMERGENCY, before any fault is looked for", BOXED)]]
    for one in emergencies(building.run.case):
        steps = " ".join(f"{n}. {step}" for n, step in enumerate(one.steps, start=1))
        rows.append([[para(one.title, CELL_BOLD), para(steps, CELL), para(one.source, SMALL)]])
    return [Table(rows, colWidths=[180 * mm], style=DANGER_BOX, hAlign="LEFT"), Spacer(1, 6)]


def faults_sheet(building: Building) -> list[Flowable]:
    """The fault finder: by where trouble is seen, a tree of questions for each."""
    story: list[Flowable] = [
        *_emergency_box(building),
        para("Fault finder", H1),
        para(
            "Begin where the trouble is seen. One question at a time, the likeliest first for this "
            "box; the fuse out before hands go in. Where the answer points to a cause, mend it and "
            "try again; else go on to the next question."
        ),
    ]
    titles = {one.key: one.text for one in building.symptoms}
    for where in WHERE:
        for one in building.symptoms:
            if one.where == where:
                story += _tree(one, titles)
    return story


def _tree(symptom: Symptom, titles: Mapping[str, str]) -> list[Flowable]:
    last = len(symptom.causes)
    rows = [
        [
            para(str(n), CELL_BOLD),
            [
                para(f"Suspected: {cause.text}", CELL),
                para(cause.measure, CELL),
                para(f"Does it show: {cause.shows}?", CELL_BOLD),
            ],
            para(*_answer(cause, right=True, on=n + 1 if n < last else None, titles=titles)),
            para(*_answer(cause, right=False, on=n + 1 if n < last else None, titles=titles)),
        ]
        for n, cause in enumerate(symptom.causes, start=1)
    ]
    return [
        para(f"{symptom.where.capitalize()}: {symptom.text}", H2),
        table(("", "Question", "Yes", "No"), rows, (8, 78, 48, 48)),
    ]


def _answer(
    cause: Cause, *, right: bool, on: int | None, titles: Mapping[str, str]
) -> tuple[str, ParagraphStyle]:
    """What an answer leads to: its cause and what to do, or the next question."""
    if (cause.found_when == "right") != right:
        return (f"go on to {on}" if on else "none of these: ask a licensed person"), CELL
    more = titles.get(cause.leads_to)
    return f"That is it. {cause.then}" + (f" See: {more}." if more else ""), CELL


def unit_sheet(building: Building) -> list[Flowable]:
    """A ready-made unit's own booklet."""
    story: list[Flowable] = [
        para("The unit", H1),
        para(
            "A ready-made unit is never opened. Its own book comes before this sheet, which says "
            "what of it matters on this plan."
        ),
    ]
    for part in building.unit:
        rows = [
            [para(note.about, CELL_BOLD), para(note.text, CELL), para(note.figure, CELL_BOLD)]
            for note in part.notes
        ]
        if rows:
            story.append(para(part.title, H2))
            story.append(table(("", "", "On this plan"), rows, (38, 92, 52)))
    return story

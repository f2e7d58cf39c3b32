"""The settings sheet on paper: device by device, what to key in and between what it may lie."""

from __future__ import annotations

from reportlab.platypus import Flowable, KeepTogether

from oddkettle.core.construction.design import Building
from oddkettle.formats.booklet.page import CELL, CELL_BOLD, H1, H2, SMALL, para, table


def settings_sheet(building: Building) -> list[Flowable]:
    """What to key in on every device; a maker's own sheet goes before it."""
    story: list[Flowable] = [
        para("What to set", H1),
        para(
            "Where a device's or the battery's own book says something else, the book goes first. "
            "Set it before the battery is connected to it for good, and read it back afterwards."
        ),
    ]
    for device in building.settings:
        rows = [
            [
                para(row.name, CELL),
                [para(row.value, CELL_BOLD), *([para(row.note, SMALL)] if row.note else [])],
                para(row.usual, CELL),
                [para(row.why, CELL), para(row.otherwise, SMALL)],
            ]
            for row in device.rows
        ]
        heads = ("Setting", "Set to", "Usual", "Why, and what goes wrong")
        laid = table(heads, rows, (36, 36, 42, 69))
        head: list[Flowable] = [para(device.name, H2)]
        if device.preset:
            head.append(para(device.preset, SMALL))
        # A short device stays on one page; a long one may go on to the next, its heads repeated.
        story += [KeepTogether([*head, laid])] if len(rows) < 10 else [*head, laid]
    return story

"""The batteries and what measures them, at the foot of the drawing of the supply."""

from __future__ import annotations

from oddkettle.core.battery.bank import Bank
from oddkettle.core.construction.schematic.columns import (
    BATTERY_W,
    ISOLATOR_X,
    JOINT_X,
    MAIN_FUSE_X,
    MAIN_TAG_X,
    MINUS_JOINT_X,
    MINUS_X,
    MONITOR_W,
    MONITOR_X,
    PLUS_X,
    POST_X,
    SENSE_FALL,
    SHUNT_W,
    SHUNT_X,
    SOURCE_X,
    STRINGS_DRAWN,
    TAP_X,
)
from oddkettle.core.construction.schematic.draft import (
    FUSE_W,
    HIGH,
    LOW,
    PITCH,
    RETURN,
    Draft,
    post_words,
)
from oddkettle.core.construction.schematic.figures import SMALL
from oddkettle.core.construction.wiring.circuits import Board, Circuit
from oddkettle.core.simulation.run import Run


def draw_battery(draft: Draft, run: Run, board: Board, foot: float) -> None:
    """The batteries with their fuses, the main fuse, the isolator and the shunt, above `foot`."""
    main = board.of("battery")
    assert main is not None
    bank, y, low = run.case.bank, foot + 11.0, foot + 11.0 + RETURN
    posts = main.need.posts
    drawn = min(posts, STRINGS_DRAWN) if posts > 1 else 1
    for n in range(drawn):
        _one_battery(draft, main, bank, n, y + n * PITCH, last=n == drawn - 1)
    start = SOURCE_X + BATTERY_W
    if posts > 1:
        under = (drawn - 1) * PITCH
        draft.plus(main, (JOINT_X, y + under), (JOINT_X, y))
        draft.minus(main, (MINUS_JOINT_X, low + under), (MINUS_JOINT_X, low))
        draft.dot(JOINT_X, y, "level", main.number)
        draft.dot(MINUS_JOINT_X, low, "negative", main.number)
    draft.plus(main, (start, y), (PLUS_X, y), (PLUS_X, foot))
    draft.protect(main, MAIN_FUSE_X, y)
    draft.tag(main, MAIN_TAG_X, y)
    if main.disconnect:
        draft.shape("switch", (ISOLATOR_X, y - 1.7, FUSE_W, 3.4), "level", main.number)
        draft.label(ISOLATOR_X + FUSE_W / 2, y + 4.7, "isolator", SMALL, "middle", main.number)
    draft.minus(main, (start, low), (MINUS_X, low), (MINUS_X, foot))
    if board.wiring.shunt:
        draft.shape(
            "shunt", (SHUNT_X, low - 2.8, SHUNT_W, 5.6), "negative", main.number, ("shunt",)
        )
        draft.label(SHUNT_X - 1.0, low - 1.2, "B−", SMALL, "end", main.number, bold=True)
        draft.label(SHUNT_X + SHUNT_W + 1.0, low - 1.2, "load", SMALL, "start", main.number)
    sense = board.of("sense")
    if sense is not None:
        draw_monitor(draft, sense, y)


def _one_battery(draft: Draft, main: Circuit, bank: Bank, n: int, y: float, *, last: bool) -> None:
    posts = main.need.posts
    hidden = posts - STRINGS_DRAWN if last and posts > STRINGS_DRAWN else 0
    lines = (
        bank.chemistry.name,
        f"{bank.battery_ah if posts > 1 else bank.capacity_ah:g} Ah, {bank.nominal_v:.1f} V"
        + (f", {bank.series} in series" if bank.series > 1 else ""),
    )
    if hidden:
        lines = (lines[0], f"and {hidden} more like it")
    number = main.number
    draft.shape(
        "battery", (SOURCE_X, y - HIGH, BATTERY_W, HIGH + RETURN + LOW), "level", number, lines
    )
    start = SOURCE_X + BATTERY_W
    draft.label(start + 0.8, y - 0.9, "+", circuit=number, bold=True)
    draft.label(start + 0.8, y + RETURN - 0.9, "−", circuit=number, bold=True)
    if posts > 1:
        if main.post_family is not None:
            draft.shape("fuse", (POST_X, y - 1.7, FUSE_W, 3.4), "level", number)
        draft.label(POST_X, y + 4.7, post_words(main), circuit=number)
        if n:
            draft.plus(main, (start, y), (JOINT_X, y))
            draft.minus(main, (start, y + RETURN), (MINUS_JOINT_X, y + RETURN))


def draw_monitor(draft: Draft, sense: Circuit, y: float) -> None:
    """The monitor: its supply from before the isolator, its negative, and the shunt's own lead."""
    ys = y + SENSE_FALL
    draft.dot(TAP_X, y, "level", sense.number)
    draft.plus(sense, (TAP_X, y), (TAP_X, ys), (MONITOR_X, ys), net="+battery")
    draft.protect(sense, TAP_X + 3.0, ys)
    draft.tag(sense, TAP_X + 14.0, ys)
    draft.box(sense, MONITOR_X, MONITOR_W, ys, "monitor")
    draft.minus(
        sense, (MONITOR_X + MONITOR_W, ys + RETURN), (MINUS_X, ys + RETURN), (MINUS_X, y + RETURN)
    )
    draft.dot(MINUS_X, y + RETURN, "negative", sense.number)
    middle = SHUNT_X + SHUNT_W / 2
    if draft.board.wiring.shunt:
        draft.line(
            "signal",
            "shunt-data",
            (middle, y + RETURN + 2.8),
            (middle, ys + RETURN),
            (MONITOR_X, ys + RETURN),
        )
        draft.label(middle + 2.0, ys + RETURN - 1.2, "the shunt's own lead")

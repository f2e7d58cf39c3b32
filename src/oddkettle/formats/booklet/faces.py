"""The faces of print: the house's own for Latin, and fallbacks for names in other scripts.

Texts are cut into runs of one face each. What is written from right to left is joined and put into
the order in which it is seen, inside a line that runs from left to right: a name turns no table.
"""

from __future__ import annotations

import re
import unicodedata
from functools import cache, lru_cache
from importlib.resources import files
from io import BytesIO
from itertools import groupby
from typing import Any, Literal
from xml.sax.saxutils import escape

from reportlab.pdfbase import pdfmetrics
from reportlab.pdfbase.ttfonts import TTFont

TEXT, BOLD, HEAD = "OddText", "OddText-Bold", "OddHead"
OWN = ((TEXT, "text.ttf"), (BOLD, "text-bold.ttf"), (HEAD, "head.ttf"))
FALLBACKS = (("OddWide", "wide.ttf"), ("OddEast", "east.ttf"))
"""Greek, Cyrillic, Armenian, Hebrew, Arabic, Georgian and signs; then Chinese, Japanese, Korean."""
UNKNOWN = "\N{WHITE SQUARE}"
"""Stands for a character that no face has."""
LEFTWARDS = r"\u0590-\u08ff"
Anchor = Literal["start", "middle", "end"]


def _register(name: str, file: str) -> None:
    with (files("oddkettle.formats.booklet") / "fonts" / file).open("rb") as source:
        pdfmetrics.registerFont(TTFont(name, BytesIO(source.read())))


@lru_cache(maxsize=1)
def load_faces() -> None:
    """Tell the library of the faces that ship with the app; fallbacks wait until one is needed."""
    for name, file in OWN:
        _register(name, file)
    pdfmetrics.registerFontFamily(TEXT, normal=TEXT, bold=BOLD, italic=TEXT, boldItalic=BOLD)


@cache
def _has(name: str) -> frozenset[int]:
    """The characters that a face can draw."""
    if name in dict(FALLBACKS):
        _register(name, dict(FALLBACKS)[name])
    else:
        load_faces()
    return frozenset(pdfmetrics.getFont(name).face.charToGlyph)


def _face_of(character: str, own: str) -> str | None:
    """The first face that has it; None where none does."""
    code = ord(character)
    faces = (own, *(name for name, _ in FALLBACKS))
    return next((face for face in faces if code in _has(face)), None)


def _runs_right_to_left(text: str) -> bool:
    return any(unicodedata.bidirectional(c) in {"R", "AL"} for c in text)


def as_seen(text: str) -> str:
    """The text in the order in which it is seen from left to right, its letters joined."""
    if not _runs_right_to_left(text):
        return text
    from arabic_reshaper import reshape
    from bidi import get_display

    # A name of several words is read from its last line upwards where it is broken: it is not.
    whole = re.sub(f"(?<=[{LEFTWARDS}]) (?=[{LEFTWARDS}])", "\N{NO-BREAK SPACE}", text)
    return str(get_display(reshape(whole), base_dir="L"))


def runs(text: str, own: str = TEXT) -> list[tuple[str, str]]:
    """(face, characters) of a text in the order in which it is seen; `own` is its usual face."""
    load_faces()
    if all(ord(c) in _has(own) for c in text):
        return [(own, text)] if text else []
    drawn = []
    for character in as_seen(unicodedata.normalize("NFC", text)):
        face = _face_of(character, own)
        drawn.append((face, character) if face else ("OddWide", UNKNOWN))
    return [(f, "".join(c for _, c in some)) for f, some in groupby(drawn, lambda one: one[0])]


def marked(text: str) -> str:
    """The text for a paragraph: its markup characters as they are, other scripts in their faces."""
    return "".join(
        escape(some) if face == TEXT else f'<font name="{face}">{escape(some)}</font>'
        for face, some in runs(text)
    )


def put(
    pen: Any, at: tuple[float, float], text: str, face: str, size: float, anchor: Anchor = "start"
) -> None:
    """Draw a line of text on a canvas; `at` is in the canvas's own units, like `size`."""
    parts = runs(text, face)
    width = sum(pdfmetrics.stringWidth(some, of, size) for of, some in parts)
    x = at[0] - {"start": 0.0, "middle": width / 2, "end": width}[anchor]
    for of, some in parts:
        pen.setFont(of, size)
        pen.drawString(x, at[1], some)
        x += pdfmetrics.stringWidth(some, of, size)

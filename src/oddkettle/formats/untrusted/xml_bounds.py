"""Foreign XML is counted through before anything is built of it.

A small file can be nested, or declare names, so that a reader that builds it whole runs out of its
stack, its memory or its day. The parser here builds nothing: it only counts, and stops at a bound.
"""

from __future__ import annotations

from dataclasses import dataclass
from xml.parsers.expat import ExpatError, ParserCreate

MAX_DEPTH = 40
"""Elements within elements; a track needs six."""
MAX_ELEMENTS = 1_500_000
"""400,000 points with height and time are 1,200,000."""
MAX_NAMES = 200
"""Namespaces that are declared in all; a receiver's file has up to a dozen."""
MAX_ATTRIBUTES = 60
"""Of one element."""
MAX_TEXT = 100_000
"""Characters of one name or one text in it."""


class OutOfBounds(ValueError):
    """The file is none, or passes a bound; the message says which."""


@dataclass
class _Count:
    depth: int = 0
    elements: int = 0
    names: int = 0

    def begin(self, tag: str, attributes: list[str]) -> None:
        self.depth += 1
        self.elements += 1
        names = attributes[::2]
        self.names += sum(1 for name in names if name.startswith("xmlns"))
        if self.depth > MAX_DEPTH:
            raise OutOfBounds(f"It is nested more than {MAX_DEPTH} deep.")
        if self.elements > MAX_ELEMENTS:
            raise OutOfBounds(f"It has more than {MAX_ELEMENTS:,} elements.")
        if self.names > MAX_NAMES:
            raise OutOfBounds(f"It declares more than {MAX_NAMES} namespaces.")
        if len(names) > MAX_ATTRIBUTES:
            raise OutOfBounds(f"An element has more than {MAX_ATTRIBUTES} attributes.")
        if max(map(len, (tag, *attributes))) > MAX_TEXT:
            raise OutOfBounds(f"A name or a value is longer than {MAX_TEXT:,} characters.")

    def end(self, _tag: str) -> None:
        self.depth -= 1


def _no_entities(*_: object) -> None:
    raise OutOfBounds("It declares entities, which no such file needs.")


def check_bounds(data: bytes) -> None:
    """Count a file through. Raises OutOfBounds."""
    count = _Count()
    parser = ParserCreate()
    # Attributes as they stand, in order: no mapping is built of them.
    parser.ordered_attributes = True
    parser.buffer_text = False
    parser.StartElementHandler = count.begin
    parser.EndElementHandler = count.end
    parser.EntityDeclHandler = _no_entities
    parser.StartDoctypeDeclHandler = _no_entities
    try:
        parser.Parse(data, True)
    except ExpatError as error:
        raise OutOfBounds(f"It is no XML ({str(error)[:80]}).") from None

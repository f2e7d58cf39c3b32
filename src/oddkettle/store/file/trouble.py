"""What is wrong with a data file, in one sentence with its remedy."""

from __future__ import annotations

from pathlib import Path

from peewee import DatabaseError, PeeweeException

DATABASE_ERRORS: tuple[type[Exception], ...] = (DatabaseError, PeeweeException)
"""What the store may stumble over that is no fault of the one who asks."""

FULL = "full"
"""What the driver's own text says of a disk without room."""
SAYINGS = (
    (FULL, "The disk is full, and nothing was saved. Free some space and try again."),
    ("locked", "Another program holds {path}, and nothing was saved. Close it and try again."),
    ("busy", "Another program holds {path}, and nothing was saved. Close it and try again."),
    (
        "readonly",
        "{path} may only be read, and nothing was saved. Give yourself the right to write it, or "
        "point ODDKETTLE_DATA at another folder.",
    ),
    (
        "unable to open",
        "{path} cannot be opened. Give yourself the right to it, or point ODDKETTLE_DATA at "
        "another folder.",
    ),
    (
        "not a database",
        "{path} is no data file of Odd Kettle. Move it away, or bring a copy back with "
        "`oddkettle restore`.",
    ),
    (
        "malformed",
        "{path} is damaged. `oddkettle doctor` says what of it can be read; a copy is brought back "
        "with `oddkettle restore`.",
    ),
    ("disk i/o", "The disk does not answer as it should: {path} could not be read or written."),
)
UNKNOWN = "The data file {path} does not answer: {error}. `oddkettle doctor` looks at it."


class StoreTrouble(RuntimeError):
    """A data file that cannot be used; its text is for its owner.

    `disk_full` says that nothing but room is missing.
    """

    def __init__(self, text: str, *, disk_full: bool = False) -> None:
        super().__init__(text)
        self.disk_full = disk_full


def trouble_from(error: Exception, path: Path | None = None) -> StoreTrouble:
    """What an error of the database means, and what to do, with the file's name."""
    said = str(error).lower()
    name = "the data file" if path is None else str(path)
    part, text = next(((part, text) for part, text in SAYINGS if part in said), ("", UNKNOWN))
    found = text.format(path=name, error=error)
    return StoreTrouble(found[0].upper() + found[1:], disk_full=part == FULL)

"""Tables of sun and light on disk, so that a later start need not load what makes them.

They lie in the user's cache folder, in a folder named by a digest of the core's sources and of
the libraries that the tables come from: another digest is another folder, and old ones go. A file
that cannot be read or written is as if it were not there.
"""

from __future__ import annotations

import contextlib
import hashlib
import os
import shutil
import tempfile
import time
from functools import cached_property
from importlib.metadata import version
from pathlib import Path
from typing import Any
from zipfile import BadZipFile

import numpy as np
from numpy.typing import NDArray

CORE = Path(__file__).resolve().parents[1] / "core"
BOUND_BYTES = 64 * 2**20
MADE_BY = ("pvlib", "numpy")
UNUSED_S = 24 * 3600


class TableShelf:
    """A folder of arrays, one file a table, bounded in bytes; the least lately used go first."""

    def __init__(self, root: Path, core: Path = CORE) -> None:
        self.root = root
        self.core = core

    @cached_property
    def folder(self) -> Path:
        """The folder for this version's tables, made; other versions' old ones are removed."""
        folder = self.root / digest(self.core)
        with contextlib.suppress(OSError):
            folder.mkdir(parents=True, exist_ok=True)
            os.utime(folder)
            for other in self.root.iterdir():
                if other != folder and time.time() - other.stat().st_mtime > UNUSED_S:
                    shutil.rmtree(other, ignore_errors=True)
        return folder

    def load(self, name: str) -> dict[str, NDArray[Any]] | None:
        """The arrays under a name, by their own names; None when they are not there."""
        path = self.folder / f"{name}.npz"
        try:
            with np.load(path, allow_pickle=False) as file:
                parts = dict(file)
            os.utime(path)
        except (OSError, ValueError, EOFError, BadZipFile):
            return None
        return parts

    def store(self, name: str, parts: dict[str, NDArray[Any]]) -> None:
        """Write arrays under a name, whole or not at all."""
        try:
            with tempfile.NamedTemporaryFile(dir=self.folder, delete=False) as file:
                np.savez(file, **parts)  # type: ignore[arg-type]
            Path(file.name).replace(self.folder / f"{name}.npz")
            self._keep_in_bounds()
        except OSError:
            return

    def _keep_in_bounds(self) -> None:
        files = [(path.stat(), path) for path in self.folder.iterdir()]
        over = sum(stat.st_size for stat, _ in files) - BOUND_BYTES
        for stat, path in sorted(files, key=lambda found: found[0].st_mtime):
            if over <= 0:
                return
            path.unlink(missing_ok=True)
            over -= stat.st_size


def digest(core: Path = CORE) -> str:
    """20 hexadecimal digits of the core's sources and of what its tables are made with."""
    found = hashlib.sha256()
    for path in sorted(core.rglob("*.py")):
        found.update(path.relative_to(core).as_posix().encode() + b"\0" + path.read_bytes() + b"\0")
    for name in MADE_BY:
        found.update(f"{name} {version(name)}".encode())
    return found.hexdigest()[:20]

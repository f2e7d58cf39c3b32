"""How the kernel is compiled, and where its machine code is kept so that it is never out of date.

The compiler stamps what it keeps file by file: it does not see that a constant, or a function in
line, came from another file. So the code is kept in a folder named by a digest of all that it is
made of: every file of this package (which imports nothing else of the program), the compiler's,
numpy's and Python's versions, and the processor. Another digest is another folder, and nothing
old can be found in it. This is the one place of the core that knows of files.
"""

from __future__ import annotations

import contextlib
import hashlib
import logging
import os
import platform
import shutil
import sys
import tempfile
import time
from importlib import import_module
from importlib.util import find_spec
from pathlib import Path
from types import FunctionType

import numba
from numba.core.caching import _CacheLocator

KERNEL = Path(__file__).resolve().parent
FOLDERS_KEPT = 3
"""More than one, for two versions of the program may be in use by turns."""
UNUSED_S = 24 * 3600
"""A folder used within a day is left alone, whatever their number."""
VERSIONS = (("numba", "_version.py"), ("llvmlite", "_version.py"), ("numpy", "version.py"))
CPU_LINES = ("model name", "flags", "Features", "CPU part")

USUAL_LOCATORS = "UserProvidedCacheLocator,InTreeCacheLocator,UserWideCacheLocator"
"""The compiler's own, for functions that are not the kernel's."""
SPARED = (
    ("scipy.linalg.cython_blas", "numba.np.arraymath"),
    ("cffi", "numba.core.typing.cffi_utils"),
)

log = logging.getLogger(__name__)
FOLDER = ""
"""Where the machine code lies, once chosen."""


def digest(kernel: Path = KERNEL) -> str:
    """20 hexadecimal digits of everything that the machine code of a kernel's files is made of."""
    found = hashlib.sha256()
    for path in sorted(kernel.rglob("*.py")):
        found.update(path.relative_to(kernel).as_posix().encode() + b"\0")
        found.update(path.read_bytes() + b"\0")
    for package, file in VERSIONS:
        spec = find_spec(package)
        assert spec is not None
        assert spec.origin is not None
        found.update((Path(spec.origin).parent / file).read_bytes())
    switches = sorted(f"{k}={v}" for k, v in os.environ.items() if k.startswith("NUMBA_"))
    found.update(f"{sys.version} {platform.machine()} {_processor()} {switches}".encode())
    return found.hexdigest()[:20]


def _processor() -> str:
    """The processor's name and abilities: code made for one may not run on another."""
    try:
        lines = Path("/proc/cpuinfo").read_text(errors="replace").splitlines()
    except OSError:
        return platform.processor()
    return "\n".join(sorted({line for line in lines if line.startswith(CPU_LINES)}))


def cache_root() -> Path:
    """The user's cache folder of this program; ODDKETTLE_CACHE names another."""
    named = os.environ.get("ODDKETTLE_CACHE")
    if named:
        return Path(named).expanduser().absolute()
    from platformdirs import user_cache_path

    return user_cache_path("oddkettle")


def choose_folder() -> Path:
    """The folder for this kernel's machine code, made.

    Where it cannot be written, one that lasts as long as this process; that is said.
    """
    folder = cache_root() / "compiled" / digest()
    try:
        folder.mkdir(parents=True, exist_ok=True)
        with tempfile.TemporaryFile(dir=folder):
            os.utime(folder)
    except OSError as error:
        log.warning(
            "Compiled code cannot be kept in %s (%s): every start compiles anew, which takes "
            "about half a minute. Set ODDKETTLE_CACHE to a folder that can be written.",
            folder,
            error.strerror,
        )
        return Path(tempfile.mkdtemp(prefix="oddkettle-"))
    _clear_old(folder)
    if not any(folder.rglob("*.nbi")):
        log.warning("Compiling the simulation for this machine: once, about half a minute.")
    return folder


def _clear_old(folder: Path) -> None:
    """Remove the folders of other versions, but for the last few and those used within a day."""
    others: list[tuple[float, Path]] = []
    with contextlib.suppress(OSError):
        others = [(p.stat().st_mtime, p) for p in folder.parent.iterdir() if p != folder]
    for used_s, path in sorted(others, reverse=True)[FOLDERS_KEPT - 1 :]:
        if time.time() - used_s > UNUSED_S:
            shutil.rmtree(path, ignore_errors=True)


class DigestLocator(_CacheLocator):
    """Tells the compiler where a function of the kernel is kept: in the folder of its digest.

    The digest says all that is to be said of freshness, so neither the place nor the time of a file
    counts: another copy of the same program finds the same code.
    """

    def __init__(self, line: int) -> None:
        self.line = line

    def get_cache_path(self) -> str:
        """The folder."""
        return FOLDER

    def get_source_stamp(self) -> str:
        """The same for ever: another source is another folder."""
        return "by digest"

    def get_disambiguator(self) -> str:
        """What tells functions of one name apart."""
        return str(self.line)

    @classmethod
    def from_function(cls, function: FunctionType, file: str) -> DigestLocator | None:
        """A locator for a function of the kernel; None for anybody else's."""
        if Path(file).resolve().parent != KERNEL:
            return None
        return cls(function.__code__.co_firstlineno)


def _spare_what_is_not_used() -> None:
    """Keep the compiler from loading what it would only offer and the kernel has no use for.

    It looks for a library of linear algebra and for foreign functions, and loads all of scipy's
    and of cffi's on the way: a quarter of a second of every start.
    """
    for looked_for, part in SPARED:
        if looked_for in sys.modules:
            continue
        sys.modules[looked_for] = None  # type: ignore[assignment]
        try:
            import_module(part)
        finally:
            del sys.modules[looked_for]


if not numba.config.DISABLE_JIT:
    _spare_what_is_not_used()
    # The loop's inner loops turn once or thrice: making vectors of them doubles its time.
    numba.config.LOOP_VECTORIZE = 0
    FOLDER = str(choose_folder())
    numba.config.CACHE_LOCATOR_CLASSES = f"{__name__}.DigestLocator,{USUAL_LOCATORS}"

compiled = numba.njit(cache=True, nogil=True, error_model="numpy")
"""A function of its own in machine code."""
bare = numba.njit(cache=True, nogil=True, error_model="numpy", _nrt=False)
inlined = numba.njit(cache=True, nogil=True, error_model="numpy", inline="always", _nrt=False)
"""One that the compiler puts in line wherever it is called: a name for a concern, at no cost."""

"""For which kernel the tests of its compiling have passed: the compiled step against the plain one,
and that machine code follows its source.

They take as long as many other tests together, and say the same until a file of the kernel, or the
compiler, is another. `make kernel-stamp` runs them and writes the digest beside this file.
"""

from __future__ import annotations

import hashlib
import os
import subprocess
import sys
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
KERNEL = ROOT / "src" / "oddkettle" / "core" / "kernel"
STAMP = Path(__file__).with_name("kernel.stamp")
COMPILER = ("numba==", "llvmlite==", "numpy==")


def digest() -> str:
    """Of the kernel's files and of what compiles them, the same on every machine."""
    found = hashlib.sha256()
    for path in sorted(KERNEL.rglob("*.py")):
        found.update(path.relative_to(KERNEL).as_posix().encode() + path.read_bytes())
    locked = (ROOT / "requirements.lock").read_text().splitlines()
    found.update("".join(line for line in locked if line.startswith(COMPILER)).encode())
    return found.hexdigest()[:20]


def is_stamped() -> bool:
    """Whether the kernel is the one for which those tests have passed."""
    return STAMP.is_file() and STAMP.read_text().strip() == digest()


def main() -> int:
    """Run the tests of the kernel's compiling, and stamp it if they pass."""
    STAMP.unlink(missing_ok=True)
    tests = ["tests/physics/test_laws.py", "tests/core/kernel/test_compiler.py"]
    done = subprocess.run(
        [sys.executable, "-m", "pytest", *tests],
        cwd=ROOT,
        env=os.environ | {"ODDKETTLE_TIER": "test"},
        check=False,
    )
    if done.returncode == 0:
        STAMP.write_text(f"{digest()}\n")
    return done.returncode


if __name__ == "__main__":
    sys.exit(main())

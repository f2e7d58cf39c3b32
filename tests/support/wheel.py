"""The wheel, built and installed elsewhere."""

from __future__ import annotations

import shutil
import subprocess
import sys
import sysconfig
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
PIP = [sys.executable, "-m", "pip", "--quiet", "--disable-pip-version-check"]


def built_wheel(folder: Path) -> Path:
    """The wheel, built of a copy of the tree."""
    tree = folder / "tree"
    for name in ("src", "web/dist", "examples/plans"):
        shutil.copytree(ROOT / name, tree / name, ignore=shutil.ignore_patterns("*.egg-info"))
    for name in ("pyproject.toml", "setup.py", "README.md", "LICENSE", "THIRD-PARTY.md"):
        shutil.copy(ROOT / name, tree)
    build = [*PIP, "wheel", "--no-deps", "--no-build-isolation", "--wheel-dir", str(folder)]
    subprocess.run([*build, str(tree)], check=True, capture_output=True)
    return next(folder.glob("oddkettle-*.whl"))


def fresh_with(wheel: Path, folder: Path) -> Path:
    """A fresh environment with the wheel alone of ours; what it needs is lent by this one.

    A path in a `.pth` file lends its packages, but not what this environment itself runs from.
    """
    fresh = folder / "fresh"
    subprocess.run([sys.executable, "-m", "venv", "--without-pip", str(fresh)], check=True)
    site = next(fresh.glob("lib/python*/site-packages"))
    (site / "lent.pth").write_text(sysconfig.get_path("purelib"))
    python = str(fresh / "bin" / "python")
    install = [*PIP, "--python", python, "install", "--no-deps", "--no-index", "--force-reinstall"]
    subprocess.run([*install, str(wheel)], check=True, capture_output=True)
    return fresh

"""What is given away: every import declared, every package locked, one version."""

from __future__ import annotations

import ast
import re
import sys
import tomllib
from importlib.metadata import packages_distributions
from pathlib import Path

import pytest
from packaging.requirements import Requirement

from oddkettle import __version__

ROOT = Path(__file__).resolve().parents[2]
PROJECT = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]


def imported() -> set[str]:
    """Top-level packages of others that the program imports anywhere."""
    found: set[str] = set()
    for path in (ROOT / "src").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.Import):
                found |= {name.name.split(".")[0] for name in node.names}
            elif isinstance(node, ast.ImportFrom) and node.module and node.level == 0:
                found.add(node.module.split(".")[0])
    return found - set(sys.stdlib_module_names) - {"oddkettle"}


def test_every_import_is_declared() -> None:
    declared = {
        Requirement(line).name.lower().replace("_", "-") for line in PROJECT["dependencies"]
    }
    owners = packages_distributions()
    missing = {
        name
        for name in imported()
        if not declared & {owner.lower().replace("_", "-") for owner in owners.get(name, [name])}
    }
    assert missing == set()


def test_every_declared_package_is_in_the_lock_at_a_version_that_suits() -> None:
    text = (ROOT / "requirements.lock").read_text()
    lock = dict(re.findall(r"^(\S+)==(\S+)", text, re.M))
    locked = {name.lower().replace("_", "-"): version for name, version in lock.items()}
    for line in PROJECT["dependencies"]:
        wanted = Requirement(line)
        assert wanted.specifier.contains(locked[wanted.name.lower().replace("_", "-")]), line


def test_the_version_stands_in_one_place() -> None:
    assert "version" in PROJECT["dynamic"]
    assert f"## {__version__} " in (ROOT / "CHANGELOG.md").read_text()
    others = [
        path
        for path in (*ROOT.glob("*.toml"), ROOT / "web/package.json", ROOT / "setup.py")
        if __version__ in path.read_text()
    ]
    assert others == []


@pytest.mark.parametrize("name", ["requirements", "requirements-dev", "requirements-nightly"])
def test_every_locked_package_has_the_hashes_of_its_files(name: str) -> None:
    """So that nothing else than what was looked at is ever installed under its name."""
    text = (ROOT / f"{name}.lock").read_text()
    entries = re.split(r"\n(?=\S)", text.strip())
    assert len(entries) > 20
    for entry in entries:
        assert re.match(r"\S+==\S+ \\\n", entry), entry[:80]
        assert re.search(r"--hash=sha256:[0-9a-f]{64}", entry), entry[:80]

"""The documents speak of files that are there."""

from __future__ import annotations

import re
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
PLACES = (ROOT, ROOT / "src" / "oddkettle", ROOT / "web" / "src")
DOCUMENTS = sorted([*(ROOT / "docs").rglob("*.md"), ROOT / "README.md", ROOT / "CONTRIBUTING.md"])
NAMED = re.compile(r"`([\w.-]+(?:/[\w.-]+)*/?)`")
OURS = (".py", ".ts", ".tsx", ".mjs", ".md", ".js")


@pytest.mark.parametrize("document", DOCUMENTS, ids=lambda path: str(path.relative_to(ROOT)))
def test_every_file_that_is_named_is_there(document: Path) -> None:
    named = {
        name
        for name in NAMED.findall(document.read_text())
        if "/" in name and name.endswith((*OURS, "/"))
    }
    gone = sorted(name for name in named if not any((place / name).exists() for place in PLACES))
    assert gone == []


@pytest.mark.parametrize("document", DOCUMENTS, ids=lambda path: str(path.relative_to(ROOT)))
def test_every_link_to_a_file_leads_somewhere(document: Path) -> None:
    links = re.findall(r"\]\((?!https?:|#)([^)#]+)", document.read_text())
    gone = [link for link in links if not (document.parent / link).exists()]
    assert gone == []

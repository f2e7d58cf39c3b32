"""The documents speak of files that are there, and leave out nothing that is."""

from __future__ import annotations

import ast
import json
import re
import tomllib
from collections.abc import Iterator
from fnmatch import fnmatch
from pathlib import Path

import pytest

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.trip.blocks import BLOCK_KINDS
from oddkettle.plan.box import SOURCE_GROUPS
from oddkettle.usecases.explain.odds import DARKEST, SAID_AND_CAME
from oddkettle.usecases.field.log.kinds import LOG_KINDS

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


def codes() -> Iterator[str]:
    """Every judgement's code, as it stands in the source."""
    for path in (ROOT / "src/oddkettle/core/judgement").rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.keyword) and node.arg == "code":
                yield from (
                    one.value
                    for one in ast.walk(node.value)
                    if isinstance(one, ast.Constant) and isinstance(one.value, str)
                )


def test_every_judgement_is_listed_and_every_listed_one_is_there() -> None:
    told = (ROOT / "docs/judgements.md").read_text()
    rows = re.findall(r"^\| `[a-z_]+\.py` \| (.*) \|$", told, re.MULTILINE)
    listed = {re.sub(r" \(.*", "", one) for row in rows for one in re.split(r", (?![^(]*\))", row)}
    assert sorted(set(codes()) - listed) == []
    everything = "".join(p.read_text() for p in (ROOT / "src/oddkettle/core").rglob("*.py"))
    assert sorted(one for one in listed if f'"{one}"' not in everything) == []


@pytest.mark.parametrize(
    "keys",
    [
        [*CHEMISTRIES],
        [f"{group}[]" for group in SOURCE_GROUPS],
        [*BLOCK_KINDS],
        [kind.key for kind in LOG_KINDS],
    ],
    ids=["chemistries", "sources", "blocks", "entries"],
)
def test_the_open_format_names_every_kind(keys: list[str]) -> None:
    told = (ROOT / "docs/formats.md").read_text()
    assert [key for key in keys if f"`{key}`" not in told] == []


def dependencies() -> Iterator[str]:
    """Every package that a person chose, of both languages."""
    project = tomllib.loads((ROOT / "pyproject.toml").read_text())["project"]
    extras = project.get("optional-dependencies", {}).values()
    for line in (*project["dependencies"], *(one for extra in extras for one in extra)):
        yield re.split(r"[^\w.-]", line)[0]
    web = json.loads((ROOT / "web/package.json").read_text())
    yield from (*web["dependencies"], *web["devDependencies"])


def test_every_direct_dependency_is_explained() -> None:
    told = (ROOT / "README.md").read_text().split("## What each direct dependency is for")[1]
    rows = re.findall(r"^\| ([^|]+) \|", told, re.MULTILINE)
    named = [one.strip() for row in rows for one in row.split(",")]
    lacking = [one for one in dependencies() if not any(fnmatch(one, name) for name in named)]
    assert lacking == []


@pytest.mark.parametrize(
    ("row", "told"),
    [("places that chose no constant", SAID_AND_CAME), ("one satellite's Europe of 2019", DARKEST)],
)
def test_the_sum_of_the_odds_quotes_a_whole_row_of_the_page(
    row: str, told: tuple[tuple[int, int], ...]
) -> None:
    page = (ROOT / "docs" / "calibration.md").read_text()
    (line,) = (one for one in page.splitlines() if one.startswith("|") and row in one)
    pairs = " · ".join(f"{said}, {came}" for said, came in told)
    assert f"| {pairs} |" in line

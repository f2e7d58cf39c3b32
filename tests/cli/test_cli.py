"""The command line."""

from __future__ import annotations

import json
import socket
from pathlib import Path

import pytest
from typer.testing import CliRunner

from oddkettle import __version__
from oddkettle.cli import app
from tests.conftest import EXAMPLES, document_of, example

runner = CliRunner()
MOTH = str(EXAMPLES / "moth-survey.json")


def test_it_tells_its_version() -> None:
    result = runner.invoke(app, ["--version"])
    assert result.exit_code == 0
    assert result.output == f"oddkettle {__version__}\n"


def test_simulate_prints_the_result_document() -> None:
    result = runner.invoke(app, ["simulate", MOTH, "--json"])
    document = json.loads(result.output)
    assert result.exit_code == 0
    assert "series" not in document
    day = document["days"][0]
    assert {"sources", "draws", "net", "lowest_percent", "lowest_at", "unmet"} <= set(day)
    assert document["verdict"]["headline"]


def test_the_series_comes_when_asked_for() -> None:
    result = runner.invoke(app, ["simulate", MOTH, "--json", "--series"])
    assert len(json.loads(result.output)["series"]["volts"]) == 9 * 288


def test_without_json_it_answers_in_words() -> None:
    result = runner.invoke(app, ["simulate", MOTH])
    assert "goes under your reserve on Fri 12" in result.output
    assert "full cycles" in result.output
    assert result.output.count(" Jun 2026 ") == 9


def test_a_bad_plan_says_which_field_and_exits_with_two(tmp_path: Path) -> None:
    bad = tmp_path / "bad.json"
    bad.write_text(Path(MOTH).read_text().replace('"capacity_ah": 90.0', '"capacity_ah": 10000'))
    result = runner.invoke(app, ["simulate", str(bad)])
    assert result.exit_code == 2
    assert "box.battery.capacity_ah: 10000 is too much" in result.output
    assert "Enter 1500 Ah or less" in result.output


@pytest.mark.parametrize("content", [b"{", b"\x00\xff", b'{"version": 4}'])
def test_what_is_no_plan_exits_with_two(tmp_path: Path, content: bytes) -> None:
    bad = tmp_path / "bad.json"
    bad.write_bytes(content)
    assert runner.invoke(app, ["simulate", str(bad)]).exit_code == 2


def test_a_file_that_is_not_there_exits_with_two() -> None:
    result = runner.invoke(app, ["simulate", "nowhere.json"])
    assert result.exit_code == 2
    assert "nowhere.json" in result.output


def test_check_lists_what_an_experienced_builder_would_say(tmp_path: Path) -> None:
    sound = runner.invoke(app, ["check", MOTH.replace("moth-survey", "quarry-separate")])
    assert sound.exit_code == 0
    assert "usable-not-nameplate" in sound.output
    bad = tmp_path / "bad.json"
    document = document_of("moth-survey")
    document["box"]["battery"]["absorption_v"] = 15.0
    bad.write_text(json.dumps(document))
    grave = runner.invoke(app, ["check", str(bad)])
    assert grave.exit_code == 1
    assert grave.output.startswith("DANGER  profile-mismatch")
    assert "Set absorption to 14.2 V" in grave.output
    assert runner.invoke(app, ["check", "nowhere.json"]).exit_code == 2


def test_a_sheet_is_written_by_its_name(tmp_path: Path) -> None:
    out = tmp_path / "moth-booklet.pdf"
    result = runner.invoke(app, ["print", MOTH, str(out)])
    assert result.exit_code == 0
    assert out.read_bytes().startswith(b"%PDF")
    assert str(len(out.read_bytes())) in result.output


@pytest.mark.parametrize(
    ("out", "words"),
    [("poem.pdf", "names no sheet; let it end in"), ("no/such/parts.csv", "cannot be written")],
)
def test_a_sheet_that_cannot_be_written_is_refused(tmp_path: Path, out: str, words: str) -> None:
    result = runner.invoke(app, ["print", MOTH, str(tmp_path / out)])
    assert result.exit_code == 2
    assert words in result.output


def test_help_names_every_command_and_setting() -> None:
    text = runner.invoke(app, ["--help"]).output
    for word in ("serve", "demo", "simulate", "check", "ODDKETTLE_PORT", "ODDKETTLE_DATA"):
        assert word in text


def test_a_port_that_is_no_port_is_refused_in_words(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setenv("ODDKETTLE_PORT", "kettle")
    result = runner.invoke(app, ["serve"])
    assert result.exit_code == 2
    assert "ODDKETTLE_PORT=kettle cannot be" in result.output


def test_a_port_that_is_taken_is_said_and_nothing_is_written(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        monkeypatch.setenv("ODDKETTLE_PORT", str(taken.getsockname()[1]))
        monkeypatch.setenv("ODDKETTLE_DATA", str(tmp_path / "new"))
        result = runner.invoke(app, ["demo"])
    assert result.exit_code == 2
    assert "Set ODDKETTLE_PORT to another" in result.output
    assert not (tmp_path / "new").exists()


def test_simulate_names_what_limits_each_source() -> None:
    said = runner.invoke(app, ["simulate", str(EXAMPLES / "moth-survey.json")]).output
    for source in example("moth-survey").box.sources:
        (line,) = [one for one in said.splitlines() if one.startswith(f"  {source.name}: ")]
        assert line.rstrip().endswith(".")

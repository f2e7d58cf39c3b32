"""Photographs of labels: read by the system's program where there is one, told where not."""

from __future__ import annotations

from pathlib import Path

import pytest

from oddkettle.links import text_recognition
from oddkettle.links.text_recognition import NoRecognition, text_of

PNG = b"\x89PNG\r\n\x1a\n" + b"0" * 40


def program(folder: Path, monkeypatch: pytest.MonkeyPatch, does: str) -> None:
    """A stand-in for the recognition program, alone on the path beside the shell's own."""
    made = folder / text_recognition.PROGRAM
    made.write_text(f"#!/bin/sh\n{does}\n")
    made.chmod(0o755)
    monkeypatch.setenv("PATH", f"{folder}:/bin:/usr/bin")


def test_the_text_of_a_picture_is_what_the_program_prints(tmp_path, monkeypatch) -> None:
    program(tmp_path, monkeypatch, 'test "$(wc -c)" = 48 && echo "Voc 21.8 V"')
    assert text_of(PNG) == "Voc 21.8 V"


def test_without_the_program_it_says_what_to_install(tmp_path, monkeypatch) -> None:
    monkeypatch.setenv("PATH", str(tmp_path))
    assert not text_recognition.is_there()
    with pytest.raises(NoRecognition, match="tesseract-ocr"):
        text_of(PNG)


def test_what_is_no_picture_never_reaches_the_program(tmp_path, monkeypatch) -> None:
    program(tmp_path, monkeypatch, f"touch {tmp_path}/asked; echo text")
    with pytest.raises(NoRecognition, match="PNG"):
        text_of(b"%PDF-1.7")
    assert not (tmp_path / "asked").exists()


@pytest.mark.parametrize("does", ["exit 1", "true", "echo '   '"])
def test_a_picture_without_text_is_told_how_to_take_a_better_one(
    does, tmp_path, monkeypatch
) -> None:
    program(tmp_path, monkeypatch, does)
    with pytest.raises(NoRecognition, match="straight above"):
        text_of(PNG)


def test_a_program_that_hangs_is_ended(tmp_path, monkeypatch) -> None:
    program(tmp_path, monkeypatch, "exec sleep 60")
    monkeypatch.setattr(text_recognition, "TIMEOUT_S", 0.3)
    with pytest.raises(NoRecognition, match="Crop"):
        text_of(PNG)


def test_a_picture_that_grows_is_stopped_by_its_bound_of_memory(tmp_path, monkeypatch) -> None:
    program(tmp_path, monkeypatch, "ulimit -v; exit 0")
    assert text_of(PNG) == str(text_recognition.MEMORY_KB)

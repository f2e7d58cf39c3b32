"""What the environment may set."""

from __future__ import annotations

from pathlib import Path

import pytest
from pydantic import ValidationError

from oddkettle.settings import Settings


def test_port_and_data_come_from_the_environment(
    monkeypatch: pytest.MonkeyPatch, tmp_path: Path
) -> None:
    monkeypatch.setenv("ODDKETTLE_PORT", "9001")
    monkeypatch.setenv("ODDKETTLE_DATA", str(tmp_path))
    settings = Settings()
    assert (settings.port, settings.data) == (9001, tmp_path)


def test_without_them_there_are_usual_ones(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.delenv("ODDKETTLE_PORT", raising=False)
    monkeypatch.delenv("ODDKETTLE_DATA", raising=False)
    settings = Settings()
    assert settings.port == 8765
    assert settings.data.name == "oddkettle"


@pytest.mark.parametrize("port", ["0", "70000", "kettle"])
def test_a_port_that_cannot_be_is_refused(monkeypatch: pytest.MonkeyPatch, port: str) -> None:
    monkeypatch.setenv("ODDKETTLE_PORT", port)
    with pytest.raises(ValidationError):
        Settings()

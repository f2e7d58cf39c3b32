"""One record made of another: what is called the same is copied, what differs is named."""

from __future__ import annotations

from dataclasses import dataclass
from types import SimpleNamespace

import pytest
from pydantic import BaseModel

from oddkettle.core.values.copying import copied


@dataclass(frozen=True)
class Panel:
    power_w: float
    tilt_deg: float
    count: int = 1


class PanelModel(BaseModel):
    power_w: float
    tilt_deg: float = 0.0
    name: str = "a panel"


def test_what_is_called_the_same_is_copied_both_ways() -> None:
    model = PanelModel(power_w=100.0, tilt_deg=30.0)
    panel = copied(Panel, model)
    assert panel == Panel(100.0, 30.0, 1)
    assert copied(PanelModel, panel, name="roof") == model.model_copy(update={"name": "roof"})


def test_what_differs_goes_before_what_is_the_same() -> None:
    assert copied(Panel, Panel(100.0, 30.0, 2), power_w=50.0) == Panel(50.0, 30.0, 2)


def test_a_field_that_nobody_has_is_missed_by_its_name() -> None:
    with pytest.raises(TypeError, match="tilt_deg"):
        copied(Panel, SimpleNamespace(power_w=100.0))


def test_what_has_no_fields_is_no_record() -> None:
    with pytest.raises(TypeError, match="no fields"):
        copied(int, 3)

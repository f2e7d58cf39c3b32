"""Light on a panel at one moment, from the formulas that are named, worked without a library."""

from __future__ import annotations

from dataclasses import replace
from math import cos, radians

import numpy as np
import pytest

from oddkettle.core.sources.panel import Panel, light_on, panel_w, power_from_light
from oddkettle.core.weather.clear_sky import Sky

WHOLE = np.array([0, 1])
DNI, DHI, EXTRA, ZENITH = 800.0, 100.0, 1340.0, 40.0
GHI = DNI * cos(radians(ZENITH)) + DHI


def moment(azimuth: float = 180.0, zenith: float = ZENITH) -> Sky:
    """One moment with the sun in the south, 50 degrees high."""
    ones = np.ones(1)
    parts = {
        "zenith_deg": zenith,
        "azimuth_deg": azimuth,
        "ghi": GHI,
        "dni": DNI,
        "dhi": DHI,
        "extra_dni": EXTRA,
        "day_of_year": 160.0,
    }
    return Sky(**{name: value * ones for name, value in parts.items()})


def panel(mount: str, tilt: float = 0.0, azimuth: float = 180.0, **more: object) -> Panel:
    return Panel(100.0, mount, tilt, azimuth, False, **more)  # type: ignore[arg-type]


def by_hand(tilt: float, incidence: float) -> tuple[float, float]:
    """(direct, diffuse) by Hay and Davies (1980), the ground giving back a fifth."""
    seen = max(cos(radians(incidence)), 0.0)
    anisotropy = DNI / EXTRA
    around_sun = anisotropy * seen / cos(radians(ZENITH))
    rest = (1 - anisotropy) * (1 + cos(radians(tilt))) / 2
    ground = GHI * 0.2 * (1 - cos(radians(tilt))) / 2
    return DNI * seen, DHI * (around_sun + rest) + ground


@pytest.mark.parametrize(
    ("laid", "tilt", "incidence", "loss_w"),
    [
        (panel("flat", 30.0), 0.0, 40.0, 20.0),
        (panel("tilted", 40.0), 40.0, 0.0, 29.0),
        (panel("tilted", 60.0), 60.0, 20.0, 29.0),
        (panel("tilted", 70.0, 0.0), 70.0, 110.0, 29.0),
    ],
)
def test_light_is_direct_through_the_glass_and_most_of_what_is_diffuse(
    laid: Panel, tilt: float, incidence: float, loss_w: float
) -> None:
    """ASHRAE: 1 - .05 (1 / cos - 1) of direct light passes, .95 of the rest; Faiman's cells."""
    direct, diffuse = by_hand(tilt, incidence)
    passes = 1 - 0.05 * (1 / cos(radians(incidence)) - 1) if direct else 0.0
    light = light_on(laid, moment(), 15.0, WHOLE)
    assert light.effective[0] == pytest.approx(direct * passes + 0.95 * diffuse, rel=1e-6)
    assert light.cell_c[0] == pytest.approx(15.0 + (direct + diffuse) / loss_w, rel=1e-6)


def test_an_aimed_panel_faces_the_sun_but_never_steeper_than_it_stands() -> None:
    aimed = panel("aimed", aims=1)
    faced = light_on(panel("tilted", 40.0, 123.0), moment(123.0), 15.0, WHOLE)
    found = light_on(aimed, moment(123.0), 15.0, WHOLE)
    assert found.effective[0] == pytest.approx(faced.effective[0])
    low = light_on(aimed, moment(123.0, 85.0), 15.0, WHOLE)
    steepest = light_on(panel("tilted", 75.0, 123.0), moment(123.0, 85.0), 15.0, WHOLE)
    assert low.effective[0] == pytest.approx(steepest.effective[0])


def test_panels_give_by_their_number_their_light_and_their_warmth() -> None:
    """100 W at .35 % less a kelvin over 25, 97 % for dust and 98 % for mismatch."""
    light = light_on(panel("flat"), moment(), 15.0, WHOLE)
    warm = light.cell_c[0] - 25.0
    watts = 100.0 * light.effective[0] / 1000 * (1 - 0.0035 * warm) * 0.97 * 0.98
    assert panel_w(panel("flat"), moment(), 15.0)[0] == pytest.approx(watts)
    assert panel_w(panel("flat", count=3), moment(), 15.0)[0] == pytest.approx(3 * watts)
    burning = replace(light, cell_c=np.array([900.0]))
    assert power_from_light(100.0, -0.0035, burning)[0] == 0.0


def test_an_aimed_panel_is_turned_at_the_middle_of_each_part_of_the_light() -> None:
    """Nine moments of a day, the first and last two dark: two looks, at the second and fifth."""
    steps = 9
    sky = Sky(
        **{
            name: np.full(steps, value)
            for name, value in {"ghi": GHI, "dni": DNI, "dhi": DHI, "extra_dni": EXTRA}.items()
        },
        zenith_deg=np.array([95.0, 91.0, 80.0, 60.0, 40.0, 50.0, 70.0, 91.0, 95.0]),
        day_of_year=np.full(steps, 160.0),
        azimuth_deg=np.array([60.0, 80.0, 100.0, 130.0, 180.0, 200.0, 240.0, 270.0, 290.0]),
    )
    found = light_on(panel("aimed", 20.0, 180.0, aims=2), sky, 15.0, np.array([0, steps]))
    for at, tilt, azimuth in (
        (2, 60.0, 130.0),
        (4, 60.0, 130.0),
        (5, 70.0, 240.0),
        (6, 70.0, 240.0),
    ):
        laid = light_on(panel("tilted", tilt, azimuth), sky, 15.0, np.array([0, steps]))
        assert found.effective[at] == pytest.approx(laid.effective[at])

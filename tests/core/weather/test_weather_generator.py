"""The weather generator: its published check values, its streams, and the ends of the world."""

from __future__ import annotations

from datetime import date, timedelta

import numpy as np
import pytest

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.trip.grid import Site, lay_grid, zone_named
from oddkettle.core.weather.clear_sky import clear_sky
from oddkettle.core.weather.climate import CLIMATES, typical_day
from oddkettle.core.weather.sky_words import SKY_WORDS
from oddkettle.core.weather.weather_generator import (
    LOWEST,
    Doubt,
    Prospect,
    Skies,
    beta_quantile,
    draw_skies,
    holds,
)
from oddkettle.core.weather.within_day import SHAPES, day_shapes, solar_days, wavering

JUNE = date(2026, 6, 6)
USUAL = Prospect(0.68, 8.0, 17.0)
CHECKS = {
    0.5: (0.1340, 0.1760, 0.2903, 0.4778, 0.6918, 0.8615, 0.9402),
    0.7: (0.2555, 0.3382, 0.5128, 0.7270, 0.9090, 1.0161, 1.0541),
    0.9: (0.4727, 0.5920, 0.7931, 0.9690, 1.0629, 1.0924, 1.0977),
}
AT = (0.05, 0.10, 0.25, 0.50, 0.75, 0.90, 0.95)


def drawn(days: int = 9, count: int = 400, prospect: Prospect = USUAL, **doubt: float) -> Skies:
    return draw_skies(JUNE, 54.9, (prospect,) * days, Doubt(**doubt), count)  # type: ignore[arg-type]


@pytest.mark.parametrize("mean", CHECKS)
def test_daily_clearness_has_the_published_quantiles(mean: float) -> None:
    u = np.array(AT)
    part = np.full_like(u, (mean - LOWEST) / (1.10 - LOWEST))
    k = LOWEST + (1.10 - LOWEST) * beta_quantile(u, part, np.full_like(u, 3.0))
    np.testing.assert_allclose(k, CHECKS[mean], atol=6e-4)


def test_the_same_seed_gives_the_same_skies_and_another_seed_others() -> None:
    np.testing.assert_array_equal(drawn(seed=4).clearness, drawn(seed=4).clearness)
    assert not np.allclose(drawn(seed=4).clearness, drawn(seed=5).clearness)


def test_more_futures_and_more_days_leave_the_first_ones_as_they_were() -> None:
    few, many = drawn(5, 40), drawn(9, 200)
    for name in ("clearness", "low_c", "high_c", "shape"):
        np.testing.assert_array_equal(getattr(few, name), getattr(many, name)[:40, :5])


def test_days_hang_together() -> None:
    # Told of the place's mean and the ceiling, neighbours still go together by about a third.
    k = drawn(40, 1500, place=0.0).clearness
    near = np.corrcoef(k[:, :-1].ravel(), k[:, 1:].ravel())[0, 1]
    far = np.corrcoef(k[:, :-8].ravel(), k[:, 8:].ravel())[0, 1]
    assert 0.25 < near < 0.45
    assert abs(far) < 0.08


def test_what_is_not_known_of_the_place_widens_a_week_but_hardly_a_day() -> None:
    known, unknown = drawn(7, 1500, place=0.0).clearness, drawn(7, 1500, place=0.15).clearness
    assert unknown.mean(axis=1).std() > 1.4 * known.mean(axis=1).std()
    assert unknown[:, 0].std() < 1.3 * known[:, 0].std()


def test_settled_weather_spreads_less() -> None:
    assert drawn(settled=5.0).clearness.std() < drawn(settled=1.7).clearness.std() - 0.03


def test_a_word_pulls_its_day_and_holds_less_the_farther_ahead() -> None:
    clear = SKY_WORDS["heavy"]
    means = [
        drawn(1, 2000, Prospect(0.68, 8.0, 17.0, clear, ahead)).clearness.mean()
        for ahead in (1, 3, 5, 7, 20)
    ]
    assert means == sorted(means)
    assert means[0] == pytest.approx(0.85 * clear.mean + 0.15 * 0.68, abs=0.03)
    assert means[-1] == pytest.approx(0.25 * clear.mean + 0.75 * 0.68, abs=0.03)
    assert [holds(d) for d in (1, 2, 3, 4, 6, 9, 30)] == [0.85, 0.85, 0.75, 0.65, 0.5, 0.35, 0.25]


def test_the_chain_goes_on_from_a_day_that_was_foretold() -> None:
    dull = (Prospect(0.68, 8.0, 17.0, SKY_WORDS["heavy"], 1), USUAL)
    bright = (Prospect(0.68, 8.0, 17.0, SKY_WORDS["clear"], 1), USUAL)
    after = [
        draw_skies(JUNE, 54.9, p, Doubt(), 2000).clearness[:, 1].mean() for p in (dull, bright)
    ]
    assert after[1] > after[0] + 0.08


def test_warm_days_are_clear_in_summer_dull_in_winter_and_either_in_the_tropics() -> None:
    def tie(day: date, latitude: float) -> float:
        skies = draw_skies(day, latitude, (USUAL,) * 6, Doubt(place=0.0), 1500)
        mid = 0.5 * (skies.low_c + skies.high_c)
        return float(np.corrcoef(skies.clearness.ravel(), mid.ravel())[0, 1])

    january = date(2026, 1, 10)
    assert tie(JUNE, 54.9) > 0.1
    assert tie(january, 54.9) < -0.03
    assert tie(january, -33.9) > 0.1
    assert tie(JUNE, -33.9) < -0.03
    assert abs(tie(JUNE, 5.0)) < 0.06


def test_given_temperatures_are_held_closer_than_the_climates() -> None:
    given = Prospect(0.68, 8.0, 17.0, given=True)
    assert drawn(prospect=given).low_c.std() < 0.7 * drawn().low_c.std()


def test_highs_never_lie_under_lows() -> None:
    skies = drawn(30)
    assert (skies.high_c >= skies.low_c).all()


@pytest.mark.parametrize("count", [0, -3, 10_000_000])
def test_a_number_of_futures_that_cannot_be_is_refused(count: int) -> None:
    with pytest.raises(PlanError, match=r"scenarios were asked for") as refused:
        drawn(count=count)
    assert refused.value.value == count
    assert "2,000" in refused.value.limit


def test_a_leap_year_and_more_is_drawn_whole() -> None:
    days = tuple(
        Prospect(
            *vars(
                typical_day(CLIMATES["alpine"], date(2027, 12, 1) + timedelta(d), 46, 900)
            ).values()
        )
        for d in range(400)
    )
    skies = draw_skies(date(2027, 12, 1), 46.0, days, Doubt(), 20)
    assert skies.clearness.shape == (20, 400)
    assert np.isfinite(skies.clearness).all()
    assert ((skies.clearness >= 0.03) & (skies.clearness <= 1.30)).all()


def test_wavering_within_the_day_keeps_the_days_light() -> None:
    site = Site(54.9, -2.6, 310.0, "Europe/London")
    grid = lay_grid(JUNE, 3, zone_named(site.timezone), 5)
    ghi = clear_sky(site, grid).ghi
    parts, day = day_shapes(grid, site, ghi), solar_days(grid, site)
    kept = []
    for n in range(SHAPES):
        daily = np.array([0.5, 0.7, 0.9])
        k = wavering(daily, np.full(3, n), day, parts)
        kept.append((k * ghi).sum() / (daily[day] * ghi).sum())
    assert np.mean(kept) == pytest.approx(1.0, abs=0.01)
    assert np.std(kept) < 0.05


def test_a_heavy_days_darkest_moments_are_those_a_meter_shows() -> None:
    """A day of .29 has moments under .18, as measured under the darkest cloud; no whole day has."""
    site = Site(54.9, -2.6, 310.0, "Europe/London")
    grid = lay_grid(JUNE, 1, zone_named(site.timezone), 5)
    ghi = clear_sky(site, grid).ghi
    parts, day = day_shapes(grid, site, ghi), solar_days(grid, site)
    noon = ghi > 0.8 * ghi.max()
    dark = []
    for n in range(SHAPES):
        k = wavering(np.array([SKY_WORDS["heavy"].mean]), np.full(1, n), day, parts)[noon]
        dark.append(float(np.mean(k < 0.18)))
    assert 0.1 < np.mean(dark) < 0.4


def test_a_longer_step_wavers_less() -> None:
    site = Site(54.9, -2.6, 310.0, "Europe/London")
    spreads = []
    for step in (5, 15, 60):
        grid = lay_grid(JUNE, 1, zone_named(site.timezone), step)
        _, quick, _ = day_shapes(grid, site, clear_sky(site, grid).ghi)
        spreads.append(float(quick.std()))
    assert spreads == sorted(spreads, reverse=True)
    assert spreads[1] ** 2 / spreads[0] ** 2 == pytest.approx(0.68, abs=0.05)


@pytest.mark.parametrize(
    ("longitude", "zone"),
    [(179.99, "Pacific/Auckland"), (-179.99, "Pacific/Pago_Pago"), (0.0, "Asia/Shanghai")],
)
def test_solar_days_follow_the_sun_at_the_date_line_and_off_the_clock(
    longitude: float, zone: str
) -> None:
    site = Site(-10.0, longitude, 0.0, zone)
    grid = lay_grid(JUNE, 4, zone_named(zone), 30)
    ghi = clear_sky(site, grid).ghi
    days = solar_days(grid, site)
    noons = [int(np.argmax(ghi * (days == d))) for d in range(4)]
    assert np.diff(days).min() >= 0
    assert set(days) == {0, 1, 2, 3}
    assert all(40 <= gap <= 56 for gap in np.diff(noons[:3]))

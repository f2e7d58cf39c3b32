"""Voltages that one charger holds, when they are not the box's."""

from __future__ import annotations

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.sources.charge_profile import Profile
from oddkettle.plan import quantities as q
from oddkettle.plan.quantities import Part, Where, percent


class ProfileModel(Part):
    """Voltages that one charger holds, when they are not the box's."""

    absorption_v: q.ChargeVolts
    float_v: q.ChargeVolts
    tail_percent: q.TailPercent | None = None
    """Absorption ends when the battery takes less than this."""
    absorption_hours: q.AbsorptionHours | None = None
    """Absorption ends after so long at the latest."""
    compensated: bool = False
    """It follows the battery's temperature."""
    equalises: bool = False
    """It has an equalising or desulphating stage that cannot be switched off."""
    second_v: q.ChargeVolts | None = None
    """A second absorption after the first; none when absent."""
    second_hours: q.AbsorptionHours = 1
    """How long it holds that."""
    refresh_days: q.RefreshDays = 0
    """After so many days of float it charges anew; never at 0."""


def check_voltages(absorption: float, floating: float, where: Where, usual: float) -> None:
    """Refuse a float above absorption. Raises PlanError."""
    if floating > absorption:
        raise PlanError(
            f"Float at {floating:g} V lies above absorption at {absorption:g} V.",
            where=(*where, "float_v"),
            value=floating,
            limit=f"at most {absorption:g} V",
            remedy=f"Set float to {min(usual, absorption):g} V.",
        )


def profile_from(model: ProfileModel | None, where: Where) -> Profile | None:
    """A charger's own voltages; None for those of the box. Raises PlanError."""
    if model is None:
        return None
    check_voltages(model.absorption_v, model.float_v, (*where, "profile"), model.absorption_v)
    return Profile(
        model.absorption_v,
        model.float_v,
        percent(model.tail_percent),
        model.absorption_hours,
        model.compensated,
        model.equalises,
        model.second_v,
        0.0 if model.second_v is None else model.second_hours,
        model.refresh_days,
    )

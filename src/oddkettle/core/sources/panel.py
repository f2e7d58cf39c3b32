"""Panels: what falls on them and how warm they are, what their label says, what they give."""

from __future__ import annotations

from dataclasses import dataclass
from itertools import pairwise
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.messages.errors import PlanError
from oddkettle.core.units.conversion import CLASS_V
from oddkettle.core.weather.clear_sky import Sky

Floats = NDArray[np.float64]
Ints = NDArray[np.int64]
Mount = Literal["flat", "tilted", "aimed"]

DIRT_SHARE = 0.97
"""What a dusty panel still gives: 3 % lost [textbook]."""
MISMATCH_SHARE = 0.98
"""2 % lost between cells that are not quite equal [textbook]."""
ALBEDO = 0.2
ASHRAE_B = 0.05
DIFFUSE_PASS = 0.95
"""Share of diffuse light that passes the glass."""
FAIMAN_TILTED_U0, FAIMAN_FLAT_U0, FAIMAN_U1 = 29.0, 20.0, 0.0
"""Heat loss [W/(m2 K)]: a panel flat on a roof runs hotter than a free-standing one."""
USUAL_VMP_V = 18.0
"""Voltage at maximum power of a panel sold for 12 V boxes [textbook]."""
USUAL_VOC_OVER_VMP, USUAL_ISC_OVER_IMP = 1.2, 1.06
STC_W_M2, STC_C = 1000.0, 25.0
LABEL_SLACK = 0.2
STEEPEST_AIM_DEG = 75.0


@dataclass(frozen=True)
class Label:
    """What a panel's label says at standard test conditions [V, A, 1/K].

    `voc_per_k` is the change of open-circuit voltage and `power_per_k` that of power, per kelvin
    as a share, both negative [textbook: crystalline silicon]. `fuse_max_a` is the largest fuse
    that may stand in its string, "maximum series fuse" on the label; None where it is not typed.
    """

    voc_v: float
    vmp_v: float
    isc_a: float
    imp_a: float
    voc_per_k: float = -0.0029
    power_per_k: float = -0.0035
    fuse_max_a: float | None = None


def label_from_watts(power_w: float, class_v: float = CLASS_V) -> Label:
    """A typical label for a panel of which only the watts are known, made for `class_v` boxes."""
    vmp = USUAL_VMP_V * class_v / CLASS_V
    imp = power_w / vmp
    return Label(vmp * USUAL_VOC_OVER_VMP, vmp, imp * USUAL_ISC_OVER_IMP, imp)


@dataclass(frozen=True)
class Panel:
    """`count` equal panels of `power_w` each at standard test conditions.

    `tilt_deg` from flat, `azimuth_deg` from north. An `aimed` panel is turned to the sun `aims`
    times a day. A `portable` panel works only while it is out. Only a panel flat on the roof
    works while driving. Without a `label` it is taken to be made for boxes of `class_v`. One with
    a regulator of its own works at the battery's voltage, whatever controller follows.
    """

    power_w: float
    mount: Mount
    tilt_deg: float
    azimuth_deg: float
    portable: bool
    count: int = 1
    aims: int = 3
    label: Label | None = None
    class_v: float = CLASS_V
    own_regulator: bool = False

    @property
    def plate(self) -> Label:
        """The label, or the usual one for its watts."""
        return self.label or label_from_watts(self.power_w, self.class_v)


def check_label(panel: Panel, where: tuple[str | int, ...]) -> None:
    """Refuse a label whose figures contradict each other."""
    label = panel.label
    if label is None:
        return
    watts = label.vmp_v * label.imp_a
    if label.vmp_v >= label.voc_v:
        raise PlanError(
            f"Vmp of {label.vmp_v:g} V is not below Voc of {label.voc_v:g} V.",
            where=(*where, "vmp_v"),
            value=label.vmp_v,
            limit=f"below {label.voc_v:g} V",
            remedy="Vmp is the voltage at maximum power, Voc the open-circuit one: swap them.",
        )
    if label.imp_a >= label.isc_a:
        raise PlanError(
            f"Imp of {label.imp_a:g} A is not below Isc of {label.isc_a:g} A.",
            where=(*where, "imp_a"),
            value=label.imp_a,
            limit=f"below {label.isc_a:g} A",
            remedy="Imp is the current at maximum power, Isc the short-circuit one: swap them.",
        )
    if label.fuse_max_a is not None and label.fuse_max_a <= label.isc_a:
        raise PlanError(
            f"A series fuse of {label.fuse_max_a:g} A would not bear Isc, {label.isc_a:g} A.",
            where=(*where, "fuse_max_a"),
            value=label.fuse_max_a,
            limit=f"above {label.isc_a:g} A",
            remedy='It is the "maximum series fuse" of the label; leave it empty if none is there.',
        )
    if abs(watts - panel.power_w) > LABEL_SLACK * panel.power_w:
        raise PlanError(
            f"Vmp x Imp is {watts:.0f} W, but the panel is said to have {panel.power_w:g} W.",
            where=(*where, "imp_a"),
            value=label.imp_a,
            limit=f"about {panel.power_w / label.vmp_v:.2f} A at {label.vmp_v:g} V",
            remedy="Read both figures from the label once more.",
        )


@dataclass(frozen=True)
class Light:
    """What reaches a panel's cells; all (steps,).

    effective : plane-of-array light that passes the glass [W/m2]
    cell_c : cell temperature [C]
    """

    effective: Floats
    cell_c: Floats


def light_on(panel: Panel, sky: Sky, ambient_c: Floats | float, day_starts: Ints) -> Light:
    """Hay-Davies transposition, ASHRAE incidence loss on direct light, Faiman temperature."""
    from pvlib import iam, irradiance, temperature

    tilt, azimuth = _facing(panel, sky, day_starts)
    incidence = irradiance.aoi(tilt, azimuth, sky.zenith_deg, sky.azimuth_deg)
    plane = irradiance.get_total_irradiance(
        tilt,
        azimuth,
        sky.zenith_deg,
        sky.azimuth_deg,
        sky.dni,
        sky.ghi,
        sky.dhi,
        dni_extra=sky.extra_dni,
        albedo=ALBEDO,
        model="haydavies",
    )
    direct = np.nan_to_num(np.asarray(plane["poa_direct"]))
    diffuse = np.nan_to_num(np.asarray(plane["poa_diffuse"]))
    passes = np.nan_to_num(np.asarray(iam.ashrae(incidence, b=ASHRAE_B)))
    effective = np.maximum(direct * passes + DIFFUSE_PASS * diffuse, 0.0)
    u0 = FAIMAN_FLAT_U0 if panel.mount == "flat" else FAIMAN_TILTED_U0
    cell_c = temperature.faiman(direct + diffuse, ambient_c, 1.0, u0=u0, u1=FAIMAN_U1)
    return Light(effective, np.asarray(cell_c, np.float64))


def _facing(panel: Panel, sky: Sky, day_starts: Ints) -> tuple[Floats, Floats]:
    """(tilt, azimuth) by step: fixed, or aimed at the middle of each of `aims` parts of a day."""
    steps = len(sky.zenith_deg)
    if panel.mount != "aimed":
        tilt = 0.0 if panel.mount == "flat" else panel.tilt_deg
        return np.full(steps, tilt), np.full(steps, panel.azimuth_deg)
    tilts, azimuths = np.full(steps, panel.tilt_deg), np.full(steps, panel.azimuth_deg)
    for first, last in pairwise(day_starts):
        up = np.flatnonzero(sky.zenith_deg[int(first) : int(last)] < 90.0) + int(first)
        for part in np.array_split(up, panel.aims):
            if len(part):
                middle = part[len(part) // 2]
                tilts[part] = min(float(sky.zenith_deg[middle]), STEEPEST_AIM_DEG)
                azimuths[part] = sky.azimuth_deg[middle]
    return tilts, azimuths


def power_from_light(power_w: float, power_per_k: float, light: Light) -> Floats:
    """(steps,) DC power [W] by PVWatts with dirt and mismatch taken off.

    Source: Dobos, PVWatts Version 5 Manual, NREL/TP-6A20-62641 (2014), equation 8.
    """
    warm = light.cell_c - STC_C
    watts = light.effective * 0.001 * power_w * (1.0 + power_per_k * warm)
    return np.asarray(np.maximum(watts, 0.0) * DIRT_SHARE * MISMATCH_SHARE)


def panel_w(panel: Panel, sky: Sky, ambient_c: Floats | float) -> Floats:
    """(steps,) DC power of these panels at their terminals [W], losses taken off."""
    whole = np.array([0, len(sky.zenith_deg)])
    light = light_on(panel, sky, ambient_c, whole)
    return power_from_light(panel.power_w * panel.count, panel.plate.power_per_k, light)

"""The shape of a chemistry's data. Values are for a 12 V class battery of 100 Ah at 25 C."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

Mark = Literal["measured", "fitted", "textbook", "judgement"]
"""How sure a value is: held against a reference simulation; fitted to it; typical; opinion."""


@dataclass(frozen=True)
class Source:
    """Where a value comes from and how far to trust it."""

    mark: Mark
    says: str


@dataclass(frozen=True)
class Resistance:
    """Internal resistance against state of charge [mOhm per 100 Ah at 12 V class].

    `R(s) = base*(1 + swell*exp(-s/reach)) + leads` with `hyperbola` 0 (lithium), or
    `R(s) = (base + hyperbola/(s + offset)) * scale` (lead). Valid for s in 0..1.
    """

    base_mohm: float
    swell: float = 0.0
    reach: float = 1.0
    leads_mohm: float = 0.0
    hyperbola_mohm: float = 0.0
    offset: float = 1.0
    scale: float = 1.0


@dataclass(frozen=True)
class Wells:
    """Kinetic two-well model: share of the available well, rate, and largest charge.

    `share` c in 0..1, `rate_per_h` k [1/h], `largest` qmax in rated capacities. A share of 1
    switches the lag off. Source: Manwell and McGowan's kinetic battery model, written as
    state of charge plus lag.
    """

    share: float = 1.0
    rate_per_h: float = 1.0
    largest: float = 1.0


@dataclass(frozen=True)
class Chemistry:
    """Everything the model needs to know of one chemistry.

    Voltages are for a 12 V class battery [V]; currents are in C (capacities an hour);
    `ocv` is pairs of state of charge 0..1 and rested voltage [V].
    """

    key: str
    name: str
    nominal_v: float
    ocv: tuple[tuple[float, float], ...]
    resistance: Resistance
    wells: Wells
    charge_limit_c: float
    alpha_per_h: float
    coulombic_low: float
    coulombic_full: float
    absorption_v: float
    float_v: float
    never_above_v: float
    tail_c: float
    absorption_hours: float
    cutoff_v: float
    usable_share: float
    sources: Mapping[str, Source]

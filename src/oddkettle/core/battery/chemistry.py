"""The shape of a chemistry's data. Values are for a 12 V class battery of 100 Ah at 25 C."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from oddkettle.core.messages.caution import Caution

Floats = NDArray[np.float64]

Mark = Literal["measured", "fitted", "textbook", "judgement", "datasheet"]
"""How sure a value is: held against a reference simulation; fitted to it; typical; opinion;
typed in by the user from the maker's sheet."""


@dataclass(frozen=True)
class Source:
    """Where a value comes from and how far to trust it."""

    mark: Mark
    text: str


LEAD_ACCEPTANCE_SD = 0.25
"""Spread of lead's acceptance: no public reference tells it, and it changes with age, make and how
long a battery has stood empty [judgement]. Lithium's is no limit."""


@dataclass(frozen=True)
class Resistance:
    """Internal resistance against state of charge [mOhm per 100 Ah at 12 V class].

    `R(s) = base*(1 + swell*exp(-s/reach)) + leads` with `hyperbola` 0 (lithium), or
    `R(s) = (base + hyperbola/(s + offset)) * scale` (lead). Valid for s in 0..1. All but the
    leads grow in the cold by `exp(activation/8.314 * (1/T - 1/298.15))`, T in kelvin; the
    activation energy is in J/mol.
    """

    base_mohm: float
    swell: float = 0.0
    reach: float = 1.0
    leads_mohm: float = 0.0
    hyperbola_mohm: float = 0.0
    offset: float = 1.0
    scale: float = 1.0
    activation_j_mol: float = 28_000.0

    def cells_mohm(self, state: Floats) -> Floats:
        """Resistance without leads at states of charge 0..1, at 25 C [mOhm per 100 Ah]."""
        swollen = self.base_mohm * (1.0 + self.swell * np.exp(-state / self.reach))
        return np.asarray((swollen + self.hyperbola_mohm / (state + self.offset)) * self.scale)


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
class Cold:
    """What cold does to charging and to content.

    No charge at all below `barred_below_c`; no more than `gentle_c` capacities an hour below
    `gentle_below_c`. `content_per_k` is the share of capacity lost per kelvin below 25 C,
    `content_gain_per_k` won above it, up to `content_most`. Acceptance (alpha) halves every
    `acceptance_halving_k` kelvin below 25 C and rises to at most `acceptance_most` above.
    """

    barred_below_c: float
    gentle_below_c: float
    gentle_c: float
    content_per_k: float = 0.0
    content_gain_per_k: float = 0.0
    content_most: float = 1.0
    acceptance_halving_k: float = 1e9
    acceptance_most: float = 1.0


@dataclass(frozen=True)
class Life:
    """Cycles until 80 % is left: `cycles_at_full * depth**-exponent`, and years on the shelf."""

    cycles_at_full: float
    calendar_years: float
    exponent: float = 1.2
    known_within: float = 1.5
    """Batteries of one kind reach between so little of it and so much: a factor either way
    [judgement: data sheets and laboratories differ so for one chemistry]."""

    def years(self) -> tuple[float, float]:
        """Between how many years it is usually good for."""
        return self.calendar_years / self.known_within, self.calendar_years * self.known_within

    def span(self, share: float) -> tuple[float, float]:
        """Between which shares of its life lies what is expected to be `share` of it."""
        return share / self.known_within, share * self.known_within


Span = tuple[float, float]
"""From and to."""


@dataclass(frozen=True)
class ChargeWindow:
    """Between what chargers are set for a chemistry [V at 12 V class and 25 C].

    `absorption_h` is how long absorption is held at the most where no current ends it [h], `tail_c`
    the current that ends it [capacities an hour]. Source: the chemistry's `sources["window"]`.
    """

    absorption_v: Span
    float_v: Span
    absorption_h: Span
    tail_c: Span


@dataclass(frozen=True)
class Chemistry:
    """Everything the model needs to know of one chemistry.

    Voltages are for `cells` cells in series [V], a 12 V class battery; currents are in C
    (capacities an hour); `ocv` is pairs of state of charge 0..1 and rested voltage [V].

    What else is known of the kind stands here too, so that a new one is one new file: `place` in
    lists (the most usual first), `words` that introduce it and how labels have it `written`, as a
    pattern; `vented` cells give off gas and want
    water, lead that is not is `sealed`; `short_mohm` is what a dead short meets in a charged one
    [mOhm per 100 Ah], on the low side, and `short_floor_mohm` what links, posts and the switches of
    a management system leave of it in the largest [mOhm for 12 V]; leads are left out; typical
    `euro_per_kwh` and `wh_per_litre` as sold, case and all [judgement]; the level at which it is
    stored for months (from, to); after how many days without a full charge it suffers, None for
    never; and the cautions that go with it. `charge_resistance` is what charge meets, where that
    has a shape of its own: the swelling towards empty is a matter of discharge. `window` is what
    may be keyed in, and `peukert` the exponent by which a monitor reckons less content at a greater
    current: `I**n * t` is constant; the model itself has two wells or resistance in its place.
    """

    key: str
    name: str
    place: int
    words: str
    written: str
    lead: bool
    cells: int
    nominal_v: float
    ocv: tuple[tuple[float, float], ...]
    resistance: Resistance
    wells: Wells
    cold: Cold
    life: Life
    charge_limit_c: float
    discharge_limit_c: float
    alpha_per_h: float
    coulombic_low: float
    coulombic_full: float
    self_discharge_month: float
    absorption_v: float
    float_v: float
    never_above_v: float
    compensation_v_per_k: float
    tail_c: float
    absorption_hours: float
    window: ChargeWindow
    peukert: float
    cutoff_v: float
    usable_share: float
    kg_per_ah: float
    wh_per_litre: float
    euro_per_kwh: float
    short_mohm: float
    store_level: tuple[float, float]
    sources: Mapping[str, Source]
    short_floor_mohm: float = 0.0
    vented: bool = False
    full_within_days: float | None = None
    cautions: tuple[Caution, ...] = ()
    charge_resistance: Resistance | None = None

    @property
    def acceptance_sd(self) -> float:
        """How far a battery may take absorption faster or slower than this, as a share."""
        return LEAD_ACCEPTANCE_SD if self.lead else 0.0

    @property
    def charging(self) -> Resistance:
        """What charge meets: its own shape where one is known, else as discharge; same leads."""
        return self.charge_resistance or self.resistance

    def euro(self, nominal_wh: float) -> float:
        """Typical price of a battery of this kind [euro, judgement]."""
        return self.euro_per_kwh * nominal_wh / 1000.0

    @property
    def sealed_lead(self) -> bool:
        """Valve-regulated lead: it cannot be topped up, and heat vents it for good."""
        return self.lead and not self.vented

"""A box stepped in plain Python, written from docs/how-it-works.md and docs/physics.md.

It shares nothing with the core but the tables of a bank: the bus is found by looking at every
voltage, not by Newton's method, and one step is one readable function. Slow, and that is all right.
"""

from __future__ import annotations

from dataclasses import dataclass, field
from typing import Any

import numpy as np

GRID = np.arange(-200, 1301) / 1000.0
COLDEST_C, TENTHS = -40.0, 10
COMES_BACK_AT, LOADS_COME_BACK = 0.03, 0.05
FLOAT_SAG_V, NEARLY_FULL, COLLAPSE = 0.3, 0.99, 0.6
BULK, ABSORPTION, FLOAT = 0, 1, 2


@dataclass
class PlainBank:
    """A bank's tables (as `bank_tables` freezes them) and its state."""

    tables: Any
    soc: float
    celsius: float = 25.0
    lag: float = 0.0
    amps: float = 0.0
    pinned: float | None = None

    def ready(self) -> None:
        numbers, curves = self.tables.bank, self.tables.curves
        row = self.tables.by_temperature[
            int((min(max(self.celsius, COLDEST_C), 80.0) - COLDEST_C) * TENTHS + 0.5)
        ]
        self.head = self.soc - self.lag
        grid = GRID[: len(curves)]
        k = int(np.searchsorted(grid, self.head + 1e-12, side="right")) - 1
        slope = (curves["ocv_v"][k + 1] - curves["ocv_v"][k]) * 1000.0
        ohm = numbers["lead_ohm"] + row["ohm_factor"] * np.interp(
            self.head, grid, curves["cell_ohm"]
        )
        charging = numbers["lead_ohm"] + row["ohm_factor"] * np.interp(
            self.head, grid, curves["charge_ohm"]
        )
        absorbs = np.interp(self.soc, grid, curves["accept_ohm"])
        accepts = max(charging, numbers["accept_scale"] * row["accept_factor"] * absorbs)
        fills, lags = numbers["soc_per_a"], numbers["lag_gain"]
        recovery = slope * self.lag * (1.0 - numbers["lag_decay"])
        # By the middle of the step half of what it changes has happened; by its end, all.
        self.mid_v = np.interp(self.head, grid, curves["ocv_v"]) + recovery / 2.0
        self.end_v = self.mid_v + recovery / 2.0
        self.ohm, self.in_ohm, self.fall = ohm, charging, fills + lags
        self.charging_ohm = accepts + slope * fills / 2.0
        self.giving_ohm = ohm + slope * (fills + lags) / 2.0
        self.charging_end_ohm = accepts + slope * fills
        self.giving_end_ohm = ohm + slope * (fills + lags)
        self.drift_ohm = slope * (fills + lags)
        self.left = max(self.head - row["empty_head"], 0.0)
        self.leak = row["leak"] if self.soc > row["leak"] else 0.0
        self.kept = np.interp(self.soc, grid, curves["coulombic"])
        cold = 1e12
        if self.celsius < numbers["gentle_c"]:
            cold = numbers["gentle_a"]
        if self.celsius < numbers["barred_c"]:
            cold = 0.0
        full = (1.0 - self.soc) * numbers["fill_a"]
        self.most_a = max(min(numbers["charge_limit_a"], full, cold), 0.0)
        self.pinned, self.amps = None, 0.0

    def at(self, volts: float) -> float:
        """Current that flows in at a bus voltage, as a mean over the step [A]."""
        if self.pinned is not None:
            return self.pinned
        lift = volts - self.mid_v
        return float(lift / (self.charging_ohm if lift > 0 else self.giving_ohm))

    def at_end(self, volts: float) -> float:
        """The same at the end of the step: a charger's voltage is not passed there."""
        lift = volts - self.end_v
        return float(lift / (self.charging_end_ohm if lift > 0 else self.giving_end_ohm))

    def move(self, heat_w: float, air_c: float) -> None:
        numbers = self.tables.bank
        change = self.amps * numbers["soc_per_a"]
        self.lag *= numbers["lag_decay"]
        if self.amps > 0.0:
            change *= self.kept
        else:
            self.lag -= self.amps * numbers["lag_gain"]
        self.soc = min(1.0, self.soc + change - self.leak)
        warms = self.amps**2 * (self.in_ohm if self.amps > 0 else self.ohm) + heat_w
        settles = air_c + numbers["offset_k"] + warms * numbers["k_per_w"]
        self.celsius = settles + (self.celsius - settles) * numbers["heat_decay"]


@dataclass
class PlainCharger:
    """A charger, or with `wire_s` a relay: `settings` is one record as `Sources` has them."""

    settings: Any
    stage: int = BULK
    waited: int = 0
    taken: float = 0.0
    held: bool = False
    cap: float = 0.0
    set_v: float = field(default=1e9)

    @property
    def relay(self) -> bool:
        return bool(self.settings["feed_s"] > 0.0)

    def aim(self, banks: list[PlainBank], most_a: float) -> None:
        self.cap, self.set_v = most_a, 1e9
        if self.relay:
            return
        holds = self.settings["float_v"] if self.stage == FLOAT else self.settings["absorb_v"]
        self.set_v = holds + self.settings["comp_v_per_k"] * (banks[0].celsius - 25.0)
        self.cap = min(most_a, sum(bank.at_end(self.set_v) for bank in banks))

    def move(self, volts: float, level: float, into: float) -> None:
        if self.relay:
            return
        if self.stage == FLOAT:
            if volts < self.settings["float_v"] - FLOAT_SAG_V:
                self.stage, self.waited = BULK, 0
        elif self.held or level > NEARLY_FULL:
            self.stage, self.waited = ABSORPTION, self.waited + 1
            if into < self.settings["tail_a"] or self.waited >= self.settings["absorb_steps"]:
                self.stage = FLOAT


@dataclass
class PlainBox:
    """Everything of a box; `step` moves it on by one step and says (volts, into, served)."""

    banks: list[PlainBank]
    chargers: list[PlainCharger]
    shed_below: list[float]
    shared_a: float = 1e12
    heater: tuple[float, float, float] = (0.0, 4.0, 8.0)
    off: int = 0
    cut: bool = False
    heating: bool = False

    def step(self, offers: Any, asked: Any, air_c: float) -> tuple[float, float, float]:
        for bank in self.banks:
            bank.ready()
        sizes = [bank.tables.bank["capacity_ah"] for bank in self.banks]
        held = sum(bank.soc * size for bank, size in zip(self.banks, sizes, strict=True))
        level = held / sum(sizes)
        if self.cut and max(bank.left for bank in self.banks) > COMES_BACK_AT:
            self.cut = False
        while self.off < len(self.shed_below) and level < self.shed_below[self.off]:
            self.off += 1
        while self.off and level > self.shed_below[self.off - 1] + LOADS_COME_BACK:
            self.off -= 1
        pads_w = self._pads(air_c)
        on = self._line_up(offers)
        ask = asked[self.off]
        whole = (ask["power_w"] + pads_w, ask["current_a"], ask["conductance_s"])
        volts, into, served = self._settle(on, offers, whole)
        for place, bank in enumerate(self.banks):
            bank.move(pads_w * served if place == 0 else 0.0, air_c)
        for j in on:
            self.chargers[j].move(volts, level, into)
        return volts, into, served

    def _pads(self, air_c: float) -> float:
        watts, below, until = self.heater
        first, numbers = self.banks[0], self.banks[0].tables.bank
        if first.celsius >= until:
            self.heating = False
        elif first.celsius < below:
            self.heating = True
        if not (self.heating and watts):
            return 0.0
        without = air_c + numbers["offset_k"]
        without += (first.celsius - without) * numbers["heat_decay"]
        lifts = watts * numbers["k_per_w"] * (1.0 - numbers["heat_decay"])
        return float(watts * min(max((until - without) / lifts, 0.0), 1.0))

    def _line_up(self, offers: Any) -> list[int]:
        most = sum(bank.most_a for bank in self.banks)
        on = []
        for j, charger in enumerate(self.chargers):
            if offers[j]["limit_a"] <= 0.0:
                charger.stage, charger.waited, charger.taken = BULK, 0, 0.0
            else:
                charger.aim(self.banks, most)
                on.append(j)
        return sorted(on, key=lambda j: -self.chargers[j].set_v)

    def _given(self, volts: float, on: list[int], offers: Any, drawn: float, whole: bool) -> float:
        total, shared = 0.0, self.shared_a
        for j in on:
            charger, offer = self.chargers[j], offers[j]
            if charger.relay:
                amps = (offer["emf_v"] - volts) * charger.settings["feed_s"]
                forced = offer["power_w"] > 0.0 and whole
                amps = max(amps, -offer["limit_a"] if forced else 0.0)
            else:
                amps = offer["power_w"] / volts
            amps = min(amps, offer["limit_a"])
            if charger.settings["shared"]:
                amps = min(amps, shared)
            room = charger.cap + drawn - total
            charger.held = bool(amps > room)
            charger.taken = min(amps, max(room, 0.0)) if charger.held else amps
            if charger.settings["shared"]:
                shared -= charger.taken
            total += charger.taken
        return total

    def _solve(
        self, on: list[int], offers: Any, whole: tuple[float, float, float], served: float
    ) -> tuple[float, float]:
        """(volts, sources less loads) where that is what the banks take; zeros if nowhere."""
        watts, amps, siemens = (part * served for part in whole)

        def net(volts: float) -> float:
            drawn = watts / volts + amps + siemens * volts
            return self._given(volts, on, offers, drawn, served == 1.0) - drawn

        def over(volts: float) -> float:
            return net(volts) - sum(bank.at(volts) for bank in self.banks)

        floor = COLLAPSE * self.banks[0].mid_v
        high = 40.0
        low = high
        while over(low) <= 0.0:
            high, low = low, low - 0.25
            if low < floor - 0.5:
                return 0.0, 0.0
        for _ in range(50):
            middle = (low + high) / 2.0
            low, high = (middle, high) if over(middle) > 0.0 else (low, middle)
        return (low, net(low)) if low > floor else (0.0, 0.0)

    def _settle(
        self, on: list[int], offers: Any, whole: tuple[float, float, float]
    ) -> tuple[float, float, float]:
        served = 0.0 if self.cut else 1.0
        volts, into = self._shared(on, offers, whole, served)
        if not served or (into >= 0.0 and volts):
            return volts, into, served
        part = self._carried(volts)
        if part >= 1.0:
            return volts, into, served
        self.cut = True
        self._free()
        volts, into = self._shared(on, offers, whole, part)
        if not volts:
            part = 0.0
            volts, into = self._shared(on, offers, whole, part)
        return volts, into, part

    def _shared(
        self, on: list[int], offers: Any, whole: tuple[float, float, float], served: float
    ) -> tuple[float, float]:
        """Solve, and solve again with a bank held to what it has left if just one would run dry."""
        volts, into = self._solve(on, offers, whole, served)
        if volts:
            dry = [bank for bank in self.banks if -bank.at(volts) * bank.fall > bank.left]
            if len(self.banks) > 1 and len(dry) == 1:
                dry[0].pinned = -dry[0].left / dry[0].fall
                volts, into = self._solve(on, offers, whole, served)
        for bank in self.banks:
            bank.amps = bank.at(volts) if volts else 0.0
        return volts, into

    def _free(self) -> None:
        for bank in self.banks:
            bank.pinned = None

    def _carried(self, volts: float) -> float:
        if not volts:
            return 0.0
        giving = [bank for bank in self.banks if bank.amps < 0.0]
        part = min(bank.left / (-bank.amps * bank.fall) for bank in giving)
        weight = [1.0 / bank.giving_ohm for bank in giving]
        moves = [-bank.amps * bank.drift_ohm for bank in giving]
        drift = sum(m * w for m, w in zip(moves, weight, strict=True)) / sum(weight)
        stops = max(bank.tables.bank["cutoff_v"] for bank in self.banks)
        begin, end = volts + drift / 2.0, volts - drift / 2.0
        if end < stops:
            part = min(part, max((begin - stops) / (begin - end), 0.0))
        return float(min(part, 1.0))

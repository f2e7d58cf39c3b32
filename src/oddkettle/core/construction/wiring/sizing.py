"""Cable, fuse and connector for every circuit: the smallest that do, unless the user fixed them."""

from __future__ import annotations

from dataclasses import dataclass, replace

from oddkettle.core.construction.wiring.cable import (
    CHARGING_DROP,
    LEAST_MM2,
    OTHER_DROP,
    run_ohm,
    sizes_of,
)
from oddkettle.core.construction.wiring.cable_run import CableRun
from oddkettle.core.construction.wiring.circuits import (
    AT_BATTERY,
    BAR,
    CHARGING,
    LOW_BAR,
    OUTLETS,
    TOGETHER,
    Board,
    Circuit,
    Need,
)
from oddkettle.core.construction.wiring.connectors import (
    CONNECTORS,
    contacts_ohm,
    plug_class,
    usual_connector,
)
from oddkettle.core.construction.wiring.currents import charging_v
from oddkettle.core.construction.wiring.fuses import (
    FAMILIES,
    LOAD_FACTOR,
    family_for,
    largest_family,
    least_size_a,
    post_fuse,
)
from oddkettle.core.construction.wiring.panel_strings import (
    PANEL_BEARS_A,
    string_fuse_a,
    wants_fuses,
)
from oddkettle.core.construction.wiring.requirements import needs_of
from oddkettle.core.construction.wiring.short_circuit import (
    STARTER_SHORT_A,
    short_at_a_post_a,
    short_at_bar_a,
    short_circuit_a,
    short_through_a,
)
from oddkettle.core.construction.wiring.shortfall import no_cable, no_fuse, way_out
from oddkettle.core.loads.converter import SHORT_TIMES
from oddkettle.core.simulation.own_wiring import Choice, ConnectorKey, Family, Protection, Wiring
from oddkettle.core.simulation.run import Run

FIXABLE = (
    "run_m",
    "cable_mm2",
    "protection",
    "family",
    "fuse_a",
    "connector",
    "returns",
    "bundled",
    "engine_bay",
    "disconnect",
    "string_fuses",
    "fuse_with",
)


def board_of(run: Run) -> Board:
    """The circuits of a run's box, numbered from 1, each with what was chosen for it.

    Leads to the bar come first, for their cables bound what a short at the bar can draw. A class T
    fuse at every battery lets blade fuses do behind it, however strong the bank is: it is taken
    where a bank is that strong, unless the user chose another family.
    """
    wiring = run.case.wiring
    needs = needs_of(run)
    ambient = _Ambient(run, wiring, needs)
    numbers = {need.key: number for number, need in enumerate(needs, start=1)}
    leads = _leads(ambient, needs, numbers, strong=False)
    if short_at_bar_a(run, leads) > FAMILIES["blade"].breaks_a(ambient.most_v):
        leads = _leads(ambient, needs, numbers, strong=True)
    ambient.settle(leads)
    made: dict[str, Circuit] = {}
    for need in needs:
        made[need.key] = leads.get(need.key) or _circuit(numbers[need.key], need, ambient, None)
    for need in needs:
        host = ambient.behind[need.key]
        if host is not None:
            made[need.key] = _circuit(numbers[need.key], need, ambient, made[host])
    found = tuple(
        replace(c, trouble=c.trouble and f"{c.trouble} {way_out(run, c)}") for c in made.values()
    )
    return Board(found, wiring, short_circuit_a(run.case.bank), ambient.bar_a, ambient.most_v)


class _Ambient:
    """What all circuits share while they are chosen: voltages, shorts, who shares a fuse."""

    def __init__(self, run: Run, wiring: Wiring, needs: tuple[Need, ...]) -> None:
        self.run, self.wiring = run, wiring
        self.most_v = charging_v(run)
        keys = {need.key for need in needs}
        self.behind = {need.key: _shares(wiring, need.key, keys) for need in needs}
        self.sharers: dict[str, float] = {}
        for need in needs:
            host = self.behind[need.key]
            if host is not None:
                self.sharers[host] = self.sharers.get(host, 0.0) + need.continuous_a
        self.outlets = frozenset(
            wiring.of(n.key).connector or usual_connector(n, frozenset())
            for n in needs
            if n.role in OUTLETS
        )
        small = [n for n in needs if n.role in TOGETHER]
        self.together = frozenset(n.key for n in small) if len(small) > 1 else frozenset[str]()
        self.plugs: dict[ConnectorKey, str] = {}
        self.leads: dict[str, Circuit] = {}
        self.bar_a, self.limited, self.main_ohm, self.strong = 0.0, False, 0.0, False

    def settle(self, leads: dict[str, Circuit]) -> None:
        """The leads to the bar are chosen: what is behind it follows from them."""
        self.leads = {
            key: replace(c, short_a=short_through_a(self.run, leads, key))
            for key, c in leads.items()
        }
        leads.update(self.leads)
        self.bar_a = short_at_bar_a(self.run, leads)
        # A limiter protects what is behind it only where every source of a fault has one.
        self.limited = bool(leads) and all(c.family == "class_t" for c in leads.values())
        main = leads.get("battery")
        self.main_ohm = 0.0 if main is None else main.own_ohm

    def taken(self, need: Need) -> frozenset[ConnectorKey]:
        """Plugs that an inlet may not have: those of outlets, and of inlets of another kind."""
        mine = plug_class(need)
        return self.outlets | {key for key, kind in self.plugs.items() if kind != mine}

    def at_posts(self, need: Need) -> tuple[Family | None, float | None]:
        """(family, size) of the fuses at the posts of the bank that a lead comes from."""
        short_a = short_at_a_post_a(self.run, need.key)
        return post_fuse(need.continuous_a, need.posts, short_a, self.most_v)

    def short_a(self, need: Need) -> float:
        """The most that a dead short sends through a circuit's protection [A]."""
        if need.role in AT_BATTERY or joins_a_battery(need):
            return short_through_a(self.run, self.leads, need.key)
        if need.role == "low" or need.begins == LOW_BAR:
            converter = self.run.case.converter
            return 0.0 if converter is None else SHORT_TIMES * converter.limit_a
        if _behind_bar(need):
            return self.bar_a
        return need.continuous_a if need.role == "panel" else STARTER_SHORT_A


def joins_a_battery(need: Need) -> bool:
    """Whether it joins another battery to the bar."""
    return need.role in AT_BATTERY or (need.role == "feed" and need.ends == BAR)


def _behind_bar(need: Need) -> bool:
    """Whether the bar feeds a short in it: all but a panel's or a vehicle's lead to a charger."""
    return need.role not in {"panel", "feed"} or need.ends == BAR


def _leads(
    ambient: _Ambient, needs: tuple[Need, ...], numbers: dict[str, int], *, strong: bool
) -> dict[str, Circuit]:
    ambient.strong, ambient.plugs = strong, {}
    return {
        need.key: _circuit(numbers[need.key], need, ambient, None)
        for need in needs
        if joins_a_battery(need)
    }


def _shares(wiring: Wiring, key: str, keys: set[str]) -> str | None:
    """The circuit whose fuse this one shares, where there is one that has a fuse of its own.

    Two that name each other, or a chain of them, would leave nobody with a fuse.
    """
    host = wiring.of(key).fuse_with
    if host is None or host not in keys or host == key:
        return None
    return None if wiring.of(host).fuse_with in keys else host


def _circuit(number: int, need: Need, ambient: _Ambient, host: Circuit | None) -> Circuit:
    """One circuit: its way, what protects it, the cable for both, and the plug on the cable."""
    choice = _of_the_owner(ambient.wiring.of(need.key), need)
    stated_mm2 = choice.cable_mm2 or need.area_mm2
    first_plug = choice.connector or usual_connector(need, ambient.taken(need), stated_mm2 or 0.0)
    way = _way(need, choice, first_plug, ambient)
    guard = _guard(need, choice, ambient, host)
    cable = _cable(need, way, guard, ambient, stated_mm2, CONNECTORS[first_plug].least_mm2)
    connector = first_plug
    if choice.connector is None and cable.area_mm2 is not None:
        connector = usual_connector(need, ambient.taken(need), cable.area_mm2)
    if CONNECTORS[connector].hole_mm and connector != "gland" and need.role not in OUTLETS:
        ambient.plugs.setdefault(connector, plug_class(need))
    lost_v = way.drop_v(cable.reckoned_mm2, cable.full_a)
    return Circuit(
        number=number,
        need=need,
        run_m=way.run_m,
        cable_mm2=cable.area_mm2,
        ampacity_a=way.bears_a(cable.reckoned_mm2),
        protection=guard.protection,
        family=guard.family,
        fuse_a=guard.fuse_a,
        connector=connector,
        returns=choice.returns or "load_side",
        bundled=way.bundled,
        engine_bay=way.engine_bay,
        disconnect=_disconnect(choice, need, guard.protection),
        fuse_with=None if host is None else host.key,
        drop_v=lost_v,
        drop_share=lost_v / need.volts,
        most_share=cable.most_share,
        lost_wh=need.square_ah * run_ohm(way.run_m, cable.reckoned_mm2),
        short_a=guard.short_a,
        limited=guard.limited,
        warm_c=way.warm_c(cable.reckoned_mm2, cable.full_a),
        own_ohm=way.own_ohm(cable.reckoned_mm2, cable.full_a),
        before_ohm=way.before_ohm,
        string_fuse_a=_string_fuse_a(choice, need),
        post_family=guard.post_family,
        post_fuse_a=guard.post_fuse_a,
        fixed=frozenset(name for name in FIXABLE if getattr(choice, name) is not None),
        trouble=guard.trouble or cable.trouble,
    )


def _of_the_owner(choice: Choice, need: Need) -> Choice:
    """What the owner chose; what the box states was simulated, and nothing goes before it."""
    return replace(
        choice,
        run_m=None if "run_m" in need.stated else choice.run_m,
        cable_mm2=None if "cable_mm2" in need.stated else choice.cable_mm2,
    )


def _way(need: Need, choice: Choice, connector: ConnectorKey, ambient: _Ambient) -> CableRun:
    """Where its cable runs, and what lies before it."""
    from_a_battery = joins_a_battery(need) or BAR not in {need.begins, need.ends}
    return CableRun(
        run_m=choice.run_m or need.run_m,
        bundled=need.key in ambient.together if choice.bundled is None else choice.bundled,
        engine_bay=need.engine_bay if choice.engine_bay is None else choice.engine_bay,
        ambient_c=ambient.wiring.ambient_c,
        contacts_ohm=contacts_ohm(connector),
        before_ohm=0.0 if from_a_battery else ambient.main_ohm,
    )


@dataclass(frozen=True)
class _Guard:
    """What protects a circuit: `behind_a` flows through it, `short_a` a dead short sends."""

    protection: Protection
    family: Family | None
    fuse_a: float | None
    behind_a: float
    short_a: float
    limited: bool
    post_family: Family | None
    post_fuse_a: float | None
    trouble: str

    @property
    def cable_bears_a(self) -> float:
        """What its cable must bear: the fuse, or with room to spare what flows."""
        return self.fuse_a if self.fuse_a is not None else LOAD_FACTOR * self.behind_a


def _guard(need: Need, choice: Choice, ambient: _Ambient, host: Circuit | None) -> _Guard:
    protection = choice.protection or ("breaker" if need.role == "panel" else "fuse")
    sharers_a = ambient.sharers.get(need.key, 0.0) if host is None else 0.0
    behind_a = max(need.continuous_a + sharers_a, need.least_a)
    short_a = ambient.short_a(need)
    behind = _behind_bar(need) and LOW_BAR not in {need.begins, need.ends}
    post_family, post_fuse_a = ambient.at_posts(need)
    limited = post_family == "class_t" or (ambient.limited and not joins_a_battery(need) and behind)
    family, fuse_a = _fuse(choice, need, protection, behind_a, ambient)
    trouble = ""
    if host is not None:
        protection, family, fuse_a = host.protection, host.family, host.fuse_a
    elif fuse_a is None and protection != "none":
        trouble = no_fuse(behind_a, family, short_a)
    return _Guard(
        protection, family, fuse_a, behind_a, short_a, limited, post_family, post_fuse_a, trouble
    )


@dataclass(frozen=True)
class _Cable:
    """A circuit's cable; `reckoned_mm2` is the thickest there is where none suits."""

    area_mm2: float | None
    reckoned_mm2: float
    full_a: float
    most_share: float
    trouble: str


def _cable(
    need: Need,
    way: CableRun,
    guard: _Guard,
    ambient: _Ambient,
    stated_mm2: float | None,
    least_mm2: float,
) -> _Cable:
    """The thinnest that bears what it must and drops as little as it may, or the stated one."""
    most = CHARGING_DROP if need.role in CHARGING or need.must else OTHER_DROP
    full_a = need.continuous_a if need.full_a is None else need.full_a
    bears = guard.cable_bears_a
    least = 0.95 * max(LEAST_MM2, least_mm2)
    sizes = [one.area_mm2 for one in sizes_of(ambient.wiring.series) if one.area_mm2 > least]
    if stated_mm2 is not None:
        return _Cable(stated_mm2, stated_mm2, full_a, most, "")

    def suits(area: float) -> bool:
        return (
            way.bears_a(area) >= bears - 1e-9
            and way.drop_v(area, full_a) <= most * need.volts + 1e-9
        )

    area = next((area for area in sizes if suits(area)), None)
    if area is not None:
        return _Cable(area, area, full_a, most, "")
    trouble = no_cable(need, way.run_m, sizes[-1], way.bears_a(sizes[-1]), bears)
    return _Cable(None, sizes[-1], full_a, most, trouble)


def _fuse(
    choice: Choice, need: Need, protection: Protection, behind_a: float, ambient: _Ambient
) -> tuple[Family | None, float | None]:
    """(family, size); None where there is none, or none that suits."""
    if protection == "none":
        return None, None
    family = choice.family
    if protection == "breaker":
        family = "breaker"
    elif family is None or family == "breaker":
        family = _usual_family(need, behind_a, ambient)
    stated = choice.fuse_a or need.fuse_a
    if stated is not None:
        if choice.family is None and family is not None and stated < FAMILIES[family].sizes_a[0]:
            # The vehicle's own: a size that only blades are sold in.
            family = "blade"
        return family, stated
    return family, None if family is None else least_size_a(behind_a, family)


def _usual_family(need: Need, behind_a: float, ambient: _Ambient) -> Family | None:
    """The cheapest family that breaks what it may have to, and is sold for the current."""
    volts = ambient.most_v if need.most_v is None else need.most_v
    if joins_a_battery(need):
        short_a = short_through_a(ambient.run, {}, need.key)
        ends_it, _ = ambient.at_posts(need)
        if least_size_a(behind_a, "class_t") is not None and (
            ambient.strong or ends_it == "class_t"
        ):
            # The fuse at each post ends its own part of what batteries in parallel give.
            return "class_t"
    else:
        # Behind a limiter any family does. Without one, small circuits keep their blade and are
        # judged: nobody sells a 5 A fuse that breaks more.
        behind = _behind_bar(need)
        small = behind and least_size_a(behind_a, "blade") is not None
        short_a = 0.0 if small or (behind and ambient.limited) else ambient.short_a(need)
    return family_for(behind_a, short_a, volts) or largest_family(short_a, volts)


def _disconnect(choice: Choice, need: Need, protection: Protection) -> bool:
    """Whether it can be opened by hand: panels by their breaker, the battery by its isolator."""
    if choice.disconnect is not None:
        return choice.disconnect
    return need.role in {"battery", "second", "panel"} or protection == "breaker"


def _string_fuse_a(choice: Choice, need: Need) -> float | None:
    """The fuse in each string of panels [A], where there are several and they want one."""
    wanted = choice.string_fuses
    if wanted is None:
        wanted = wants_fuses(need.strings, need.string_a, need.string_bears_a or PANEL_BEARS_A)
    return string_fuse_a(need.string_a) if wanted and need.strings > 1.0 else None


def highest_v(board: Board, circuit: Circuit) -> float:
    """The highest voltage that a circuit's protection meets [V]."""
    most = circuit.need.most_v
    return board.most_v if most is None else max(most, board.most_v)

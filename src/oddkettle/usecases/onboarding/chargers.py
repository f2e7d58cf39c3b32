"""The ways to charge that a sentence can tell: one record each, with all that is known of it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

from oddkettle.core.trip.blocks import BlockKind
from oddkettle.core.units.sold_sizes import next_up
from oddkettle.plan.box import SourceModel
from oddkettle.plan.sources.crank import CrankModel
from oddkettle.plan.sources.generator import GeneratorModel
from oddkettle.plan.sources.mains import MainsModel
from oddkettle.plan.sources.sun import ControllerModel, PanelModel, SunModel
from oddkettle.plan.sources.vehicle import FeedModel, VehicleModel
from oddkettle.usecases.onboarding.sentence import Charger, Sentence

CONTROLLER_A = (5, 10, 15, 20, 30, 40, 50, 60, 80, 100)
MAX_CONTROLLER_A = 300.0
"""As much as a plan takes (plan.quantities)."""
CONTROLLER_ROOM = 1.1
CHARGING_V = 13.0
SMALL_PANEL_W = 30.0
"""A smaller panel comes with a simple (PWM) controller."""
MORNING_MIN, AFTERNOON_MIN, EVENING_MIN = 10 * 60, 17 * 60, 18 * 60
NIGHT_MIN = 14 * 60


@dataclass(frozen=True)
class ChargerKind:
    """One way to charge.

    `source` is the kind of source that it becomes, `part` makes it; `block` is what stands on the
    day board for it, from minute `begins` for `lasts` minutes, or for the sentence's own minutes.
    """

    key: str
    text: str
    unit: str
    usual: float
    sizes: tuple[float, ...]
    source: str
    part: Callable[[Charger, str, Sentence], SourceModel]
    typed: str = ""
    """What it is called where it is typed, as a pattern; panels have words of their own
    (`grammar/nouns.py`)."""
    block: BlockKind | None = None
    often: str = ""
    """What is done every so many days, before "every"."""
    begins: int = MORNING_MIN
    lasts: int | None = None
    note: str | None = None
    """What is taken for granted of it."""
    rated: str = "limit_a"
    """The field of its part that holds its size; panels hold theirs one by one."""
    mode: str | None = None
    """The `kind` of its part, of those that are several things."""
    portable: bool | None = None
    """Of panels: whether they are put out by hand."""

    def is_of(self, source: SourceModel) -> bool:
        """Whether a source of a plan is such a one."""
        if source.group != self.source:
            return False
        return self.mode is None or getattr(source, "kind", None) == self.mode


def _panel(charger: Charger, key: str, sentence: Sentence) -> SunModel:
    """A panel on the roof lies flat; left alone it stands steep towards the noon sun of winter."""
    alone = sentence.shape == "alone"
    steep = min(round(abs(sentence.place.latitude) / 5) * 5 + 10, 90)
    return _array(
        PanelModel(
            id=key,
            name="Panel" if alone else "Roof panel",
            power_w=charger.size,
            mount="tilted" if alone else "flat",
            tilt_deg=steep if alone else 35,
            azimuth_deg=_noon(sentence),
        )
    )


def _folding(charger: Charger, key: str, sentence: Sentence) -> SunModel:
    return _array(
        PanelModel(
            id=key,
            name="Folding panel",
            power_w=charger.size,
            mount="aimed",
            azimuth_deg=_noon(sentence),
            portable=True,
        )
    )


def _noon(sentence: Sentence) -> float:
    return 180.0 if sentence.place.latitude >= 0 else 0.0


def _array(panel: PanelModel) -> SunModel:
    simple = panel.power_w < SMALL_PANEL_W
    amps = next_up(CONTROLLER_A, CONTROLLER_ROOM * panel.power_w / CHARGING_V)
    return SunModel(
        id=panel.id,
        name=panel.name,
        panels=[panel],
        controller=ControllerModel(
            kind="pwm" if simple else "tracking",
            limit_a=min(amps, MAX_CONTROLLER_A),
            efficiency_percent=98 if simple else 96,
        ),
    )


def _dcdc(charger: Charger, key: str, sentence: Sentence) -> VehicleModel:
    return VehicleModel(id=key, name="DC-DC charger", limit_a=charger.size)


def _relay(charger: Charger, key: str, sentence: Sentence) -> VehicleModel:
    return VehicleModel(id=key, name="Relay", kind="relay", fuse_a=charger.size)


def _socket(charger: Charger, key: str, sentence: Sentence) -> VehicleModel:
    return VehicleModel(
        id=key,
        name="Vehicle socket",
        kind="socket",
        limit_a=charger.size,
        efficiency_percent=90,
        fuse_a=10,
        cut_out_v=11,
        feed=FeedModel(length_m=3, area_mm2=1.5, connectors_mohm=15),
    )


def _mains(charger: Charger, key: str, sentence: Sentence) -> MainsModel:
    return MainsModel(id=key, name="Mains charger", limit_a=charger.size)


def _generator(charger: Charger, key: str, sentence: Sentence) -> GeneratorModel:
    return GeneratorModel(id=key, name="Generator", rated_w=charger.size)


def _crank(charger: Charger, key: str, sentence: Sentence) -> CrankModel:
    return CrankModel(id=key, name="Hand crank", power_w=charger.size)


DRIVEN = "You drive on the days between, not on the first and the last."
CHARGERS: dict[str, ChargerKind] = {
    kind.key: kind
    for kind in (
        ChargerKind(
            key="folding",
            text="a folding panel",
            unit="W",
            usual=120,
            sizes=(60, 80, 100, 120, 160, 200),
            source="sun",
            part=_folding,
            portable=True,
            note="The folding panel stands out by day and is turned to the sun three times.",
        ),
        ChargerKind(
            key="roof",
            text="a panel on the roof",
            unit="W",
            usual=160,
            sizes=(6, 10, 20, 50, 100, 160, 200, 300),
            source="sun",
            part=_panel,
            portable=False,
        ),
        ChargerKind(
            key="driving",
            typed=(
                r"dc-?\s?(?:to-?\s?)?dc(?:\s+chargers?)?|b2b(?:\s+charger)?|booster|battery\s+to\s+battery"
                r"(?:\s+charger)?|(?:from\s+(?:the\s+)?)?alternator(?:\s+charg(?:er|ing))?"
            ),
            text="driving, with a DC-DC charger",
            unit="A",
            usual=25,
            sizes=(10, 20, 25, 30, 40, 50),
            source="vehicle",
            part=_dcdc,
            mode="dcdc",
            block="drive",
            often="You drive",
            note=DRIVEN,
        ),
        ChargerKind(
            key="socket",
            typed=(
                r"(?:12\s*v(?:olt)?\s+|vehicle(?:'s)?\s+|car\s+|van\s+)*(?:socket|cigarette\s+"
                r"(?:lighter|plug|socket)|lighter\s+socket|cig\s+(?:lighter|socket))"
                r"(?:\s+of\s+the\s+car)?"
            ),
            text="driving, from the 12 V socket",
            unit="A",
            usual=5,
            sizes=(5, 8, 10),
            source="vehicle",
            part=_socket,
            mode="socket",
            block="drive",
            often="You drive",
            note=DRIVEN,
        ),
        ChargerKind(
            key="relay",
            typed=(r"vsr|(?:split[\s-]?charge|voltage[\s-]sensitive)(?:\s+relay)?|relay|isolator"),
            text="driving, through a relay",
            unit="A",
            usual=60,
            sizes=(30, 60, 100),
            source="vehicle",
            part=_relay,
            mode="relay",
            rated="fuse_a",
            block="drive",
            often="You drive",
            note=DRIVEN,
        ),
        ChargerKind(
            key="mains",
            typed=(
                r"(?:on\s+)?(?:mains(?:\s+charger)?|hook-?\s?ups?|ehu|shore(?:\s+power)?(?:\s+charger)?"
                r"|site\s+power|staged\s+charger|grid\s+power)"
            ),
            text="mains",
            unit="A",
            usual=10,
            sizes=(2, 5, 10, 20, 30),
            source="mains",
            part=_mains,
            block="hookup",
            often="A night on mains",
            begins=EVENING_MIN,
            lasts=NIGHT_MIN,
        ),
        ChargerKind(
            key="generator",
            typed=(r"generators?|genny|genset"),
            text="a generator",
            unit="W",
            usual=900,
            sizes=(700, 900, 1600, 2000),
            source="generator",
            part=_generator,
            rated="rated_w",
            block="generator",
            often="It runs",
            begins=AFTERNOON_MIN,
        ),
        ChargerKind(
            key="crank",
            typed=(r"(?:hand\s+)?(?:crank|dynamo)|treadle"),
            text="a hand crank",
            unit="W",
            usual=30,
            sizes=(10, 20, 30, 60),
            source="crank",
            part=_crank,
            rated="power_w",
            block="crank",
            often="You crank",
            begins=AFTERNOON_MIN,
        ),
    )
}
"""In the order in which they are offered."""

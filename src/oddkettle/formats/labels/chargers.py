"""The labels of controllers, mains chargers, DC-DC chargers and inverters."""

from __future__ import annotations

from oddkettle.core.units.conversion import CLASS_V
from oddkettle.formats.labels.kind import Found, Goes, LabelKind, Name

LEAST_CHARGE_V = 13.0
"""Output of less is a charger's nominal voltage, not what it charges at."""
_EFFICIENCY = Name(
    "(?:max(?:imum)?\\.? |peak )?eff(?:iciency)?\\.?|wirkungsgrad|rendement",
    {"%": "efficiency_percent"},
)
_OWN = (
    "(?:no load|idle|stand ?by|quiescent|self)[\\s-]*(?:consumption|current|draw|power)?"
    "|eigenverbrauch|leerlauf(?:verbrauch)?|own consumption"
)
_STAGES = (
    Name("absorption(?: voltage)?|bulk(?: voltage)?|boost|bulk absorption(?: voltage)?"
         "|charg(?:e|ing) voltage|ladeschluss ?spannung", {"V": "absorption_v"}, rank=2),
    Name("u1", {"V": "absorption_v"}, rank=2),
    Name("float(?: voltage)?|maintenance|erhaltung(?:sspannung)?|u2", {"V": "float_v"}, rank=2),
)  # fmt: skip


def _watts(found: Found, name: str) -> None:
    """What is told in amps at 12 V, in watts."""
    figure = found.figures.get(name)
    if figure is not None and figure.unit == "A":
        found.values[name] = round(figure.high * CLASS_V, 3)


def _charger(found: Found) -> None:
    absorption = found.number("absorption_v")
    if absorption is not None and absorption > 1.5 * CLASS_V:
        for name in ("absorption_v", "float_v"):
            if (volts := found.number(name)) is not None:
                found.values[name] = round(volts / 2, 2)
        absorption = found.number("absorption_v")
    if absorption is not None and absorption < LEAST_CHARGE_V:
        del found.values["absorption_v"]
    found.missing = [name for name in ("limit_a",) if name not in found.values]


def _controller(found: Found) -> None:
    _watts(found, "own_w")
    found.missing = [name for name in ("kind", "limit_a") if name not in found.values]


def _inverter(found: Found) -> None:
    _watts(found, "idle_w")
    found.missing = [name for name in ("rating_w", "idle_w") if name not in found.values]


CONTROLLER = LabelKind(
    "controller", "a solar controller",
    {
        "kind": Goes("Controller"),
        "limit_a": Goes("Controller’s output limit", "A"),
        "input_limit_v": Goes("Most input voltage", "V"),
        "input_limit_w": Goes("Most input power", "W"),
        "own_w": Goes("Draws by itself", "W"),
        "efficiency_percent": Goes("Efficiency", "%"),
    },
    (
        Name("(?:max(?:imum)?\\.? )?(?:pv|solar|module|panel|modul|input)[\\s-]*(?:open circuit )?"
             "(?:input )?(?:voltage|spannung)(?: max)?|pv (?:array )?(?:input )?(?:max(?:imum)?)?"
             "|max(?:imum)?\\.? (?:solar|pv)(?: input)?|max(?:imum)?\\.? voc"
             "|(?:max(?:imum)?\\.? )?modulspannung|solar input"
             "|tension max(?:imale)?\\.?(?: panneaux?| pv)?"
             "|puissance max(?:imale)?\\.?(?: panneaux?| pv)?",
             {"V": "input_limit_v", "W": "input_limit_w", "A": None}),
        Name("(?:max(?:imum)?\\.? |rated )?(?:pv|solar|panel|input) (?:input )?power",
             {"W": "input_limit_w"}, rank=2),
        Name("(?:rated |max(?:imum)?\\.? |nominal )?(?:charg(?:e|ing)|battery|output) current|"
             "(?:max(?:imum)?\\.? )?ladestrom|rated current", {"A": "limit_a"}, rank=2),
        Name("load(?: current| output)?", {"A": None, "V": None}, "what hangs on its load output"),
        Name(_OWN, {"A": "own_w", "W": "own_w"}),
        _EFFICIENCY,
        Name("float(?: voltage)?|absorption(?: voltage)?|bulk|boost|equali[sz]\\w*", {"V": None},
             "set it beside its voltages"),
    ),
    {"A": "limit_a"}, _controller,
    tells=r"\b(?:mppt|pwm|controller|laderegler|regulator)\b",
    sure=r"\bmppt\b|laderegler",
    words=(("kind", "tracking", r"mppt|tracking"), ("kind", "pwm", r"\bpwm\b")),
)  # fmt: skip

MAINS = LabelKind(
    "mains", "a mains charger",
    {
        "limit_a": Goes("Output limit", "A"),
        "absorption_v": Goes("Absorption", "V", "middle"),
        "float_v": Goes("Float", "V", "middle"),
        "efficiency_percent": Goes("Efficiency", "%"),
    },
    (
        Name("(?:ac )?(?:input|eingang|entrée|entrada|primary)", {"V": None, "A": None, "W": None},
             "what it takes from the mains"),
        Name("(?:dc )?(?:output|ausgang|sortie|salida|secondary)(?: current)?",
             {"A": "limit_a", "V": "absorption_v", "W": None}),
        Name("(?:max(?:imum)?\\.? )?charg(?:e|ing) current|ladestrom", {"A": "limit_a"}, rank=1),
        *_STAGES, _EFFICIENCY,
    ),
    {"A": "limit_a"}, _charger,
    sure=r"(?<!dc )\bbattery\s+charger|ladegerät",
    tells=r"\b(?:battery\s+charger|ladegerät|maintainer|maintenance|chargers?|bulk|absorption"
          r"|float)\b",
)  # fmt: skip

DCDC = LabelKind(
    "dcdc", "a DC-DC charger",
    {
        "limit_a": Goes("Output limit", "A"),
        "fuse_a": Goes("Input fuse", "A"),
        "cut_in_v": Goes("Starts at", "V"),
        "absorption_v": Goes("Absorption", "V", "middle"),
        "float_v": Goes("Float", "V", "middle"),
        "efficiency_percent": Goes("Efficiency", "%"),
    },
    (
        Name("(?:input |recommended )?fuse", {"A": "fuse_a"}),
        Name("output fuse", {"A": None}, "the fuse towards the box: see Build"),
        Name("ignition(?: input| wire| signal)?|d\\+", {}),
        Name("(?:input|eingang)(?: voltage"
             "| current)?", {"V": None, "A": None}, "what it works from"),
        Name("output(?: current)?|ausgang|charg(?:e|ing) current|ladestrom",
             {"A": "limit_a", "V": "absorption_v", "W": None}),
        Name("(?:starts?|cut in|turn on|engages?)(?: voltage)?(?: at)?", {"V": "cut_in_v"}),
        *_STAGES, _EFFICIENCY,
    ),
    {"A": "limit_a"}, _charger,
    sure=r"\bdc\W?(?:to\W?)?dc\b|booster",
    tells=r"\b(?:dc\W?(?:to\W?)?dc|booster|b2b|ladebooster)\b",
)  # fmt: skip

INVERTER = LabelKind(
    "inverter", "an inverter",
    {
        "rating_w": Goes("Rating", "W"),
        "surge_w": Goes("For a moment", "W"),
        "idle_w": Goes("Draws when idle", "W"),
        "efficiency_percent": Goes("Efficiency", "%"),
    },
    (
        Name("(?:peak|surge|max(?:imum)?\\.?|spitzen)[\\s-]*(?:power|leistung)?", {"W": "surge_w"}),
        Name("(?:continuous|cont\\.?|rated|nominal|output)(?: output)?(?: power)?|dauerleistung"
             "|nennleistung",
             {"W": "rating_w"}, rank=1),
        Name(_OWN, {"A": "idle_w", "W": "idle_w"}, rank=2),
        _EFFICIENCY,
    ),
    {"W": "rating_w"}, _inverter,
    sure=r"inverter|wechselrichter|onduleur",
    tells=r"\b(?:inverter|wechselrichter|onduleur|sine)\b",
)  # fmt: skip

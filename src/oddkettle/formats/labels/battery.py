"""The label of a battery."""

from __future__ import annotations

from oddkettle.core.battery.chemistries import CHEMISTRIES
from oddkettle.core.units.conversion import CLASS_V
from oddkettle.formats.labels.kind import Found, Goes, LabelKind, Name, Note

ENERGY_AGREES = 0.06
CELL_MOST_V = 4.5
"""What is marked with less is one cell [textbook]."""
CLASSES_V = (6.0, 12.0, 24.0)
CLASS_SLACK = 0.35

FIELDS = {
    "chemistry": Goes("Chemistry"),
    "capacity_ah": Goes("Capacity of one battery", "Ah"),
    "energy_wh": Goes("Capacity, divided by its volts", "Ah", makes="capacity_ah"),
    "battery_v": Goes("One battery is", "V"),
    "absorption_v": Goes("Absorption", "V", "middle"),
    "float_v": Goes("Float", "V", "middle"),
    "charge_limit_a": Goes("Data sheet: most charge", "A"),
    "discharge_limit_a": Goes("Data sheet: most discharge", "A"),
    "internal_mohm": Goes("Data sheet: resistance", "mOhm"),
    "cutoff_v": Goes("Data sheet: cuts out at", "V"),
    "cycles": Goes("Data sheet: cycles at 80 %", "", "low"),
    "years": Goes("Data sheet: calendar life", "years", "low"),
    "weight_kg": Goes("Data sheet: weight", "kg"),
    "no_charge_below_c": Goes("Data sheet: no charge below", "C", "low"),
    "self_discharge_percent": Goes("Data sheet: self-discharge", "% a month"),
}
_MOST = "(?:max(?:imum)?\\.?|peak)"
_GOES_ON = "(?:\\(?(?:continuous|cont\\.?|dauernd|constant)\\)? )?"
NAMES = (
    Name(f"{_MOST} {_GOES_ON}(?:charg(?:e|ing) (?:current)?|ladestrom|initial current)"
         f"|(?:max(?:imum)?\\.? )charge current|charge {_MOST}|charge limit"
         f"|initial current(?: less than)?",
         {"A": "charge_limit_a"}, rank=2),
    Name("charg(?:e|ing) current|ladestrom|courant de charge|corriente de carga",
         {"A": "charge_limit_a"}, rank=1),
    Name("(?:recommended|standard|std\\.?|rated) charg(?:e|ing) current|charg(?:e"
         "|ing) current \\(?(?:std|"
         "standard|recommended)\\.?\\)?", {"A": None}, "a gentle rate, not the most that it bears"),
    Name(f"{_MOST} {_GOES_ON}(?:discharge(?: current)?|entladestrom)(?: \\(dauernd\\))?|bms"
         f"|{_GOES_ON}discharge current|discharge|entladestrom|decharge|{_GOES_ON}output current",
         {"A": "discharge_limit_a"}, rank=1),
    Name("(?:peak|pulse|surge|short time|burst) discharge(?: current)?|peak current|surge current",
         {"A": None}, "for seconds only"),
    Name("cca|cold crank\\w*(?: amps)?|kaltstart\\w*", {"A": None},
         "for starting engines: says nothing of capacity"),
    Name("\\(?en\\)?", {"A": None}, "for starting engines: says nothing of capacity"),
    Name("rc|reserve capacity", {"min": None}, "minutes at 25 A, not its rated capacity"),
    Name("c ?20|20 h(?:ou)?r?(?:s)?(?: rate)?|20 hr|\\(?20 ?h\\)?"
         "|k20", {"Ah": "capacity_ah"}, rank=3),
    Name("c ?(?:1|3|5|10|50|100|120)|(?:1|5|10|100) h(?:ou)?r?(?:s)?(?: rate)?|k(?:5|10"
         "|100)", {"Ah": None},
         "by another rate than 20 hours"),
    Name("(?:nominal|rated) capacity|capacity|nennkapazität|kapazität|capacité|capacidad",
         {"Ah": "capacity_ah", "Wh": "energy_wh"}, rank=2),
    Name("energy|(?:nominal|rated) energy|energie", {"Wh": "energy_wh"}),
    Name("(?:nominal|rated) voltage|nennspannung|tension nominale|tensión nominal|voltage",
         {"V": "battery_v"}, rank=2),
    Name("(?:constant voltage )?charg(?:e|ing) voltage|absorption(?: voltage)?|bulk(?: voltage)?"
         "|cycle use|cyclic(?: use)?|boost|ladeschluss ?spannung|ladespannung|tension de charge"
         "|charge cut off voltage|bulk absorption(?: voltage)?", {"V": "absorption_v"}),
    Name("float(?:ing)?(?: voltage| charge)?|standby use|stand by(?: use)?|erhaltungsspannung",
         {"V": "float_v"}),
    Name("equali[sz](?:e|ing|ation)(?: voltage)?", {"V": None}, "set it at the charger"),
    Name("(?:discharge |low voltage )?cut off(?: voltage)?|end voltage|entladeschluss ?spannung",
         {"V": "cutoff_v"}),
    Name("(?:internal )?(?:resistance|impedance)|innenwiderstand|résistance interne",
         {"mOhm": "internal_mohm"}),
    Name("cycle life|zyklen(?: bei)?|cycles", {"cycles": "cycles"}),
    Name("(?:design|service|calendar) life", {"years": "years"}),
    Name("weight|gewicht|poids|peso|mass|approx", {"kg": "weight_kg"}),
    Name("charg(?:e|ing) temp(?:erature)?(?: range)?|charge|charging|ladetemperatur"
         "|low temp(?:erature)? cut off"
         "(?: at)?|no charg(?:e|ing) below", {"C": "no_charge_below_c", "A": "charge_limit_a",
                                             "V": "absorption_v"}),
    Name("discharg(?:e|ing)(?: temp(?:erature)?(?: range)?)|(?:storage|operating"
         "|working) temp(?:erature)?"
         "(?: range)?|discharge", {"C": None, "A": "discharge_limit_a"}, "where it may be used"),
    Name("self discharge(?: rate)?|selbstentladung", {"%": "self_discharge_percent"}),
    Name("dod|depth of discharge", {"%": None}, "the depth by which its cycles are counted"),
)  # fmt: skip
WORDS = tuple(
    ("chemistry", key, rf"\b(?:{kind.written})\b")
    for key, kind in sorted(
        CHEMISTRIES.items(), key=lambda one: (one[1].lead, one[1].vented, len(one[1].written))
    )
)
"""What only one kind is called comes first: "sealed" and "lead acid" stand on several."""


def finish(found: Found) -> None:
    """The class of its volts, amp-hours from watt-hours, charging voltages at 12 V class."""
    nominal = found.number("battery_v")
    energy = found.number("energy_wh")
    found.values.pop("energy_wh", None)
    capacity = found.number("capacity_ah")
    if nominal is not None:
        _class(found, nominal)
    key = found.values.get("chemistry")
    if energy is not None:
        usual = CHEMISTRIES[key].nominal_v if isinstance(key, str) else CLASS_V
        volts = nominal if nominal not in {None, *CLASSES_V} else _usual_v(nominal, usual)
        assert volts is not None
        if capacity is None:
            found.values["capacity_ah"] = float(round(energy / volts, 1))
        elif abs(capacity * volts - energy) > ENERGY_AGREES * energy:
            found.notes.append(Note("capacity_ah", (
                f"{capacity:g} Ah at {volts:g} V are {capacity * volts:.0f} Wh, but the label says "
                f"{energy:g} Wh. Which one is it?"
            )))  # fmt: skip
    cells = found.number("battery_v") or CLASS_V
    for name in ("absorption_v", "float_v"):
        if (volts_now := found.number(name)) is not None:
            found.values[name] = round(volts_now * CLASS_V / cells, 2)
    found.missing = [
        name for name in ("chemistry", "capacity_ah", "battery_v") if name not in found.values
    ]


def _usual_v(nominal: float | None, usual: float) -> float:
    return usual * (nominal or CLASS_V) / CLASS_V


def _class(found: Found, nominal: float) -> None:
    near = next((v for v in CLASSES_V if abs(nominal - v) <= CLASS_SLACK * v / 2), None)
    if nominal < CELL_MOST_V:
        found.drop("battery_v", (
            f"{nominal:g} V is one cell. Type how many of them make one battery of 12 or 24 V."
        ))  # fmt: skip
    elif near is None:
        found.drop(
            "battery_v", f"{nominal:g} V is not 6, 12 or 24 V: a box here runs at 12 or 24 V."
        )
    else:
        found.values["battery_v"] = near


BATTERY = LabelKind(
    "battery", "a battery", FIELDS, NAMES,
    {"Ah": "capacity_ah", "Wh": "energy_wh", "V": "battery_v", "kg": "weight_kg",
     "cycles": "cycles",
     "mOhm": "internal_mohm"},
    finish, tells=r"\b(?:batter\w*|akku|pack|lifepo4|lfp|iron|agm|gel|flooded|lead\Wacid"
                r"|deep\s+cycle|bms|cca|cell)\b|\d\s*m?ah\b(?!\s*/)", words=WORDS,
)  # fmt: skip

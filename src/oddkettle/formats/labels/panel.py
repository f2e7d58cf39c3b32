"""The label of a panel."""

from __future__ import annotations

from oddkettle.formats.labels.kind import Found, Goes, LabelKind, Name, Note

VMP = "v mpp?|v pm(?:ax)?|u mpp?|u pm|vm"
IMP = "i mpp?|i pm(?:ax)?|im"
VOC = "v oc|u oc|vo|voc stc"
ISC = "i sc|isc stc|is|icc"
POWER = "p max|p mpp?|pm|wp"
COEFFICIENT = (
    "(?:temp(?:erature|\\.)? coeff?(?:icient)?\\.?|temperaturkoeffizient|tk|tc) (?:of )?\\(?"
)
AGREES = 0.06
"""Labels round; Vmp x Imp further from the power than this was not read from one label."""

NAMES = (
    Name(f"(?:{POWER})|(?:nominal|rated|max(?:imum)?|peak) (?:output )?power(?: at stc)?"
         "|rated maximum power|nennleistung|puissance (?:maximale|nominale|crête)"
         "|potencia (?:máxima|nominal|pico)|potenza (?:massima|nominale|di picco)|peak power",
         {"W": "power_w"}),
    Name(f"(?:{VMP})|(?:max(?:imum)?|optimum|rated|nominal|working|operating) (?:power "
         f"|operating )?"
         "(?:point )?voltage|voltage at (?:p ?max|max(?:imum)? power|mpp|peak power)|nennspannung"
         "|tension (?:à|au point de) puissance maximale|mpp voltage"
         "|tensión en el punto de máxima potencia|tensione (?:alla |di )?massima potenza"
         "|voltage max(?:imum)? power", {"V": "vmp_v"}),
    Name(f"(?:{IMP})|(?:max(?:imum)?|optimum|rated|nominal|working|operating) (?:power "
         f"|operating )?"
         "(?:point )?current|current at (?:p ?max|max(?:imum)? power|mpp|peak power)|nennstrom"
         "|courant (?:à|au point de) puissance maximale|mpp current"
         "|corriente en el punto de máxima potencia|corrente (?:alla |di )?massima potenza",
         {"A": "imp_a"}),
    Name("work(?:s|ing)? at", {"V": "vmp_v", "A": "imp_a"}),
    Name(f"(?:{VOC})|open circuit (?:voltage|volts)?|leerlaufspannung|tension (?:en"
         f"|de) circuit ouvert"
         "|tensión (?:de|en) circuito abierto|tensione (?:a vuoto"
         "|a circuito aperto)", {"V": "voc_v"}),
    Name(f"(?:{ISC})|short circuit (?:current)?|kurzschlussstrom|courant de court circuit"
         "|corriente de cortocircuito|corrente di corto ?circuito", {"A": "isc_a"}),
    Name(COEFFICIENT + "(?:v_?oc|u_?oc|open circuit voltage|voltage|u)\\)?",
         {"%/K": "voc_percent_per_k", "V/K": "voc_v_per_k"}),
    Name(COEFFICIENT + "(?:p ?max|p ?mpp|power|peak power|p)\\)?",
         {"%/K": "power_percent_per_k", "W/K": None}),
    Name(COEFFICIENT + "(?:i_?sc|current|short circuit current|i)\\)?",
         {"%/K": None, "A/K": None}, "its current barely changes"),
    Name("(?:max(?:imum)?\\.? )?(?:series )?fuse(?: rating)?|fusible máximo|fusibile massimo"
         "|max(?:imum)?\\.? over ?current protection", {"A": "fuse_max_a"}),
    Name("(?:max(?:imum)?\\.? )?system voltage(?: max)?|systemspannung(?: max)?|max voltage system",
         {"V": None}, "what its insulation bears"),
    Name("(?:built in |own )?(?:charge )?(?:controller|regulator)|usb|qc|type c|output",
         {"A": None, "V": None, "W": None}, "what is built on, not the panel itself"),
    Name("power tolerance|tolerance", {"W": None, "%": None}, "how far the power may be off"),
)  # fmt: skip

FIELDS = {
    "power_w": Goes("Watts on its label", "W"),
    "count": Goes("How many alike"),
    "vmp_v": Goes("Vmp", "V"),
    "imp_a": Goes("Imp", "A"),
    "voc_v": Goes("Voc", "V"),
    "isc_a": Goes("Isc", "A"),
    "voc_percent_per_k": Goes("Voc changes", "%/K"),
    "voc_v_per_k": Goes("Voc changes", "%/K", makes="voc_percent_per_k"),
    "power_percent_per_k": Goes("Power changes", "%/K"),
    "fuse_max_a": Goes("Maximum series fuse", "A"),
}


def finish(found: Found) -> None:
    """Coefficients in percent, watts from volts and amps, and what cannot be together."""
    voc, vmp, isc, imp = (found.number(name) for name in ("voc_v", "vmp_v", "isc_a", "imp_a"))
    per_k = found.number("voc_v_per_k")
    found.values.pop("voc_v_per_k", None)
    if per_k is not None and voc:
        found.values["voc_percent_per_k"] = -abs(round(100 * per_k / voc, 3))
    for name in ("voc_percent_per_k", "power_percent_per_k"):
        if (value := found.number(name)) is not None:
            found.values[name] = -abs(value)
    figure = found.figures.get("power_w")
    if figure is not None and figure.count > 1:
        found.values["count"] = float(figure.count)
    power = found.number("power_w")
    if power is None and vmp and imp:
        power = found.values["power_w"] = float(round(vmp * imp))
    swapped = bool(voc and vmp and vmp >= voc)
    if vmp and imp and power and not swapped and abs(vmp * imp - power) > AGREES * power:
        found.notes.append(Note("power_w", (
            f"Vmp x Imp is {vmp * imp:.0f} W, but the label says {power:g} W. Of one panel?"
        )))  # fmt: skip
    if swapped:
        found.notes.append(Note("vmp_v", (
            f"Vmp of {vmp:g} V is not below Voc of {voc:g} V: the two are swapped."
        )))  # fmt: skip
    if isc and imp and imp >= isc:
        found.notes.append(Note("imp_a", (
            f"Imp of {imp:g} A is not below Isc of {isc:g} A: the two are swapped."
        )))  # fmt: skip
    found.missing = [
        name for name in ("power_w", "vmp_v", "imp_a", "voc_v", "isc_a") if name not in found.values
    ]


PANEL = LabelKind(
    "panel", "a panel", FIELDS, NAMES, {"W": "power_w"}, finish,
    tells=r"\b(?:solar|pv|module|panel|photovolt\w*|v_?mpp?|v_?oc|u_?oc|i_?sc|i_?mpp?|p_?mpp?"
          r"|wp)\b",
    together=frozenset({"power_w", "vmp_v", "imp_a", "voc_v", "isc_a"}),
)  # fmt: skip

"""Known mistakes, each made in a sensible box: what builders confess, and what must be raised."""

from __future__ import annotations

from tests.core.judgement.cases.makers import (
    both,
    both_in_parallel,
    built,
    circuit,
    counter,
    dcdc,
    far_place,
    far_too_much,
    frost,
    generator,
    hungry_standby,
    kettle,
    label,
    lead,
    lithium,
    machine,
    mains_made,
    on_output,
    outlet_of_mains,
    plugged,
    put,
    relay,
    router,
    second_of_lead,
    socket,
    starving_machine,
    ten_days_unplugged,
    tiny_mains,
    to_24_volts,
    unit,
)
from tests.core.judgement.cases.sensible import Mistake, thing

BATTERY = "box.battery."
SUN = "box.sun.0."
DRIVE = "box.vehicle.0."

MISTAKES: tuple[Mistake, ...] = (
    Mistake("flat every night", "over-deep", far_too_much, built),
    Mistake("lead that nothing fills", "never-full", ten_days_unplugged, lead),
    Mistake("a workshop charger", "charge-too-hard", put("box.mains.0.limit_a", 100), plugged),
    Mistake("a car trickle charger", "charge-too-soft-lead", tiny_mains, lead),
    Mistake("lithium in frost", "cold-charge-lockout", frost, lithium),
    Mistake(
        "pads in thin walls",
        "heater-costs",
        both(frost, put("box.heater", {"power_w": 60})),
        lithium,
    ),
    Mistake(
        "a welder on it",
        "discharge-over-limit",
        lambda d: d["use"]["appliances"].append(thing("w", "Winch", 4000, ("12:00", "12:05"))),
        lithium,
    ),
    Mistake("an old one beside a new", "mixed-bank", both_in_parallel, built),
    Mistake("lead joined to lithium", "mixed-bank", second_of_lead, lithium),
    Mistake(
        "open cells in the bedroom",
        "flooded-in-cabin",
        both(put(BATTERY + "chemistry", "flooded"), put("box.housing", {"place": "living"})),
        lead,
    ),
    Mistake(
        "lead under the bonnet", "agm-under-bonnet", put("box.housing", {"place": "engine"}), lead
    ),
    Mistake(
        "lithium under the bonnet",
        "lithium-under-bonnet",
        put("box.housing", {"place": "engine"}),
        lithium,
    ),
    Mistake(
        "bare posts in a tool chest",
        "conductive-enclosure",
        put("box.housing", {"metal": True, "posts_covered": False}),
        built,
    ),
    Mistake(
        "bare posts in a crate", "bare-posts", put("box.housing", {"posts_covered": False}), built
    ),
    Mistake(
        "no grommets in steel",
        "bare-metal-pass",
        put("build", {"enclosure": {"material": "metal", "grommets": False}}),
        built,
    ),
    Mistake(
        "lead in a sealed box", "vent-missing", put("build", {"enclosure": {"vented": False}}), lead
    ),
    Mistake(
        "chargers in a sealed box",
        "air-missing",
        put("build", {"enclosure": {"vented": False}}),
        plugged,
    ),
    Mistake(
        "open cells beside relays",
        "ignition-with-cells",
        put(BATTERY + "chemistry", "flooded"),
        lead,
    ),
    Mistake(
        "gel on a flooded setting",
        "profile-mismatch",
        both(put(BATTERY + "chemistry", "gel"), put(BATTERY + "absorption_v", 14.8)),
        lead,
    ),
    Mistake("lithium at 15 V", "profile-mismatch", put(BATTERY + "absorption_v", 15.0), lithium),
    Mistake(
        "a charger that recovers lithium",
        "profile-mismatch",
        put("box.mains.0.profile", {"absorption_v": 14.2, "float_v": 13.5, "equalises": True}),
        lambda d: lithium(d) and plugged(d),
    ),
    Mistake(
        "a second absorption too high",
        "profile-mismatch",
        put("box.mains.0.profile", {"absorption_v": 14.2, "float_v": 13.5, "second_v": 15.2}),
        lambda d: lithium(d) and plugged(d),
    ),
    Mistake(
        "a 48 V string on a 30 V controller",
        "array-overvoltage",
        both(put(SUN + "series", 2), put(SUN + "controller.input_limit_v", 30)),
        built,
    ),
    Mistake(
        "a 12 V panel on 24 V",
        "array-undervoltage",
        both(to_24_volts, put(SUN + "series", 1), label(vmp_v=16.0)),
        lithium,
    ),
    Mistake(
        "no controller at all", "unregulated-panel", put(SUN + "controller.kind", "none"), lithium
    ),
    Mistake(
        "a folding panel's own regulator",
        "double-regulator",
        put(SUN + "panels.0.own_regulator", True),
        built,
    ),
    Mistake("Isc typed for Imp", "isc-is-not-imp", label(isc_times=1.01), built),
    Mistake(
        "a relay on a smart alternator",
        "alternator-smart-relay",
        put(DRIVE + "alternator", {"rated_a": 150, "smart": True}),
        relay,
    ),
    Mistake(
        "no ignition wire",
        "no-ignition-sense",
        both(
            put(DRIVE + "alternator", {"rated_a": 150, "smart": True}),
            put(DRIVE + "ignition", False),
        ),
        dcdc,
    ),
    Mistake(
        "bell wire from the starter",
        "dcdc-starved",
        put(DRIVE + "feed", {"length_m": 9, "area_mm2": 1.5}),
        lambda d: dcdc(d) and d["box"]["vehicle"][0]["limit_a"] >= 15,
    ),
    Mistake(
        "a charger for a lorry",
        "alternator-overloaded",
        put(DRIVE + "alternator", {"rated_a": 40}),
        lambda d: dcdc(d) and d["box"]["vehicle"][0]["limit_a"] >= 20,
    ),
    Mistake("15 A through the lighter socket", "socket-fuse", socket, dcdc),
    Mistake("a relay held closed", "back-feed", put(DRIVE + "forced", True), relay),
    Mistake(
        "an inverter that is left on",
        "inverter-idle",
        both(put("box.inverter.switched", "always"), put("box.inverter.idle_w", 12)),
        mains_made,
    ),
    Mistake("a mains kettle", "inverter-too-small", kettle, mains_made),
    Mistake(
        "an inverter for a house",
        "inverter-current",
        put("box.inverter", {"rating_w": 6000, "idle_w": 20}),
        mains_made,
    ),
    Mistake(
        "a router behind the inverter",
        "usb-through-inverter",
        both(router, far_too_much),
        mains_made,
    ),
    Mistake(
        "things that never sleep",
        "standby-heavy",
        both(hungry_standby, put("trip.start_percent", 30)),
        built,
    ),
    Mistake("a machine that goes dark", "must-run-margin", starving_machine, machine),
    Mistake(
        "a machine with no other source",
        "medical-single-source",
        lambda d: next(t for t in d["use"]["appliances"] if t.get("medical")).update(backup=False),
        machine,
    ),
    Mistake("12 V things on 24 V", "converter-missing", to_24_volts, lithium),
    Mistake(
        "a converter for a lamp",
        "converter-too-small",
        both(to_24_volts, put("box.converter", {"limit_a": 1})),
        lambda d: lithium(d) and any(t["id"] == "coolbox" for t in d["use"]["appliances"]),
    ),
    Mistake(
        "no fuse at the battery",
        "no-main-fuse",
        circuit(circuit="battery", protection="none"),
        built,
    ),
    Mistake(
        "the main fuse at the far end", "no-main-fuse", put("build", {"main_fuse_mm": 600}), built
    ),
    Mistake(
        "an outlet without a fuse",
        "circuit-unfused",
        circuit(circuit="charge-sun", protection="none"),
        built,
    ),
    Mistake(
        "a large fuse on a thin wire",
        "fuse-over-cable",
        circuit(circuit="charge-sun", cable_mm2=1.0, fuse_a=40),
        built,
    ),
    Mistake(
        "a fuse that is just enough",
        "fuse-under-load",
        circuit(circuit="charge-sun", fuse_a=3),
        built,
    ),
    Mistake(
        "a blade as the main fuse",
        "interrupt-rating",
        circuit(circuit="battery", family="blade", fuse_a=40),
        lithium,
    ),
    Mistake(
        "a car breaker on a tall string",
        "voltage-rating",
        both(
            put(SUN + "series", 2),
            label(vmp_v=37.0),
            circuit(circuit="panel-sun", protection="fuse", family="blade"),
        ),
        built,
    ),
    Mistake(
        "battery cable in a screw",
        "cable-too-thick",
        circuit(circuit="charge-sun", connector="screw", cable_mm2=16),
        built,
    ),
    Mistake(
        "a thin lead in a large plug",
        "cable-too-thin",
        circuit(circuit="charge-sun", connector="keyed_120", cable_mm2=6),
        built,
    ),
    Mistake(
        "a long thin lead to the sun",
        "drop-over",
        circuit(circuit="charge-sun", cable_mm2=1.5, run_m=6),
        built,
    ),
    Mistake(
        "forty amps by a socket",
        "connector-over",
        circuit(circuit="charge-plug", connector="socket"),
        lambda d: plugged(d) and d["box"]["mains"][0]["limit_a"] >= 20,
    ),
    Mistake(
        "the panels on an outlet's plug",
        "charge-plug-shared",
        circuit(circuit="panel-sun", connector="socket"),
        built,
    ),
    Mistake(
        "a return past the shunt",
        "shunt-bypassed",
        circuit(circuit="charge-sun", returns="battery_side"),
        built,
    ),
    Mistake(
        "panels that nothing opens",
        "isolation-order",
        circuit(circuit="panel-sun", protection="fuse", disconnect=False),
        built,
    ),
    Mistake(
        "two chargers on one fuse",
        "parallel-sources-one-fuse",
        put(
            "build",
            {
                "circuits": [
                    {"circuit": "charge-plug", "fuse_with": "charge-sun"},
                    {"circuit": "charge-sun", "fuse_a": 5},
                ]
            },
        ),
        plugged,
    ),
    Mistake(
        "a loose key and a machine",
        "isolator-key",
        put("build", {"loose_key": True}),
        lambda d: machine(d) and built(d),
    ),
    Mistake(
        "nothing to read it by",
        "level-unseen",
        put("build", {"shunt": False, "voltmeter": False}),
        built,
    ),
    Mistake("a counter without a shunt", "counted-without-shunt", counter, built),
    Mistake("too much on a load output", "load-output-over", on_output(limit_a=0.3), built),
    Mistake("a load output that lets go too late", "load-output-late", on_output(off_v=10.5), lead),
    Mistake(
        "a laptop through a socket",
        "inverter-over-socket",
        put("box.inverter.socket_fuse_a", 5),
        mains_made,
    ),
    Mistake("mains without an inverter", "outlet-without-inverter", outlet_of_mains, built),
    Mistake(
        "a generator in the awning",
        "generator-indoors",
        put("box.generator.0.stands", "near"),
        generator,
    ),
    Mistake(
        "a generator for a lamp",
        "generator-overloaded",
        both(put("box.generator.0.rated_w", 100), put("box.mains.0.limit_a", 20)),
        generator,
    ),
    Mistake(
        "more than the unit's outlets give",
        "unit-outlets-over",
        put("box.unit.dc_output_w", 3),
        unit,
    ),
    Mistake(
        "panels for a larger unit",
        "unit-input-over",
        both(
            put("box.unit.inputs", [{"name": "Solar", "members": ["sun"], "limit_w": 10}]),
            far_too_much,
        ),
        unit,
    ),
    Mistake("the climate of another place", "climate-unlike-place", far_place),
)

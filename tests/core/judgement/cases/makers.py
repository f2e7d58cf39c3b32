"""How each mistake is made in a document."""

from __future__ import annotations

from typing import Any

from tests.core.judgement.cases.sensible import Document, thing


def lead(document: Document) -> bool:
    return built(document) and document["box"]["battery"]["chemistry"] != "lifepo4"


def lithium(document: Document) -> bool:
    return built(document) and document["box"]["battery"]["chemistry"] == "lifepo4"


def built(document: Document) -> bool:
    return "unit" not in document["box"]


def unit(document: Document) -> bool:
    return "unit" in document["box"]


def dcdc(document: Document) -> bool:
    vehicle = document["box"]["vehicle"]
    return built(document) and bool(vehicle) and vehicle[0].get("kind", "dcdc") == "dcdc"


def relay(document: Document) -> bool:
    vehicle = document["box"]["vehicle"]
    return built(document) and bool(vehicle) and vehicle[0].get("kind") == "relay"


def plugged(document: Document) -> bool:
    return built(document) and bool(document["box"]["mains"])


def mains_made(document: Document) -> bool:
    return built(document) and "inverter" in document["box"]


def machine(document: Document) -> bool:
    return any(t.get("medical") for t in document["use"]["appliances"])


def generator(document: Document) -> bool:
    return built(document) and bool(document["box"].get("generator"))


def put(path: str, value: Any) -> Any:
    """Sets one field; the way to it is made where it is missing."""

    def make(document: Document) -> None:
        *way, last = path.split(".")
        here: Any = document
        for step in way:
            here = here[int(step)] if step.isdigit() else here.setdefault(step, {})
        here[int(last) if last.isdigit() else last] = value

    return make


def both(*makers: Any) -> Any:
    def make(document: Document) -> None:
        for one in makers:
            one(document)

    return make


def circuit(**choice: Any) -> Any:
    return put("build", {"circuits": [choice]})


def tiny_mains(document: Document) -> None:
    document["box"].update(sun=[], vehicle=[])
    document["box"]["mains"] = [{"id": "plug", "name": "Mains charger", "limit_a": 1}]
    document["use"]["appliances"].append(thing("pump", "Pump", 60, ("06:00", "12:00")))
    document["trip"]["blocks"] = []


def ten_days_unplugged(document: Document) -> None:
    document["box"].update(sun=[], vehicle=[], mains=[])
    document["trip"]["days"] = [{"sky": "usual"} for _ in range(10)]
    document["trip"]["blocks"] = []


def frost(document: Document) -> None:
    document["trip"]["days"] = [{"sky": "usual", "low_c": -12, "high_c": -4} for _ in range(4)]
    document["trip"]["blocks"] = []


def far_too_much(document: Document) -> None:
    document["use"]["appliances"].append(thing("heat", "Fan heater", 150, ("00:00", "24:00")))


def both_in_parallel(document: Document) -> None:
    battery = document["box"]["battery"]
    battery.update(parallel=2, alike=False)


def second_of_lead(document: Document) -> None:
    document["box"]["second"] = {"battery": {"chemistry": "agm", "capacity_ah": 100}}


def to_24_volts(document: Document) -> None:
    document["box"]["system_v"] = 24
    document["box"]["battery"].update(series=2)
    document["box"]["vehicle"] = []
    document["trip"]["blocks"] = [b for b in document["trip"]["blocks"] if b["kind"] != "drive"]
    document["box"]["sun"][0]["series"] = 2


def label(**figures: Any) -> Any:
    """A label that makes the panel's own watts, but for the figures given."""

    def make(document: Document) -> None:
        panel = document["box"]["sun"][0]["panels"][0]
        volts = figures.get("vmp_v", 18.5)
        amps = panel["power_w"] / volts
        panel["label"] = {
            "voc_v": 1.2 * volts,
            "vmp_v": volts,
            "isc_a": figures.get("isc_times", 1.07) * amps,
            "imp_a": amps,
        }

    return make


def socket(document: Document) -> None:
    document["box"]["vehicle"][0].update(
        kind="socket", limit_a=15, fuse_a=10, feed={"length_m": 3, "area_mm2": 4}
    )


def kettle(document: Document) -> None:
    document["use"]["appliances"].append(
        thing("kettle", "Mains kettle", 1200, ("08:00", "08:10"), supply="inverter")
    )


def router(document: Document) -> None:
    document["use"]["appliances"].append(
        thing("router", "Router", 10, ("19:00", "22:00"), supply="inverter", adapter=True)
    )


def hungry_standby(document: Document) -> None:
    document["box"]["sun"][0]["controller"]["own_w"] = 4
    document["use"]["appliances"] = [document["use"]["appliances"][0]]
    document["use"]["appliances"][0]["standby_w"] = 3


def starving_machine(document: Document) -> None:
    document["box"].update(sun=[], vehicle=[], mains=[])
    document["trip"]["blocks"] = []
    far_too_much(document)


def on_output(**output: Any) -> Any:
    def make(document: Document) -> None:
        # A lamp that hangs on the controller and not on the bar.
        document["box"]["sun"][0]["controller"]["load_output"] = {
            "appliances": ["lights"],
            **output,
        }

    return make


def outlet_of_mains(document: Document) -> None:
    document["box"].pop("inverter", None)
    things = document["use"]["appliances"]
    document["use"]["appliances"] = [t for t in things if t.get("supply") != "inverter"]
    document["build"] = {"outlets": [{"outlet": "own-1", "name": "Desk", "mains": True}]}


def counter(document: Document) -> None:
    document["use"]["appliances"].append(thing("mon", "Battery monitor", 0.5, ("00:00", "24:00")))
    document["build"] = {"shunt": False}


def far_place(document: Document) -> None:
    document["assumptions"]["climate"] = "hot_dry_interior"
    document["trip"]["site"].update(latitude=57.5, longitude=-4.0)

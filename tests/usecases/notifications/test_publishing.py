"""What goes out to a broker: names, the description, the values of the moment, each alarm once."""

from __future__ import annotations

import json
import re

from oddkettle.store.file.identity import data_id
from oddkettle.usecases.field.track.today import today_of
from oddkettle.usecases.notifications.broker.publishing import (
    PROPERTIES,
    description_of,
    device_name,
    device_topic,
    values_of,
)
from tests.usecases.conftest import percent

BASE = "homie/5/odd-kettle-0-1"


def test_a_box_is_named_by_its_data_file_and_its_plan(plan_id: int) -> None:
    assert device_name(plan_id) == f"odd-kettle-{data_id()}-{plan_id}"
    assert device_topic("camp", plan_id) == f"camp/5/{device_name(plan_id)}"
    # Homie 5: lower case letters, digits and hyphens alone.
    assert re.fullmatch(r"[a-z0-9-]+", device_name(plan_id))


def test_the_description_tells_every_value_that_is_sent_and_no_other(plan_id: int) -> None:
    percent(plan_id, 8, 22, 40)
    description, state = description_of(BASE, "Moth survey")
    assert (description.topic, description.retain) == (f"{BASE}/$description", True)
    assert (state.topic, state.payload, state.retain) == (f"{BASE}/$state", "ready", True)
    told = json.loads(description.payload)
    assert (told["homie"], told["name"]) == ("5.0", "Moth survey")
    assert told["nodes"]["box"]["properties"] == PROPERTIES
    sent = {one.topic.removeprefix(f"{BASE}/box/") for one in values_of(BASE, plan_id)}
    assert sent == set(PROPERTIES)


def test_the_values_are_those_of_today(plan_id: int) -> None:
    percent(plan_id, 8, 22, 40)
    today = today_of(plan_id)
    said = {one.topic.rpartition("/")[2]: one for one in values_of(BASE, plan_id)}
    assert said["level"].payload == f"{today.level.middle:.1f}"
    low, middle, high = (float(said[key].payload) for key in ("level-low", "level", "level-high"))
    assert low < middle < high
    assert said["tonight-safe"].payload == ("true" if today.safe else "false") == "false"
    assert said["tonight"].payload
    assert "\ue000" not in "".join(one.payload for one in said.values())
    assert said["standing-alarms"].payload == "1"
    assert all(one.retain for key, one in said.items() if key != "alarm")


def test_an_alarm_goes_out_once_and_is_not_kept_by_the_broker(plan_id: int) -> None:
    percent(plan_id, 8, 22, 40)

    def alarms() -> list[tuple[str, bool]]:
        said = values_of(BASE, plan_id)
        return [(one.payload, one.retain) for one in said if one.topic == f"{BASE}/box/alarm"]

    (first,) = alarms()
    assert "reserve" in first[0]
    assert not first[1]
    assert alarms() == []


def test_a_box_with_enough_says_so_and_raises_nothing(plan_id: int) -> None:
    percent(plan_id, 8, 22, 90)
    said = {one.topic.rpartition("/")[2]: one.payload for one in values_of(BASE, plan_id)}
    assert said["tonight-safe"] == "true"
    assert said["standing-alarms"] == "0"
    assert "alarm" not in said

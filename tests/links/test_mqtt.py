"""MQTT against Debian's Mosquitto: samples in, level and alarms out, found by their description."""

from __future__ import annotations

import json
import shutil
import subprocess
from collections.abc import Iterator
from datetime import UTC, datetime
from pathlib import Path
from typing import Any

import pytest
from paho.mqtt import client as paho
from paho.mqtt.enums import CallbackAPIVersion

from oddkettle.formats.samples_ndjson import BadLine
from oddkettle.plan import Plan
from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.store import samples
from oddkettle.store.file.database import open_database
from oddkettle.store.file.identity import data_id
from oddkettle.usecases.field.log.entries import NewEntry
from oddkettle.usecases.field.log.log import add_entry
from oddkettle.usecases.field.track.today import today_of
from oddkettle.usecases.notifications.alarms.alarms import look
from oddkettle.usecases.notifications.broker import bridge as service
from oddkettle.usecases.notifications.broker.publishing import device_name
from oddkettle.usecases.notifications.broker.settings import (
    BrokerSettings,
    SamplePaths,
    check,
    is_topic_filter,
    sample_of,
)
from oddkettle.usecases.plans.plans import create_plan
from tests.conftest import NOW
from tests.support.patience import PATIENCE_S, until
from tests.support.serving import free_port
from tests.support.tiers import SLOW

MOSQUITTO = shutil.which("mosquitto") or "/usr/sbin/mosquitto"
PATHS = SamplePaths(
    volts="$.battery.volts", amps="$.battery.currents[0]", percent="$..soc", at="$.time"
)
MESSAGE = {
    "time": "2026-06-08T09:00:00Z",
    "battery": {"volts": "13.21", "currents": [-4.5, 9]},
    "state": {"soc": 71.5},
}


class Broker:
    """Mosquitto on a free port of this machine, which can be stopped and come back."""

    def __init__(self, folder: Path) -> None:
        self.port = free_port()
        self.config = folder / "mosquitto.conf"
        self.config.write_text(f"listener {self.port} 127.0.0.1\nallow_anonymous true\n")
        self.start()

    def start(self) -> None:
        self.process = subprocess.Popen(
            [MOSQUITTO, "-c", str(self.config)], stderr=subprocess.DEVNULL
        )

    def stop(self) -> None:
        self.process.kill()
        self.process.wait()

    @property
    def address(self) -> str:
        return f"127.0.0.1:{self.port}"


class Listener:
    """Another party on the same broker: keeps the last of every topic, and all that came."""

    def __init__(self, port: int, topic: str) -> None:
        self.last: dict[str, str] = {}
        self.came: list[tuple[str, str, bool]] = []
        self.client: Any = paho.Client(CallbackAPIVersion.VERSION2)
        self.client.on_message = self._heard
        self.client.on_connect = lambda client, *_: client.subscribe(topic, qos=1)
        self.client.reconnect_delay_set(1, 1)
        until(lambda: not self._call(port))
        self.client.loop_start()

    def _call(self, port: int) -> bool:
        try:
            self.client.connect("127.0.0.1", port)
        except OSError:
            return True
        return False

    def _heard(self, _client: Any, _data: Any, message: Any) -> None:
        text = message.payload.decode()
        self.last[message.topic] = text
        self.came.append((message.topic, text, message.retain))

    def say(self, topic: str, message: object) -> None:
        self.client.publish(topic, json.dumps(message), qos=1).wait_for_publish(PATIENCE_S)

    def close(self) -> None:
        self.client.loop_stop()
        self.client.disconnect()


@pytest.fixture
def broker(tmp_path: Path) -> Iterator[Broker]:
    broker = Broker(tmp_path)
    yield broker
    broker.stop()


@pytest.fixture
def plan_id(store: Path, moth: Plan) -> Iterator[int]:
    yield create_plan(moth).id
    service.stop_bridges()


@pytest.fixture
def other(broker: Broker) -> Iterator[Listener]:
    listener = Listener(broker.port, "#")
    yield listener
    listener.close()


def connected(plan_id: int) -> bool:
    return service.broker_state(plan_id).state == "connected"


def test_samples_come_in_from_where_their_paths_say(
    broker: Broker, other: Listener, plan_id: int
) -> None:
    settings = BrokerSettings(address=broker.address, topic="van/+/battery", paths=PATHS)
    service.set_broker(plan_id, settings)
    until(lambda: connected(plan_id))
    other.say("van/1/battery", MESSAGE)
    until(lambda: samples.count(plan_id) == 1)
    newest = samples.newest(plan_id)
    assert newest is not None
    assert (newest.volts, newest.amps, newest.percent) == (13.21, -4.5, 71.5)
    assert datetime.fromtimestamp(newest.at_ms / 1000, UTC) == datetime(2026, 6, 8, 9, tzinfo=UTC)
    # Nonsense is told and stops nothing.
    other.say("van/1/battery", {"battery": {"volts": "low"}})
    until(lambda: service.broker_state(plan_id).odd)
    assert "no number" in str(service.broker_state(plan_id).odd)
    other.say("van/1/battery", {**MESSAGE, "time": 1780909260})
    until(lambda: samples.count(plan_id) == 2)
    # Nothing goes out that nobody asked for.
    assert not any(topic.startswith("homie") for topic in other.last)


def test_a_message_that_is_no_sample_by_its_size_is_not_read_and_is_told(
    broker: Broker, other: Listener, plan_id: int
) -> None:
    service.set_broker(
        plan_id, BrokerSettings(address=broker.address, topic="van/+/battery", paths=PATHS)
    )
    until(lambda: connected(plan_id))
    other.client.publish("van/1/battery", b"x" * 300_000, qos=1).wait_for_publish(PATIENCE_S)
    until(lambda: "more than 100,000 bytes" in service.broker_state(plan_id).text)
    # It calls again, and what is a sample comes in.
    until(lambda: connected(plan_id))
    other.say("van/1/battery", MESSAGE)
    until(lambda: samples.count(plan_id) == 1)


def test_a_reading_that_the_broker_had_kept_counts_only_with_its_time(
    broker: Broker, other: Listener, plan_id: int
) -> None:
    told = json.dumps(MESSAGE)
    other.client.publish("van/1/battery", told, qos=1, retain=True).wait_for_publish(PATIENCE_S)
    untimed = {key: path for key, path in PATHS.model_dump().items() if key != "at"}
    without = BrokerSettings(address=broker.address, topic="van/1/battery", paths=untimed)
    service.set_broker(plan_id, without)
    until(lambda: "names no time" in str(service.broker_state(plan_id).odd))
    assert samples.count(plan_id) == 0
    service.set_broker(plan_id, without.model_copy(update={"paths": PATHS}))
    until(lambda: samples.count(plan_id) == 1)


@SLOW
def test_level_verdict_and_a_new_alarm_go_out_and_the_will_tells_of_a_loss(
    broker: Broker, other: Listener, plan_id: int
) -> None:
    at = datetime(2026, 6, 8, 22)
    add_entry(plan_id, NewEntry(at=at, kind="monitor_percent", value=40))
    service.set_broker(plan_id, BrokerSettings(address=broker.address, publish=True))
    base = f"homie/5/odd-kettle-{data_id()}-{plan_id}"
    until(lambda: f"{base}/box/verdict" in other.last and f"{base}/box/alarm" in other.last)
    assert other.last[f"{base}/$state"] == "ready"
    described = json.loads(other.last[f"{base}/$description"])
    properties = described["nodes"]["box"]["properties"]
    for name, what in properties.items():
        value = other.last[f"{base}/box/{name}"]
        # As the convention wants each kind of value to be written.
        if what["datatype"] == "float":
            assert 0.0 <= float(value) <= 100.0
        if what["datatype"] == "boolean":
            assert value in {"true", "false"}
        if what["datatype"] == "integer":
            assert value.isdigit()
    today = today_of(plan_id)
    assert float(other.last[f"{base}/box/level"]) == pytest.approx(today.level.middle, abs=0.06)
    assert other.last[f"{base}/box/tonight-safe"] == "false"
    assert "goes under your reserve of 20 %" in other.last[f"{base}/box/alarm"]
    alarms = [text for topic, text, _ in other.came if topic.endswith("/alarm")]
    # A reading makes all of it new; the alarm is not told again.
    add_entry(plan_id, NewEntry(at=datetime(2026, 6, 8, 22, 30), kind="monitor_percent", value=33))
    level = other.last[f"{base}/box/level"]
    until(lambda: other.last[f"{base}/box/level"] != level)
    assert look(plan_id)
    assert len([text for topic, text, _ in other.came if topic.endswith("/alarm")]) == len(alarms)
    # The line is cut without a word: the broker says so in its place.
    bridge = service._bridges[plan_id]
    bridge.line._client._sock_close()
    until(lambda: ("$state", "lost") in [(t.rpartition("/")[2], p) for t, p, _ in other.came])
    until(lambda: other.last[f"{base}/$state"] == "ready")
    service.set_broker(plan_id, None)
    until(lambda: other.last[f"{base}/$state"] == "disconnected")


@SLOW
def test_a_broker_that_goes_away_is_called_until_it_is_back(broker: Broker, plan_id: int) -> None:
    settings = BrokerSettings(address=broker.address, topic="van", paths=PATHS)
    service.set_broker(plan_id, settings)
    until(lambda: connected(plan_id))
    broker.stop()
    until(lambda: service.broker_state(plan_id).state == "away")
    assert "called again and again" in service.broker_state(plan_id).text
    broker.start()
    until(lambda: connected(plan_id))
    listener = Listener(broker.port, "nothing")
    listener.say("van", MESSAGE)
    until(lambda: samples.count(plan_id) == 1)
    listener.close()


def test_the_password_is_kept_and_never_told(broker: Broker, plan_id: int) -> None:
    first = BrokerSettings(
        address=broker.address, username="iva", password="secret", topic="van", paths=PATHS
    )
    told = service.set_broker(plan_id, first)
    assert told.settings is not None
    assert told.settings.password is None
    service.set_broker(plan_id, first.model_copy(update={"password": None, "topic": "boat"}))
    assert service._bridges[plan_id].settings.password == "secret"
    # Another name has no claim to it.
    service.set_broker(plan_id, first.model_copy(update={"password": None, "username": "ole"}))
    assert service._bridges[plan_id].settings.password is None


@pytest.mark.parametrize(
    ("change", "where"),
    [
        ({"address": "nowhere"}, "address"),
        ({"topic": None}, "topic"),
        ({"paths": SamplePaths()}, "paths"),
        ({"paths": SamplePaths(volts="$.[")}, "paths.volts"),
    ],
)
def test_what_cannot_work_is_refused_where_it_stands(change: dict[str, Any], where: str) -> None:
    good = BrokerSettings(address="127.0.0.1:1883", topic="van", paths=PATHS)
    check(good)
    with pytest.raises(PlanRefused) as refused:
        check(good.model_copy(update=change))
    assert refused.value.complaints[0].where == where
    assert refused.value.complaints[0].remedy


@pytest.mark.parametrize(
    "payload",
    [
        b"",
        b"7",
        b"[]",
        b'{"time": "never", "state": {"soc": 5}}',
        b"\xff",
        b'{"state": {"soc": true}}',
        b'{"state": {"soc": 500}}',
        b'{"time": 1e300, "soc": 5}',
    ],
)
def test_a_message_that_is_no_sample_says_why(payload: bytes) -> None:
    with pytest.raises(BadLine):
        sample_of(payload, PATHS)


@pytest.mark.parametrize(
    ("topic", "fits"),
    [
        ("van/battery", True),
        ("van/+/soc", True),
        ("van/#", True),
        ("#", True),
        ("+", True),
        ("van/b+/soc", False),
        ("van/#/soc", False),
        ("van#", False),
        ("", False),
        ("a\x00b", False),
    ],
)
def test_a_topic_is_one_that_brokers_take(topic: str, fits: bool) -> None:
    assert is_topic_filter(topic) == fits


@pytest.mark.parametrize("address", ["mqtts://box:8883", "mqtt://box:1883", "tcp://box:1883"])
def test_an_address_with_a_scheme_is_refused_in_words(address: str) -> None:
    with pytest.raises(PlanRefused) as refused:
        check(BrokerSettings(address=address, publish=True))
    assert "not understood" in refused.value.complaints[0].text


def test_a_path_that_filters_is_refused_before_a_message_can_make_it_run() -> None:
    paths = SamplePaths(volts="$[?search(@.a, '(a+)+b')].v")
    with pytest.raises(PlanRefused) as refused:
        check(BrokerSettings(address="box:1883", topic="van", paths=paths))
    assert "filter" in refused.value.complaints[0].text


def test_two_installations_have_names_of_their_own_at_a_broker(tmp_path: Path, moth: Plan) -> None:
    names = []
    for place in ("one", "other"):
        db = open_database(tmp_path / place / "box.sqlite3", NOW)
        names.append(device_name(create_plan(moth).id))
        assert device_name(1) == names[-1]
        db.close()
    assert names[0] != names[1]

"""What is asked of a broker: its address, where samples are in its messages, what goes out."""

from __future__ import annotations

import datetime as dt
import json
from datetime import UTC, datetime
from typing import Annotated, Any

from pydantic import BaseModel, ConfigDict, Field

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.formats.samples_ndjson import BadLine, parse_line
from oddkettle.links.monitor import parse_address
from oddkettle.links.mqtt import BrokerAddress
from oddkettle.plan.plan_errors import refused
from oddkettle.usecases.process.clock import now_utc

SHOWN = ("volts", "amps", "percent", "ah_in", "ah_out")
MILLIS_FROM = 1e11
"""A number of seconds since 1970 this large counts milliseconds."""
Path = Annotated[str, Field(max_length=200)]


class SamplePaths(BaseModel):
    """Where in a message each figure stands: JSONPath (RFC 9535), like $.battery.volts."""

    model_config = ConfigDict(extra="forbid")

    volts: Path | None = None
    amps: Path | None = None
    """Into the battery; out of it with a minus."""
    percent: Path | None = None
    ah_in: Path | None = None
    ah_out: Path | None = None
    at: Path | None = None
    """When: ISO 8601, or seconds or milliseconds since 1970; when it comes, where absent."""


class BrokerSettings(BaseModel):
    """One plan's broker."""

    model_config = ConfigDict(extra="forbid")

    address: str = Field(max_length=200)
    """Like 192.168.1.5:1883."""
    username: str | None = Field(default=None, max_length=80)
    password: str | None = Field(default=None, max_length=200)
    topic: str | None = Field(default=None, max_length=200)
    """Where samples come from; no samples where absent."""
    paths: SamplePaths = SamplePaths()
    publish: bool = False
    """Whether level, verdict and alarms go out."""
    domain: str = Field(default="homie", pattern=r"^[A-Za-z0-9_-]{1,40}$")
    """What the topics begin with."""

    def broker(self) -> BrokerAddress:
        """Where it is. Raises PlanRefused for no address."""
        if "://" in self.address:
            raise refused(
                "address",
                self.address,
                "host:port",
                "Write it like 127.0.0.1:1883.",
                "An address with a scheme is not understood; neither is an encrypted "
                "line (mqtts) yet.",
            )
        try:
            host, port = parse_address(self.address)
        except ValueError as error:
            raise refused(
                "address", self.address, "host:port", "Write it like 127.0.0.1:1883.", str(error)
            ) from None
        return BrokerAddress(host, port, self.username or None, self.password or None)


def check(settings: BrokerSettings) -> None:
    """Refuse what cannot work. Raises PlanRefused."""
    settings.broker()
    if settings.topic is None and not settings.publish:
        raise refused(
            "topic",
            "nothing",
            "a topic to listen to, or values to publish",
            "Give a topic, or let level and alarms go out.",
            "With neither there is nothing to do.",
        )
    if settings.topic is not None:
        if not any(getattr(settings.paths, name) for name in SHOWN):
            raise refused(
                "paths",
                "nothing",
                ", ".join(SHOWN),
                "Say where one of them stands.",
                "A message shows nothing without a path.",
            )
        if not is_topic_filter(settings.topic):
            raise refused(
                "topic",
                settings.topic,
                "a topic, with + or # where MQTT allows them",
                "Write it like van/battery.",
                "This is no topic.",
            )
    for name in (*SHOWN, "at"):
        path = getattr(settings.paths, name)
        if path is not None:
            _compiled(name, path)


def is_topic_filter(topic: str) -> bool:
    """Whether a broker takes it: + for a whole level, # for the last one (MQTT 3.1.1, 4.7)."""
    levels = topic.split("/")
    whole = all(level == "+" or "+" not in level for level in levels)
    last = all("#" not in level for level in levels[:-1]) and (
        levels[-1] == "#" or "#" not in levels[-1]
    )
    return bool(topic) and whole and last and topic.isprintable()


def _compiled(name: str, path: str) -> Any:
    import jsonpath

    if "?" in path:
        # A filter may hold an expression that runs for minutes on a message made for it.
        raise refused(
            f"paths.{name}",
            path,
            "a JSONPath without a filter",
            "Name the parts with dots and numbers, like $.battery.cells[0].",
            "This path chooses by a filter.",
        )
    try:
        return jsonpath.compile(path)
    except jsonpath.JSONPathError as error:
        raise refused(
            f"paths.{name}",
            path,
            "a JSONPath, like $.battery.volts",
            "Begin with $ and name the parts with dots.",
            f"This path cannot be read: {str(error)[:80]}.",
        ) from None


def sample_of(payload: bytes, paths: SamplePaths, *, kept: bool = False) -> Sample:
    """The sample in a message. Raises BadLine with what is wrong.

    One that the broker had `kept` from before it was listened to must name its time: nobody knows
    how old it is.
    """
    if kept and paths.at is None:
        raise BadLine("the broker had kept it from before, and it names no time")
    try:
        message = json.loads(payload)
    except ValueError:
        raise BadLine("it is no JSON") from None
    shown: dict[str, Any] = {}
    for name in SHOWN:
        path = getattr(paths, name)
        if path is not None and (found := _first(path, message)) is not None:
            shown[name] = _number(name, found)
    at = now_utc() if paths.at is None else _moment(_first(paths.at, message))
    return parse_line(json.dumps({"at": at, **shown}))


def _first(path: str, message: Any) -> Any:
    import jsonpath

    found = jsonpath.findall(path, message) if isinstance(message, dict | list) else []
    return found[0] if found else None


def _number(name: str, found: Any) -> float:
    if isinstance(found, bool):
        raise BadLine(f"{name}: {found!r} is no number")
    try:
        return float(found)
    except (TypeError, ValueError):
        raise BadLine(f"{name}: {str(found)[:40]!r} is no number") from None


def _moment(found: Any) -> str:
    if isinstance(found, int | float) and not isinstance(found, bool):
        seconds = found / 1000 if found > MILLIS_FROM else found
        try:
            return datetime.fromtimestamp(seconds, UTC).isoformat()
        except (OverflowError, OSError, ValueError):
            raise BadLine(f"at: {found!r} is no time") from None
    try:
        at = datetime.fromisoformat(str(found))
    except ValueError:
        raise BadLine(f"at: {str(found)[:40]!r} is no time") from None
    return (at if at.tzinfo else at.replace(tzinfo=dt.UTC)).isoformat()

"""One line to an MQTT broker (MQTT 3.1.1): messages in, retained values out, a last will."""

from __future__ import annotations

from collections.abc import Callable
from contextlib import suppress
from dataclasses import dataclass
from typing import Any, Literal

CONNECT_S, KEEPALIVE_S, LAST_WORD_S = 3.0, 30, 2.0
MAX_BYTES = 100_000
TOO_LARGE = f"it sent more than {MAX_BYTES:,} bytes at once, which is no sample"
Heard = Callable[[str, bytes, bool], None]
"""Topic, payload, and whether the broker had kept it: then it is of any age."""


@dataclass(frozen=True)
class BrokerAddress:
    """Where a broker is, and who one is to it."""

    host: str
    port: int
    username: str | None = None
    password: str | None = None


class MqttLine:
    """A line that calls again by itself when it breaks. `will` is said for it when it is lost."""

    def __init__(
        self,
        broker: BrokerAddress,
        client_id: str,
        topics: tuple[str, ...] = (),
        heard: Heard | None = None,
        will: tuple[str, str] | None = None,
        connected: Callable[[], None] | None = None,
    ) -> None:
        from paho.mqtt import client as paho
        from paho.mqtt.enums import CallbackAPIVersion

        self.state: Literal["calling", "connected", "away"] = "calling"
        self.reason = ""
        self._broker, self._topics, self._connected = broker, topics, connected
        line = self

        class Bounded(paho.Client):
            """Takes no message that is larger than any sample: it hangs up before it is read."""

            def _sock_recv(self, bufsize: int) -> bytes:
                if bufsize > MAX_BYTES:
                    line.state, line.reason = "away", TOO_LARGE
                    raise ConnectionError(TOO_LARGE)
                return super()._sock_recv(bufsize)

        self._client: Any = Bounded(
            CallbackAPIVersion.VERSION2, client_id=client_id, protocol=paho.MQTTv311
        )
        self._client.connect_timeout = CONNECT_S
        self._client.reconnect_delay_set(1, 30)
        if broker.username is not None:
            self._client.username_pw_set(broker.username, broker.password)
        if will is not None:
            self._client.will_set(*will, qos=1, retain=True)
        self._client.on_connect = self._on_connect
        self._client.on_subscribe = self._on_subscribe
        self._client.on_disconnect = self._on_disconnect
        self._client.on_connect_fail = self._on_fail
        if heard is not None:
            self._client.on_message = lambda _c, _u, message: heard(
                message.topic, bytes(message.payload), message.retain
            )

    def open(self) -> None:
        """Call, in a thread of its own, until `close`."""
        self._client.connect_async(self._broker.host, self._broker.port, KEEPALIVE_S)
        self._client.loop_start()

    def publish(self, topic: str, payload: str, *, retain: bool = True) -> None:
        """Say a value; what cannot be said now is said when the line stands again."""
        self._client.publish(topic, payload, qos=1, retain=retain)

    def close(self, last: tuple[str, str] | None = None) -> None:
        """Hang up, after a `last` word where the line still stands."""
        if last is not None and self.state == "connected":
            # Its thread ends without saying what still waits.
            with suppress(RuntimeError, ValueError):
                self._client.publish(*last, qos=1, retain=True).wait_for_publish(LAST_WORD_S)
        self._client.disconnect()
        self._client.loop_stop()

    def _on_connect(self, client: Any, _data: Any, _flags: Any, code: Any, _props: Any) -> None:
        if code.is_failure:
            self.state, self.reason = "away", f"it refused: {code}"
            return
        if not self._topics:
            self._stands()
            return
        # It stands when the broker has taken what is listened to: what was said before is lost.
        client.subscribe([(topic, 1) for topic in self._topics])

    def _on_subscribe(self, _c: Any, _data: Any, _id: Any, codes: Any, _props: Any) -> None:
        if any(code.is_failure for code in codes):
            self.state, self.reason = "away", "it refused the topic"
            return
        self._stands()

    def _stands(self) -> None:
        self.state, self.reason = "connected", ""
        if self._connected is not None:
            self._connected()

    def _on_disconnect(self, _c: Any, _data: Any, _flags: Any, code: Any, _props: Any) -> None:
        if self.state != "away":
            self.state, self.reason = "away", f"the line broke ({code})"

    def _on_fail(self, _client: Any, _data: Any) -> None:
        self.state, self.reason = "away", "it cannot be reached"

"""Letting devices in: by a short code that the box's own page shows, or by the pass phrase.

A device that was let in carries a signed cookie that names it; what it may do stands in the data
file, so that sending it away takes effect at once. The key that signs is made of a secret file
beside the data and of the pass phrase: another pass phrase sends every device away.
"""

from __future__ import annotations

import hmac
import os
import secrets
import threading
import time
import unicodedata
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from itertools import chain, count
from pathlib import Path
from typing import Literal

from itsdangerous import BadData, URLSafeTimedSerializer

from oddkettle.plan.plan_errors import refused
from oddkettle.store import devices
from oddkettle.store.devices import Device
from oddkettle.usecases.field.log.entries import BY_HAND
from oddkettle.usecases.people.addresses import own_addresses, url_at
from oddkettle.usecases.people.tries import Tries, WrongCode
from oddkettle.usecases.process.clock import now_utc

Role = Literal["full", "guest"]
SHORTEST_PHRASE = 8
CODE_LIVES_S = 300.0
COOKIE_LIVES_S = 180 * 24 * 3600
SEEN_EVERY_S = 60.0
"""How often it is noted that a device was seen: no write for every request."""


class WeakPhrase(ValueError):
    """A pass phrase that is no use."""


@dataclass(frozen=True)
class OpenCode:
    """A code that lets one device in, once, until `until_s` (of the clock of `Sharing`)."""

    code: str
    role: Role
    until_s: float


def refuse_weak(phrase: str) -> str:
    """The phrase, if it is worth something. Raises WeakPhrase."""
    if len(phrase) < SHORTEST_PHRASE or len(set(phrase)) < SHORTEST_PHRASE // 2:
        raise WeakPhrase(
            f"A pass phrase of {len(phrase)} characters is too weak: take at least "
            f"{SHORTEST_PHRASE}, of {SHORTEST_PHRASE // 2} kinds; four words that do not belong "
            "together are best."
        )
    return phrase


KEY_BYTES = 32


def secret_beside(data: Path) -> bytes:
    """The secret of a data folder, made when it is first asked for; its owner alone can read it."""
    path = data / "sharing.key"
    # One that was broken off is as good as none: by an empty secret anybody could sign himself in.
    if not path.exists() or path.stat().st_size < KEY_BYTES:
        data.mkdir(parents=True, exist_ok=True)
        part = data / "sharing.key.part"
        part.touch(mode=0o600)
        part.write_bytes(secrets.token_bytes(KEY_BYTES))
        os.replace(part, path)
    return path.read_bytes()


class Sharing:
    """Who is let in at `host` and `port`. `clock` gives seconds that only grow.

    `behind_proxy` are the names at which a proxy with TLS answers in its place, where one does.

    Safe to use from several threads. Raises WeakPhrase.
    """

    def __init__(
        self,
        phrase: str,
        secret: bytes,
        *,
        host: str = "0.0.0.0",
        port: int = 8765,
        behind_proxy: Sequence[str] | None = None,
        clock: Callable[[], float] = time.monotonic,
    ) -> None:
        self.host, self.port, self.behind_proxy = host, port, behind_proxy
        self._phrase = refuse_weak(phrase).encode()
        # A browser sends its cookies to every port of a host: each server has its own.
        self.cookie_name = f"oddkettle_device_{port}"
        self._signed = URLSafeTimedSerializer([secret + self._phrase], salt=f"device at {port}")
        self._clock = clock
        self._codes: dict[str, OpenCode] = {}
        self._noted: dict[int, float] = {}
        self._tries = Tries()
        self._lock = threading.Lock()

    def urls(self) -> list[str]:
        """Where other devices find it: at this machine's addresses, or at the proxy's names."""
        if self.behind_proxy is not None:
            return [f"https://{name.strip()}" for name in self.behind_proxy if name.strip()]
        return [url_at(address, self.port) for address in own_addresses(self.host)]

    def new_code(self, role: Role) -> OpenCode:
        """A code of six digits for one device. It takes the place of one that is open."""
        code = OpenCode(f"{secrets.randbelow(10**6):06d}", role, self._clock() + CODE_LIVES_S)
        with self._lock:
            self._codes = {code.code: code}
        return code

    def let_in(self, given: str, name: str, address: str) -> tuple[Device, str]:
        """The device that is let in by a code or the pass phrase, and its cookie.

        Raises PlanRefused for a name that nobody may have, WrongCode, or TooManyTries after
        several wrong ones from `address` or from all.
        """
        now = self._clock()
        if _as_read(name) == BY_HAND:
            raise refused(
                "name",
                name,
                "any name but that of this machine's own entries",
                "Give it a name of its own, like Phone.",
                f"'{BY_HAND}' is what entries of the machine itself say.",
            )
        self._tries.begin(address, now)
        role = self._role_of(given, now)
        if role is None:
            raise WrongCode(
                "That is neither a code that is open nor the pass phrase. A code holds for "
                f"{CODE_LIVES_S / 60:.0f} minutes and for one device: make a new one on the "
                "machine that Odd Kettle runs on."
            )
        self._tries.forgive(address, now)
        device = devices.add(secrets.token_hex(16), _own_name(name), role, now_utc())
        return device, str(self._signed.dumps(device.key))

    def device_of(self, cookie: str | None) -> Device | None:
        """The device of a cookie; None for one that is forged, too old or was sent away."""
        if not cookie:
            return None
        try:
            key = self._signed.loads(cookie, max_age=COOKIE_LIVES_S)
        except BadData:
            return None
        device = devices.by_key(str(key))
        if device is not None and self._clock() - self._noted.get(device.id, -1e9) > SEEN_EVERY_S:
            self._noted[device.id] = self._clock()
            devices.seen(device.id, now_utc())
        return device

    def _role_of(self, given: str, now: float) -> Role | None:
        """What somebody who gives this may do; a code is used up by it."""
        if hmac.compare_digest(given.encode("utf-8", "replace"), self._phrase):
            return "full"
        with self._lock:
            found = self._codes.get("".join(given.split()))
            if found is None or found.until_s < now:
                return None
            del self._codes[found.code]
            return found.role


def _as_read(name: str) -> str:
    """A name as an eye compares it."""
    return " ".join(unicodedata.normalize("NFKC", name).casefold().split())


def _own_name(name: str) -> str:
    """The name, or with a number where another device that is let in has it already."""
    taken = {_as_read(one.name) for one in devices.all_devices()}
    numbered = (f"{name} {number}" for number in count(2))
    return next(one for one in chain([name], numbered) if _as_read(one) not in taken)


def let_in_devices() -> list[Device]:
    """The devices that are let in, the last seen first."""
    return devices.all_devices()


def send_away(device_id: int) -> None:
    """Send one away: from now on it must be let in anew. Raises NoSuchDevice."""
    devices.revoke(device_id, now_utc())

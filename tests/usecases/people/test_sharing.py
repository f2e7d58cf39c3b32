"""Who is let in from the network: codes, the pass phrase, wrong tries, cookies."""

from __future__ import annotations

from collections import Counter
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from pathlib import Path

import pytest

from oddkettle.plan.plan_errors import PlanRefused
from oddkettle.store.devices import NoSuchDevice
from oddkettle.store.file.database import open_database
from oddkettle.usecases.people.addresses import own_addresses, url_at
from oddkettle.usecases.people.sharing import (
    CODE_LIVES_S,
    Sharing,
    WeakPhrase,
    let_in_devices,
    secret_beside,
    send_away,
)
from oddkettle.usecases.people.tries import (
    MAX_OF_ALL,
    MAX_OF_ONE,
    WINDOW_S,
    TooManyTries,
    WrongCode,
)
from tests.conftest import NOW

PHRASE = "moth rope stone kettle"


class Clock:
    now = 0.0

    def __call__(self) -> float:
        return self.now


@pytest.fixture(autouse=True)
def store(tmp_path: Path) -> Iterator[Path]:
    db = open_database(tmp_path / "box.sqlite3", NOW)
    yield tmp_path
    db.close()


@pytest.fixture
def clock() -> Clock:
    return Clock()


@pytest.fixture
def sharing(clock: Clock) -> Sharing:
    return Sharing(PHRASE, b"secret", clock=clock)


def test_a_code_lets_one_device_in_with_its_rights(sharing: Sharing) -> None:
    code = sharing.new_code("guest").code
    device, cookie = sharing.let_in(f"{code[:3]} {code[3:]}", "Iva's phone", "a")
    assert (device.name, device.role) == ("Iva's phone", "guest")
    assert sharing.device_of(cookie) == device
    with pytest.raises(WrongCode):
        sharing.let_in(code, "another", "a")


def test_a_new_code_takes_the_place_of_the_old_one(sharing: Sharing) -> None:
    old, new = sharing.new_code("full").code, sharing.new_code("full").code
    if old != new:
        with pytest.raises(WrongCode):
            sharing.let_in(old, "phone", "a")
    sharing.let_in(new, "phone", "a")


def test_a_code_grows_old(sharing: Sharing, clock: Clock) -> None:
    code = sharing.new_code("full").code
    clock.now += CODE_LIVES_S + 1
    with pytest.raises(WrongCode):
        sharing.let_in(code, "phone", "a")


def test_the_pass_phrase_lets_in_with_all_rights(sharing: Sharing) -> None:
    assert sharing.let_in(PHRASE, "phone", "a")[0].role == "full"


def test_wrong_tries_shut_out_the_one_who_makes_them_and_then_all(
    sharing: Sharing, clock: Clock
) -> None:
    for _ in range(MAX_OF_ONE):
        with pytest.raises(WrongCode):
            sharing.let_in("x", "phone", "bad")
    with pytest.raises(TooManyTries, match="15 min"):
        # Not even the right one: otherwise one could go on guessing.
        sharing.let_in(PHRASE, "phone", "bad")
    sharing.let_in(PHRASE, "phone", "good")
    for n in range(MAX_OF_ALL - MAX_OF_ONE):
        with pytest.raises(WrongCode):
            sharing.let_in("x", "phone", f"bad {n}")
    with pytest.raises(TooManyTries):
        sharing.let_in(PHRASE, "phone", "good")
    clock.now += WINDOW_S
    sharing.let_in(PHRASE, "phone", "bad")


def test_a_cookie_is_worth_nothing_once_sent_away_forged_or_signed_by_another(
    sharing: Sharing,
) -> None:
    device, cookie = sharing.let_in(PHRASE, "phone", "a")
    assert sharing.device_of(cookie) is not None
    assert sharing.device_of(None) is None
    head, _, tail = cookie.rpartition(".")
    for forged in ("", "x", head, f"{head}.{tail[::-1]}", f"{cookie}x", device.key):
        assert sharing.device_of(forged) is None
    assert Sharing("another phrase of words", b"secret").device_of(cookie) is None
    assert Sharing(PHRASE, b"another secret").device_of(cookie) is None
    assert Sharing(PHRASE, b"secret").device_of(cookie) == device
    send_away(device.id)
    assert sharing.device_of(cookie) is None
    assert let_in_devices() == []
    with pytest.raises(NoSuchDevice):
        send_away(device.id)


@pytest.mark.parametrize("phrase", ["", "short", "aaaaaaaaaaaa", "abcabcabc"])
def test_a_weak_phrase_is_refused_with_what_it_takes(phrase: str) -> None:
    with pytest.raises(WeakPhrase, match="at least 8"):
        Sharing(phrase, b"secret")


def test_the_secret_is_made_once_and_for_its_owner_alone(store: Path) -> None:
    first = secret_beside(store)
    assert len(first) == 32
    assert secret_beside(store) == first
    assert (store / "sharing.key").stat().st_mode & 0o077 == 0


def test_addresses_are_those_that_others_reach() -> None:
    assert own_addresses("192.0.2.7") == ["192.0.2.7"]
    assert not any(one.startswith("127.") for one in own_addresses("0.0.0.0"))
    assert url_at("fd00::2", 8765) == "http://[fd00::2]:8765"


def test_a_hundred_tries_at_once_are_no_more_than_five(sharing: Sharing) -> None:
    def guess(n: int) -> type[Exception]:
        try:
            sharing.let_in(f"{n:06d}", "phone", "bad")
        except (WrongCode, TooManyTries) as error:
            return type(error)
        raise AssertionError("a guess was right without a code")

    with ThreadPoolExecutor(20) as pool:
        ends = Counter(pool.map(guess, range(100)))
    assert ends == {WrongCode: MAX_OF_ONE, TooManyTries: 100 - MAX_OF_ONE}


def test_behind_a_proxy_others_find_it_at_the_proxys_name() -> None:
    behind = Sharing(PHRASE, b"secret", behind_proxy=["kettle.home.arpa", " "])
    assert behind.urls() == ["https://kettle.home.arpa"]
    assert Sharing(PHRASE, b"secret", host="192.0.2.7").urls() == ["http://192.0.2.7:8765"]


def test_a_key_that_was_broken_off_is_made_anew(tmp_path: Path) -> None:
    """With an empty secret anybody could sign himself in."""
    (tmp_path / "sharing.key").write_bytes(b"")
    made = secret_beside(tmp_path)
    assert len(made) == 32
    assert secret_beside(tmp_path) == made
    assert (tmp_path / "sharing.key").stat().st_mode & 0o077 == 0


def test_names_are_ones_own_and_nobody_is_the_machine_itself(sharing: Sharing) -> None:
    def named(name: str) -> str:
        return sharing.let_in(PHRASE, name, "10.0.0.7")[0].name

    assert [named("Phone"), named("phone "), named("Phone")] == ["Phone", "phone  2", "Phone 3"]
    for name in ("by hand", "By  Hand", "\uff42y hand"):
        with pytest.raises(PlanRefused, match="machine itself"):
            named(name)
    # That was no wrong try: whoever typed it may go on.
    for _ in range(10):
        with pytest.raises(PlanRefused):
            named("BY HAND")
    assert named("Tablet") == "Tablet"


def test_a_cookie_is_worth_nothing_at_another_port(store: Path) -> None:
    secret = b"s" * 32
    here, there = (Sharing(PHRASE, secret, port=port) for port in (8765, 8766))
    device, cookie = here.let_in(PHRASE, "Phone", "10.0.0.7")
    assert here.cookie_name != there.cookie_name
    known = here.device_of(cookie)
    assert known is not None
    assert known.id == device.id
    assert there.device_of(cookie) is None


def test_the_wait_is_until_the_oldest_of_the_tries_that_count_is_over(
    sharing: Sharing, clock: Clock
) -> None:
    """By hand: five of one within 15 minutes, 20 of all; the first falls out 900 s after it."""
    for n in range(MAX_OF_ONE):
        clock.now = 10.0 * n
        with pytest.raises(WrongCode):
            sharing.let_in("000000", "x", "10.0.0.1")
    clock.now = 50.0
    with pytest.raises(TooManyTries) as shut:
        sharing.let_in("000000", "x", "10.0.0.1")
    assert shut.value.wait_s == pytest.approx(0.0 + WINDOW_S - 50.0)
    assert "14 min" in str(shut.value)
    for n in range(MAX_OF_ALL - MAX_OF_ONE):
        clock.now = 100.0 + n
        with pytest.raises(WrongCode):
            sharing.let_in("000000", "x", f"10.0.1.{n}")
    clock.now = 200.0
    with pytest.raises(TooManyTries) as all_shut:
        sharing.let_in(PHRASE, "x", "10.0.2.1")
    assert all_shut.value.wait_s == pytest.approx(0.0 + WINDOW_S - 200.0)
    # A moment before it is over it still holds, and a moment after it does not.
    clock.now = WINDOW_S - 0.01
    with pytest.raises(TooManyTries):
        sharing.let_in(PHRASE, "x", "10.0.2.1")
    clock.now = WINDOW_S + 0.01
    assert sharing.let_in(PHRASE, "x", "10.0.2.1")

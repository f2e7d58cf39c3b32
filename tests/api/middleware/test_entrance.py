"""From the network: strangers get nothing, guests what is theirs, devices what they were given."""

from __future__ import annotations

from typing import Any

import pytest

from oddkettle.api.app import create_app
from oddkettle.api.middleware import entrance
from oddkettle.api.middleware.entrance import Entrance
from oddkettle.api.middleware.guard import Guard
from oddkettle.store.log import entries
from oddkettle.usecases.people.sharing import Sharing, let_in_devices, send_away
from oddkettle.usecases.plans.plans import titles
from tests.api.described import SPEC
from tests.conftest import EXAMPLES
from tests.support import http
from tests.support.asked import run_async

pytestmark = pytest.mark.usefixtures("demo_store")
HERE = "192.0.2.2:8765"
PHRASE = "moth rope stone kettle"
WHAT_GUESTS_MAY_NOT = {
    "POST /api/plans",
    "POST /api/plans/archive",
    "POST /api/plans/import",
    "DELETE /api/plans/{plan_id}",
    "PUT /api/plans/{plan_id}",
    "PUT /api/plans/{plan_id}/broker",
    "DELETE /api/plans/{plan_id}/broker",
    "PUT /api/plans/{plan_id}/archived",
    "POST /api/plans/{plan_id}/copy",
    "POST /api/plans/{plan_id}/forecast",
    "DELETE /api/plans/{plan_id}/log/{entry_id}",
    "PUT /api/plans/{plan_id}/log/{entry_id}",
    "POST /api/plans/{plan_id}/log/{entry_id}/restore",
    "POST /api/plans/{plan_id}/log/{entry_id}/settle",
    "PUT /api/plans/{plan_id}/monitor",
    "POST /api/plans/{plan_id}/redo",
    "PUT /api/plans/{plan_id}/revisions/{revision}/name",
    "POST /api/plans/{plan_id}/restore",
    "POST /api/plans/{plan_id}/revisions/{revision}",
    "POST /api/plans/{plan_id}/samples",
    "POST /api/plans/{plan_id}/table",
    "POST /api/plans/{plan_id}/table/preview",
    "POST /api/plans/{plan_id}/take-box",
    "DELETE /api/plans/{plan_id}/ticks/{entry_id}",
    "POST /api/plans/{plan_id}/undo",
    "POST /api/sentence/stories/{key}",
    "POST /api/shelf",
    "POST /api/shelf/file",
    "DELETE /api/shelf/{thing_id}",
    "PUT /api/boxes/{box_id}/name",
    "POST /api/boxes/{box_id}/readings",
    "POST /api/boxes/{box_id}/trips",
    "POST /api/sharing/codes",
    "DELETE /api/sharing/devices/{device_id}",
    "GET /api/sharing",
    "GET /api/backup",
}
"""Everything that changes, deletes or hands over more than an entry of the log."""


class Phone:
    """A device at an address of the network, with a jar for its cookies."""

    def __init__(self, sharing: Sharing, address: str = "192.0.2.9") -> None:
        app = Guard(Entrance(create_app(sharing=sharing), sharing), shared=True)
        self.app, self.address = app, address
        self.cookies = http.Cookies()

    def ask(self, method: str, path: str, **more: Any) -> http.Response:
        async def call() -> http.Response:
            async with http.in_process(
                self.app, f"http://{HERE}", self.address, cookies=self.cookies
            ) as client:
                answer = await client.request(method, path, **more)
                self.cookies = client.cookies
                return answer

        return run_async(call())

    def pair(self, given: str) -> http.Response:
        return self.ask("POST", "/api/sharing/pair", json={"given": given, "name": "Iva"})


@pytest.fixture
def sharing() -> Sharing:
    return Sharing(PHRASE, b"secret")


@pytest.fixture
def phone(sharing: Sharing) -> Phone:
    return Phone(sharing)


def calls() -> list[tuple[str, str]]:
    """Every method and path of the API."""
    return [(method.upper(), path) for path, ways in SPEC["paths"].items() for method in ways]


def test_a_stranger_is_told_how_to_get_in_and_nothing_else(phone: Phone) -> None:
    for method, path in calls():
        if path in ("/api/sharing/me", "/api/sharing/pair"):
            continue
        got = phone.ask(method, path.replace("{plan_id}", "1"))
        assert got.status_code == 401, (method, path)
        assert "/pair" in got.json()["detail"]
    assert phone.ask("GET", "/api/sharing/me").json()["role"] == "stranger"


def test_a_device_with_all_rights_does_everything_but_show_codes(phone: Phone) -> None:
    answer = phone.pair(PHRASE)
    assert answer.status_code == 201
    cookie = answer.headers["set-cookie"].lower()
    assert "httponly" in cookie
    assert "samesite=strict" in cookie
    sample = (EXAMPLES / "coast-unit.json").read_bytes()
    brought = phone.ask("POST", "/api/plans/import", content=sample)
    assert brought.status_code == 201
    assert phone.ask("DELETE", f"/api/plans/{brought.json()['id']}").status_code == 204
    assert phone.ask("POST", "/api/sharing/codes", json={}).status_code == 403


def test_a_guest_reads_asks_and_logs_under_its_name(sharing: Sharing, phone: Phone) -> None:
    paired = phone.pair(sharing.new_code("guest").code).json()
    assert paired["role"] == "guest"
    plan = phone.ask("GET", "/api/plans").json()[0]["id"]
    document = phone.ask("GET", f"/api/plans/{plan}").json()["document"]
    assert phone.ask("POST", "/api/preview", json=document).status_code == 200
    reading = {"at": f"{document['trip']['start']}T09:00", "kind": "monitor_percent", "value": 71}
    written = phone.ask("POST", f"/api/plans/{plan}/log", json=reading)
    assert written.status_code == 201, written.text
    assert written.json()["written_by"] == paired["name"]
    gone = phone.ask("DELETE", f"/api/plans/{plan}/log/{written.json()['id']}")
    assert gone.status_code == 403
    assert "guest" in gone.json()["detail"]


def test_guests_are_refused_what_changes_something_and_nothing_else(
    sharing: Sharing, phone: Phone
) -> None:
    phone.pair(sharing.new_code("guest").code)
    refused = set()
    for method, path in calls():
        if path == "/api/sharing/leave" or path.endswith("/live"):
            continue
        # A number that no plan has: what passes the gate finds nothing.
        concrete = path.replace("{key}", "k").replace("{choice}", "c")
        for name in ("plan_id", "entry_id", "revision", "box_id", "thing_id", "device_id"):
            concrete = concrete.replace(f"{{{name}}}", "99")
        got = phone.ask(method, concrete)
        if got.status_code == 403:
            refused.add(f"{method} {path}")
    assert refused == WHAT_GUESTS_MAY_NOT


def test_a_device_that_leaves_or_is_sent_away_is_a_stranger_again(
    sharing: Sharing, phone: Phone
) -> None:
    phone.pair(PHRASE)
    assert phone.ask("GET", "/api/plans").status_code == 200
    stolen = http.Cookies(phone.cookies)
    assert phone.ask("POST", "/api/sharing/leave").status_code == 204
    phone.cookies = stolen
    assert phone.ask("GET", "/api/plans").status_code == 401
    other = Phone(sharing, "192.0.2.10")
    other.pair(PHRASE)
    (card,) = [c for c in other.ask("GET", "/api/sharing").json()["devices"] if c["this"]]
    assert other.ask("DELETE", f"/api/sharing/devices/{card['id']}").status_code == 204
    assert other.ask("GET", "/api/plans").status_code == 401


def test_wrong_tries_are_answered_with_how_long_to_wait(sharing: Sharing) -> None:
    guesser = Phone(sharing, "192.0.2.66")
    assert [guesser.pair("000").status_code for _ in range(6)] == [403] * 5 + [429]
    assert int(guesser.pair(PHRASE).headers["retry-after"]) > 600
    assert Phone(sharing).pair(PHRASE).status_code == 201


@pytest.mark.parametrize(
    ("client", "base"),
    [
        ("192.0.2.9", "http://127.0.0.1:8765"),
        ("127.0.0.1", f"http://{HERE}"),
        ("127.0.0.1", "http://box.camp"),
    ],
)
def test_only_loopback_at_both_ends_under_its_own_name_is_this_machine(
    sharing: Sharing, client: str, base: str
) -> None:
    app = Guard(Entrance(create_app(sharing=sharing), sharing), ["box.camp"], shared=True)

    async def call(base: str, client: str) -> int:
        async with http.in_process(app, base, client) as own:
            return (await own.get("/api/plans")).status_code

    assert run_async(call(base, client)) == 401
    assert run_async(call("http://127.0.0.1:8765", "127.0.0.1")) == 200


def test_a_name_in_the_network_is_still_refused(phone: Phone) -> None:
    phone.pair(PHRASE)
    assert phone.ask("GET", "/api/plans", headers={"Host": "evil.example"}).status_code == 421
    marks = {"Origin": "http://evil.example"}
    before = titles()
    assert phone.ask("DELETE", "/api/plans/1", headers=marks).status_code == 403
    assert titles() == before


@pytest.mark.parametrize("path", ["/health", "/openapi.json"])
def test_what_tells_of_the_program_is_for_those_who_were_let_in(phone: Phone, path: str) -> None:
    assert phone.ask("GET", path).status_code == 401
    phone.pair(PHRASE)
    assert phone.ask("GET", path).status_code == 200


def test_a_note_for_another_data_file_or_trip_is_refused_and_not_written(phone: Phone) -> None:
    phone.pair(PHRASE)
    plan = titles()[0].id
    opened = phone.ask("GET", f"/api/plans/{plan}").json()
    entry = {"kind": "monitor_percent", "at": "2026-06-08T12:00", "value": 55, "note": ""}
    path = f"/api/plans/{plan}/log"
    before = len(phone.ask("GET", path).json())
    for headers in (
        {"data-file": "0123456789ab", "trip-key": opened["trip_key"]},
        {"data-file": opened["data_file"], "trip-key": "0123456789abcdef"},
    ):
        answer = phone.ask("POST", path, json=entry, headers=headers)
        assert (answer.status_code, answer.json()["title"]) == (409, "Belongs elsewhere")
    assert len(phone.ask("GET", path).json()) == before
    own = {"data-file": opened["data_file"], "trip-key": opened["trip_key"]}
    assert phone.ask("POST", path, json=entry, headers=own).status_code == 201


def test_ticks_of_a_guest_are_under_its_name(sharing: Sharing, phone: Phone) -> None:
    name = phone.pair(sharing.new_code("guest").code).json()["name"]
    plan = titles()[0].id
    tick = {"checklist": "first-power", "check": "fuses", "text": "Fuses"}
    assert phone.ask("POST", f"/api/plans/{plan}/ticks", json=tick).status_code == 201
    ticked = [one for one in entries(plan) if one.kind == "ticked"]
    assert [one.written_by for one in ticked] == [name]
    assert [one.device for one in ticked] == [max(one.id for one in let_in_devices())]


def test_any_long_answer_is_cut_when_its_device_is_sent_away(
    sharing: Sharing, phone: Phone, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Not streams of events alone: a search that tells line by line, a large file."""
    monkeypatch.setattr(entrance, "AGAIN_S", 0.0)
    phone.pair(PHRASE)
    cookie = phone.cookies.get(sharing.cookie_name)
    device = sharing.device_of(cookie)
    assert device is not None
    sent: list[bytes] = []

    async def lines(scope: Any, receive: Any, send: Any) -> None:
        start = {
            "type": "http.response.start",
            "status": 200,
            "headers": [(b"content-type", b"application/x-ndjson")],
        }
        await send(start)
        for n in range(5):
            if n == 2:
                send_away(device.id)
            await send({"type": "http.response.body", "body": b"%d\n" % n, "more_body": n < 4})

    async def keep(message: dict[str, Any]) -> None:
        sent.append(message.get("body", b""))

    scope = {
        "type": "http",
        "method": "GET",
        "path": "/api/plans/1/report",
        "client": ("192.0.2.9", 40_000),
        "server": ("192.0.2.2", 8765),
        "headers": [
            (b"host", HERE.encode()),
            (b"cookie", f"{sharing.cookie_name}={cookie}".encode()),
        ],
    }
    with pytest.raises(OSError, match="sent away"):
        run_async(Entrance(lines, sharing)(scope, None, keep))  # type: ignore[arg-type]
    assert b"".join(sent) == b"0\n1\n"

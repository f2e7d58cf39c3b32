"""Serving the app: the demo or one's own data, on this machine alone or shared."""

from __future__ import annotations

import gc
import logging
import os
import socket
from contextlib import ExitStack, suppress
from dataclasses import dataclass
from typing import TYPE_CHECKING

from oddkettle.cli.data import say, stop
from oddkettle.shipped import EXAMPLES
from oddkettle.standins import beside

if TYPE_CHECKING:
    from oddkettle.api.middleware.entrance import Entrance
    from oddkettle.api.serving import Served
    from oddkettle.settings import Settings
    from oddkettle.usecases.people.sharing import Sharing
    from oddkettle.usecases.plans.plans import PlanTitle

ANY = "0.0.0.0"


def serve(database: str, *, demo: str | None = None, share: bool = False) -> None:
    """Serve the app; `demo` names the plan that leads the demo."""
    # Imported here so that --help and a bad plan file answer at once; nothing is tidied on the way
    # (`serving.py` takes that up again when all is loaded).
    gc.disable()
    from oddkettle.api.middleware.memory import share_heaps

    share_heaps()
    # What is kept is its owner's alone, whatever the shell's habit is.
    os.umask(0o077)
    given = settings()
    in_network = share or not given.host.is_loopback
    # A pass phrase by itself is for a proxy on this machine, which brings others to loopback.
    asks = in_network or given.pass_phrase is not None
    sharing = _sharing(given, in_network=in_network) if asks else None
    with ExitStack() as opened:
        sockets = [opened.enter_context(one) for one in _listen(given, in_network=in_network)]
        _answer(given, database, sockets, sharing, demo)


def _answer(
    given: Settings,
    database: str,
    sockets: list[socket.socket],
    sharing: Sharing | None,
    demo: str | None,
) -> None:
    import uvicorn

    from oddkettle.api.middleware.guard import Guard
    from oddkettle.api.middleware.impatient import Impatient
    from oddkettle.api.serving import Served

    _open(given, database)
    beside_it = _demo_devices(given, demo) if demo else None
    if not (given.web / "index.html").is_file():
        say("The front end is not built (run `make demo`); serving the API alone.", err=True)

    def afterwards() -> None:
        """What can wait until the app answers: a first run, and the simulated outside things."""
        _first_runs()
        if beside_it is not None:
            beside_it.start()

    logging.basicConfig(
        level=logging.WARNING, format="%(asctime)s %(levelname)s %(name)s: %(message)s"
    )
    _tell_where(given, sharing)
    served = Served(
        given.web,
        beside_it.forecast_url if beside_it is not None else given.forecast_url,
        afterwards,
        sharing,
        data=None if demo else given.data / database,
        watch_s=given.watch_s,
    )
    guard = Guard(_within(served, sharing), given.hosts.split(","), shared=sharing is not None)
    server = uvicorn.Server(
        uvicorn.Config(
            guard,
            port=given.port,
            http=Impatient,
            log_level="warning",
            timeout_graceful_shutdown=2,
        )
    )
    with suppress(KeyboardInterrupt):
        server.run(sockets=sockets)


def _open(given: Settings, database: str) -> None:
    from oddkettle.store.file.database import open_database
    from oddkettle.store.file.migrations import StoreTooNew
    from oddkettle.store.file.trouble import StoreTrouble
    from oddkettle.usecases.process.clock import now_utc

    try:
        open_database(given.data / database, now_utc())
    except (StoreTooNew, StoreTrouble) as error:
        stop(str(error))


def _within(served: Served, sharing: Sharing | None) -> Entrance:
    """The app behind everything that a request passes first."""
    from oddkettle.api.middleware.bounds import Bounded
    from oddkettle.api.middleware.entrance import Entrance
    from oddkettle.api.middleware.json_body import CountedJson
    from oddkettle.api.middleware.naming import NamesDataFile
    from oddkettle.api.middleware.workload import Workload

    return Entrance(Bounded(Workload(CountedJson(NamesDataFile(served)))), sharing)


def _first_runs() -> None:
    # Nothing hangs on it: what it stumbles over is told to whoever asks for that plan.
    from oddkettle.usecases.process.failures import failed, went_well

    try:
        _warm()
    except Exception as error:
        failed("first runs", error)
    else:
        went_well("first runs")


@dataclass(frozen=True)
class _Beside:
    """The simulated outside things of the demo, and where they are to be found."""

    forecast_url: str
    forecast_port: int | None
    monitor_ports: tuple[int, int] | None

    def start(self) -> None:
        if self.forecast_port is not None:
            beside.start_standin("forecast-standin", "--port", str(self.forecast_port))
        if self.monitor_ports is not None:
            beside.start_monitor_standin(*self.monitor_ports)


def _demo_devices(given: Settings, demo: str) -> _Beside:
    _fill_demo(demo)
    monitor_ports = beside.monitor_ports()
    if given.forecast_url:
        return _Beside(given.forecast_url, None, monitor_ports)
    port = beside.free_port()
    return _Beside(f"http://127.0.0.1:{port}", port, monitor_ports)


def _tell_where(given: Settings, sharing: Sharing | None) -> None:
    say(f"Odd Kettle is at http://127.0.0.1:{given.port}  (data: {given.data})")
    if sharing is None:
        return
    say(f"Other devices find it at {' or '.join(sharing.urls()) or 'no address yet'}.")
    if sharing.behind_proxy is not None:
        say("Check from one of them that it asks for a code (docs/sharing.md).")
        return
    say(
        "What they send crosses your network unencrypted: share it only on a network that you "
        "trust, or put TLS in front (docs/sharing.md)."
    )


def _sharing(given: Settings, *, in_network: bool) -> Sharing:
    """Who may come in from the network. Ends with 2 without a pass phrase that is worth one."""
    from oddkettle.usecases.people.sharing import Sharing, WeakPhrase, secret_beside

    if given.pass_phrase is None:
        stop(
            "Sharing wants a pass phrase. Set ODDKETTLE_PASS_PHRASE to one of at least 8 "
            "characters, or leave --share and ODDKETTLE_HOST out: then it answers this machine "
            "alone."
        )
    try:
        return Sharing(
            given.pass_phrase.get_secret_value(),
            secret_beside(given.data),
            host=ANY if given.host.is_loopback else str(given.host),
            port=given.port,
            behind_proxy=None if in_network else given.hosts.split(","),
        )
    except WeakPhrase as error:
        stop(f"ODDKETTLE_PASS_PHRASE: {error}")
    except OSError as error:
        stop(f"{given.data / 'sharing.key'} cannot be had ({error.strerror}). Make it readable.")


def _fill_demo(lead: str) -> None:
    """Put the demo's plans into an empty store; what that takes is loaded only then."""
    from oddkettle.usecases.plans.plans import titles

    if not titles():
        from oddkettle.usecases.service.demo import fill_demo

        fill_demo(EXAMPLES, lead)


def settings() -> Settings:
    """What the environment sets; what cannot be is told, and ends with 2."""
    from pydantic import ValidationError

    from oddkettle.settings import Settings

    try:
        return Settings()
    except ValidationError as error:
        lines = [
            f"ODDKETTLE_{str(fault['loc'][0]).upper()}={fault['input']} cannot be: {fault['msg']}."
            for fault in error.errors()
        ]
        stop("\n".join([*lines, "Set a port from 1 to 65535 and a folder, or leave them out."]))


def _listen(given: Settings, *, in_network: bool) -> list[socket.socket]:
    """The sockets to answer at: loopback's, and the network's where it is to be found there."""
    hosts = ["127.0.0.1"]
    if in_network:
        # An address that means any holds loopback too.
        own = str(ANY if given.host.is_loopback else given.host)
        hosts = {"::": [ANY, "::"], ANY: [ANY]}.get(own, [*hosts, own])
    found = []
    for host in hosts:
        try:
            family = socket.AF_INET6 if ":" in host else socket.AF_INET
            found.append(socket.create_server((host, given.port), family=family, backlog=2048))
        except OSError as error:
            stop(
                f"Port {given.port} cannot be had at {host} ({os.strerror(error.errno or 0)}). Set "
                "ODDKETTLE_PORT to another, or ODDKETTLE_HOST to an address of this machine."
            )
    return found


def _warm() -> None:
    """Answer the first question of a page before it is asked: about the plans opened first."""
    from oddkettle.usecases.field.track.track_report import track_plan
    from oddkettle.usecases.plans.plans import open_plan, titles
    from oddkettle.usecases.simulate.run_report import written_report

    listed = titles()
    # A browser opens the plan that it had last, most likely the one saved last, or the first.
    for title in {t.id: t for t in (*listed[:1], *sorted(listed, key=_saved_at)[-1:])}.values():
        plan = open_plan(title.id).document
        written_report(plan, advice=True, odds="full", sky="expected")
        track_plan(title.id)


def _saved_at(title: PlanTitle) -> str:
    return title.saved_at

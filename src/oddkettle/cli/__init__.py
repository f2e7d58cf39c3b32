"""oddkettle: serve, demo, simulate, check."""

from __future__ import annotations

import gc
import json
import os
import sys
from contextlib import contextmanager
from datetime import datetime
from pathlib import Path
from typing import TYPE_CHECKING, Annotated, TypeVar

import typer

from oddkettle import __version__
from oddkettle.cli import data as cli_data
from oddkettle.cli import serve as cli_serve
from oddkettle.cli.data import say as _say
from oddkettle.cli.data import stop as _stop
from oddkettle.core.units.quantity import celsius
from oddkettle.shipped import EXAMPLES
from oddkettle.text.habits import habits_from, set_reader
from oddkettle.text.words import date_and_clock, life_words

if TYPE_CHECKING:
    from collections.abc import Callable, Iterator

    from oddkettle.plan import Plan
    from oddkettle.results.run import RunReport

app = typer.Typer(no_args_is_help=True, add_completion=False, pretty_exceptions_enable=False)
T = TypeVar("T")
MOTH = EXAMPLES / "moth-season.json"
Share = Annotated[
    bool,
    typer.Option(
        "--share", help="Let other devices of your network in; wants ODDKETTLE_PASS_PHRASE."
    ),
]


def _tell_version(asked: bool) -> None:
    if asked:
        _say(f"oddkettle {__version__}")
        raise typer.Exit


@app.callback()
def main(
    version: Annotated[
        bool,
        typer.Option("--version", help="Print the version.", callback=_tell_version, is_eager=True),
    ] = False,
) -> None:
    """Plan how a portable battery box recharges, and see whether it lasts.

    ODDKETTLE_PORT sets the port (8765), ODDKETTLE_DATA the folder of the database and
    ODDKETTLE_CACHE that of compiled code and tables. ODDKETTLE_HABITS says how figures are written
    here and in prints, like unit:Wh.temperature:F.cable:AWG.weight:lb.clock:12.
    """
    try:
        set_reader(habits_from(os.environ.get("ODDKETTLE_HABITS", ""), strict=True))
    except ValueError as error:
        _stop(f"ODDKETTLE_HABITS: {error}")


@app.command()
def forecast_standin(
    port: Annotated[int, typer.Option(help="Port on 127.0.0.1.")] = 8766,
    mood: Annotated[str, typer.Option(help="well, silent or nonsense.")] = "well",
    parent: Annotated[int | None, typer.Option(help="End when this process is gone.")] = None,
) -> None:
    """Serve a simulated forecast, for demos and tests."""
    from oddkettle.standins.forecast import serve

    if mood not in ("well", "silent", "nonsense"):
        _stop(f"There is no mood {mood!r}; it may be well, silent or nonsense.")
    serve(port, mood, parent)  # type: ignore[arg-type]


@app.command()
def monitor_standin(
    plan: Annotated[Path, typer.Option(help="The plan whose box it sits on.")] = MOTH,
    port: Annotated[int, typer.Option(help="TCP port on 127.0.0.1.")] = 8770,
    http_port: Annotated[int, typer.Option(help="HTTP port on 127.0.0.1.")] = 8771,
    from_hour: Annotated[float, typer.Option(help="Hour of the trip at which it starts.")] = 0.0,
    speed: Annotated[float, typer.Option(help="How much faster than time it runs.")] = 60.0,
    every: Annotated[float, typer.Option(help="Seconds of its own between samples.")] = 60.0,
    leaves_every: Annotated[float, typer.Option(help="Hang up so often [s]; 0 never.")] = 45.0,
    parent: Annotated[int | None, typer.Option(help="End when this process is gone.")] = None,
) -> None:
    """Serve a simulated battery monitor, for demos and tests."""
    from oddkettle.standins.monitor import serve

    if speed <= 0 or every <= 0:
        _stop(f"A speed of {speed:g} and a sample every {every:g} s cannot be: both are above 0.")
    serve(plan, port, http_port, from_hour, speed, every, leaves_every, parent)


@app.command()
def serve(share: Share = False) -> None:
    """Serve the app with your own data: on this machine alone, unless it is shared."""
    cli_serve.serve(cli_data.OWN_DATA, share=share)


for command in (cli_data.backup, cli_data.restore, cli_data.doctor):
    app.command()(command)


@app.command()
def demo(
    fresh: Annotated[bool, typer.Option(help="Set the demo's old data aside first.")] = False,
    plan: Annotated[
        str, typer.Option(help="Which of the two moth plans leads: moth-season or moth-survey.")
    ] = "moth-season",
    share: Share = False,
) -> None:
    """Serve the app with demo data, kept apart from your own."""
    from oddkettle.usecases.process.clock import now_utc
    from oddkettle.usecases.service.demo import ENTRIES

    if plan not in ENTRIES:
        _stop(f"No plan called {plan!r} can lead the demo. These can: {', '.join(ENTRIES)}.")
    path = cli_serve.settings().data / "demo.sqlite3"
    if fresh and path.exists():
        for part in (path, Path(f"{path}-wal"), Path(f"{path}-shm")):
            if part.exists():
                part.rename(f"{part}.{now_utc().replace(':', '')}")
    cli_serve.serve("demo.sqlite3", demo=plan, share=share)


@app.command()
def simulate(
    plan: Annotated[Path, typer.Argument(help="A plan file (JSON).")],
    as_json: Annotated[bool, typer.Option("--json", help="Print the result document.")] = False,
    series: Annotated[bool, typer.Option(help="Put the whole series into it.")] = False,
) -> None:
    """Run a plan: what comes in, what goes out, how low it gets, day by day."""
    with _in_one_go():
        from oddkettle.usecases.simulate.run_report import report_plan

        report = _refusing(
            plan, lambda: report_plan(_read_plan(plan), series=series, judged=as_json, odds="full")
        )
    if as_json:
        _say(report.model_dump_json(indent=2, exclude=None if series else {"series"}))
        return
    _say(report.verdict.headline)
    _say(report.verdict.detail)
    if report.verdict.mend is not None:
        _say(f"{report.verdict.mend.text}.")
    if report.odds is not None:
        said = report.odds
        _say(f"Of {said.scenarios} trips tried. {said.headline} {said.detail}")
    _tell_limits(report)
    _tell_endurance(report)
    _say("\nday            in Ah  out Ah  net Ah  lowest  spilled Ah  unmet Ah")
    for day in report.days:
        _say(
            f"{day.date:%a %d %b %Y} {day.taken.ah:5.1f} {day.used.ah:7.1f} {day.net.ah:+7.1f} "
            f"{day.lowest_percent:5.0f} % {day.spilled_sun.ah:11.1f} {day.unmet.ah:9.1f}"
        )


@contextmanager
def _in_one_go() -> Iterator[None]:
    """For a command that ends in a second: tables come from disk, and no memory is tidied."""
    gc.disable()
    from oddkettle.core.values.cache import CACHE
    from oddkettle.usecases.simulate.run_cache import keep_on_disk

    keep_on_disk()
    try:
        yield
    finally:
        CACHE.shelf = None
        gc.enable()


def _read_plan(path: Path) -> Plan:
    from oddkettle.formats.plan_json import parse_plan

    try:
        data = path.read_bytes()
    except OSError as error:
        _stop(f"{path}: {error.strerror}. Give the path of a plan file.")
    return parse_plan(data)


def _refusing(path: Path, work: Callable[[], T]) -> T:
    """What `work` makes of a plan; a refused plan is told field by field and exits with 2."""
    from oddkettle.plan.plan_errors import PlanRefused

    try:
        return work()
    except PlanRefused as refused:
        lines = [f"{path} is not a plan that can be run:"]
        for said in refused.complaints:
            lines.append(f"  {said.where or 'the file'}: {said.text}")
            lines.append(f"    found {said.value}; wanted {said.limit}. {said.remedy}")
        _stop("\n".join(lines))


@app.command()
def check(
    plan: Annotated[Path, typer.Argument(help="A plan file (JSON).")],
) -> None:
    """Judge a plan as an experienced builder would; exits with 1 on a danger or a fault."""
    with _in_one_go():
        from oddkettle.core.judgement.evidence import GRAVE
        from oddkettle.usecases.simulate.check import judge_plan

        judgements = _refusing(plan, lambda: judge_plan(_read_plan(plan)))
    for said in judgements:
        _say(f"{said.severity.upper():7s} {said.code} ({said.part})")
        _say(f"        {said.text}")
        _say(f"        {said.means} {said.remedy} [{said.source}]")
    grave = [said for said in judgements if said.severity in GRAVE]
    _say(f"Problems: {len(grave)}. Tips: {len(judgements) - len(grave)}.")
    if grave:
        raise typer.Exit(1)


@app.command(name="print")
def print_sheet(
    plan: Annotated[Path, typer.Argument(help="A plan file (JSON).")],
    out: Annotated[
        Path, typer.Argument(help="Where it is written; its name says what, see below.")
    ],
) -> None:
    """Write a sheet of the building: OUT ends in booklet.pdf, template.pdf, parts.csv and so on."""
    from oddkettle.usecases.build.prints import NAMES, print_document

    name = next((name for name in NAMES if out.name.endswith(name)), None)
    if name is None:
        _stop(f"{out.name} names no sheet; let it end in one of: {', '.join(NAMES)}.")
    data = _refusing(plan, lambda: print_document(_read_plan(plan), name))
    try:
        out.write_bytes(data)
    except OSError as error:
        _stop(f"{out} cannot be written: {error.strerror}. Choose another place.")
    _say(f"{out}: {len(data)} bytes.")


def _tell_limits(report: RunReport) -> None:
    """What holds the box back, and each source with the number that limits it."""
    _say(f"\n{report.bottleneck.headline} {report.bottleneck.detail}")
    names = {source.key: source.name for source in report.total.sources}
    for limit in report.limits:
        _say(f"  {names.get(limit.key, limit.key)}: {limit.text}")
    _say("")


def _tell_endurance(report: RunReport) -> None:
    bank, endurance, ageing = report.bank, report.endurance, report.endurance.ageing
    at, life = endurance.last_full_at, ageing.life_percent
    full = date_and_clock(datetime.fromisoformat(at)) if at else "never"
    _say(
        f"Battery {celsius(bank.lowest_c, '.0f', unit=False)} to "
        f"{celsius(bank.highest_c, '.0f')}; last full {full}; "
        f"{ageing.full_cycles:.1f} full cycles, {life_words(life.low, life.high)} of its life."
    )
    if endurance.shortest_autonomy is not None and endurance.shortest_autonomy.hours is not None:
        _say(
            "Without any source, as planned, from its worst moment: "
            f"{endurance.shortest_autonomy.hours:.1f} h."
        )
    if endurance.locked_h > 0.0:
        _say(f"Too cold to charge for {endurance.locked_h:.1f} h in which a source offers.")


@app.command()
def openapi() -> None:
    """Print the OpenAPI document of the API."""
    from oddkettle.api.app import create_app

    json.dump(create_app().openapi(), sys.stdout, indent=1, sort_keys=True)

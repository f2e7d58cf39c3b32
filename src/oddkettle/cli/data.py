"""Commands about one's own data: a copy, a copy brought back, a look whether all is whole."""

from __future__ import annotations

from pathlib import Path
from typing import TYPE_CHECKING, Annotated, NoReturn

import typer

from oddkettle.text import render

if TYPE_CHECKING:
    from oddkettle.usecases.service.health import HealthReport

OWN_DATA = "oddkettle.sqlite3"
ASK_S = 3.0
"""A server that runs answers at once; another program at its port is not waited for."""


def say(text: str, *, err: bool = False) -> None:
    """Print a line in its reader's habits."""
    typer.echo(render(text), err=err)


def stop(text: str) -> NoReturn:
    """Say what is wrong and end with 2."""
    say(text, err=True)
    raise typer.Exit(2)


def own_data() -> Path:
    """Where one's own data file lies."""
    from oddkettle.settings import Settings

    return Settings().data / OWN_DATA


def backup(
    out: Annotated[
        Path | None, typer.Argument(help="Where to; beside the data, in `copies`, if left out.")
    ] = None,
) -> None:
    """Copy everything that is kept into one file, also while the app runs."""
    from oddkettle.store.file.trouble import StoreTrouble
    from oddkettle.usecases.service.copies import back_up

    try:
        made = back_up(own_data(), out)
    except StoreTrouble as error:
        stop(str(error))
    say(f"{made}: {made.stat().st_size:,} bytes.")


def restore(
    copy: Annotated[Path, typer.Argument(help="A copy that `oddkettle backup` made.")],
) -> None:
    """Put a copy in the place of your data; what it replaces is kept."""
    from oddkettle.store.file.trouble import StoreTrouble
    from oddkettle.usecases.service.copies import bring_back

    try:
        kept = bring_back(copy, own_data())
    except StoreTrouble as error:
        stop(str(error))
    say(f"{copy} is your data now." + (f" What it replaced is {kept}." if kept else ""))


def doctor(
    as_json: Annotated[bool, typer.Option("--json", help="As one JSON object.")] = False,
) -> None:
    """Look through your data, and at the program if it runs: whether all is whole and well."""
    from oddkettle.store.file.trouble import StoreTrouble
    from oddkettle.usecases.service.doctor import look_at

    try:
        found = look_at(own_data(), _running())
    except StoreTrouble as error:
        stop(str(error))
    if as_json:
        typer.echo(found.model_dump_json(indent=2))
        raise typer.Exit(1 if found.troubles else 0)
    say(f"Odd Kettle {found.version}; {found.path}, {found.bytes:,} bytes, step {found.step}.")
    say(
        f"{found.plans} plans in {found.revisions} revisions, {found.entries} entries, "
        f"{found.samples:,} samples; {found.copies} copies."
    )
    say(f"{found.free_bytes / 1e9:.1f} GB are free there.")
    say("The program is running." if found.running else "The program is not running.")
    for trouble in found.troubles:
        say(f"Trouble: {trouble}.")
    if not found.whole:
        say("Bring a copy back with `oddkettle restore`; what it replaces is kept.")
    if found.troubles:
        raise typer.Exit(1)
    say("It is whole.")


def _running() -> HealthReport | None:
    """What a server at the port of the settings says of itself; None where none answers."""
    import httpx

    from oddkettle.settings import Settings
    from oddkettle.usecases.service.health import HealthReport

    try:
        url = f"http://127.0.0.1:{Settings().port}/health"
        answer = httpx.get(url, timeout=ASK_S, trust_env=False)
        return HealthReport.model_validate_json(answer.content) if answer.is_success else None
    except (httpx.HTTPError, ValueError):
        return None

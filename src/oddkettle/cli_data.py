"""Commands about one's own data: a copy, a copy brought back, a look whether all is whole."""

from __future__ import annotations

import shutil
from pathlib import Path
from typing import Annotated, NoReturn

import typer

from oddkettle import __version__
from oddkettle.text import render

OWN_DATA = "oddkettle.sqlite3"


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
    from oddkettle.store.trouble import StoreTrouble
    from oddkettle.usecases.copies import back_up

    try:
        made = back_up(own_data(), out)
    except StoreTrouble as error:
        stop(str(error))
    say(f"{made}: {made.stat().st_size:,} bytes.")


def restore(
    copy: Annotated[Path, typer.Argument(help="A copy that `oddkettle backup` made.")],
) -> None:
    """Put a copy in the place of your data; what it replaces is kept."""
    from oddkettle.store.trouble import StoreTrouble
    from oddkettle.usecases.copies import bring_back

    try:
        kept = bring_back(copy, own_data())
    except StoreTrouble as error:
        stop(str(error))
    say(f"{copy} is your data now." + (f" What it replaced is {kept}." if kept else ""))


def doctor() -> None:
    """Look through your data: whether it is whole, what it holds, how much room is left."""
    from oddkettle.store.trouble import StoreTrouble
    from oddkettle.usecases.copies import copies_of, look_through

    data = own_data()
    try:
        health = look_through(data)
    except StoreTrouble as error:
        stop(str(error))
    copies = sorted(copies_of(data).glob("*.sqlite3"))
    say(f"Odd Kettle {__version__}; {data}, {health.bytes:,} bytes, step {health.step}.")
    say(
        f"{health.plans} plans in {health.revisions} revisions, {health.entries} entries, "
        f"{health.samples:,} samples; {len(copies)} copies."
    )
    say(f"{shutil.disk_usage(data.parent).free / 1e9:.1f} GB are free there.")
    for trouble in health.troubles:
        say(f"Trouble: {trouble}.")
    if health.troubles:
        say("Bring a copy back with `oddkettle restore`; what it replaces is kept.")
        raise typer.Exit(1)
    say("It is whole.")

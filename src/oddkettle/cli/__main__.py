"""`python -m oddkettle.cli`: the same as the command."""

from oddkettle.cli import app

app()

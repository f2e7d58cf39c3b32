"""The engine behind the web's component tests: a real server with the demo's plans and log.

The tests' figures are those of the program as it is now, made when they are asked for; nothing is
kept in the tree. Prints its address, and ends when its input is closed, with whoever started it.

    python -m scripts.engine
"""

from __future__ import annotations

import sys
import tempfile
from pathlib import Path

from tests.support.serving import SERVE, Server

from oddkettle.shipped import EXAMPLES
from oddkettle.store.file.database import open_database
from oddkettle.usecases.service.demo import fill_demo

NOW = "2026-06-01T12:00:00+00:00"
LEAD = "moth-survey"


def main() -> None:
    """Serve until the input is closed."""
    with tempfile.TemporaryDirectory() as folder:
        database = open_database(Path(folder) / "oddkettle.sqlite3", NOW)
        fill_demo(EXAMPLES, LEAD)
        database.close()
        server = Server(Path(folder), SERVE)
        server.start()
        try:
            print(server.url, flush=True)
            sys.stdin.read()
        finally:
            server.kill()


if __name__ == "__main__":
    main()

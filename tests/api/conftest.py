"""What several tests of the API share."""

from __future__ import annotations

from collections.abc import Iterator

import pytest

from oddkettle.store.file.database import open_database
from oddkettle.usecases.service.demo import fill_demo
from tests.conftest import EXAMPLES, NOW


@pytest.fixture(scope="module")
def demo_store(tmp_path_factory: pytest.TempPathFactory) -> Iterator[None]:
    """A store with the demo's plans, for all tests of a module."""
    db = open_database(tmp_path_factory.mktemp("store") / "box.sqlite3", NOW)
    fill_demo(EXAMPLES, "moth-survey")
    yield
    db.close()

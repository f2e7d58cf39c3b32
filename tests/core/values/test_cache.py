"""What is kept: bounded, made once, and the same from disk."""

from __future__ import annotations

import threading
from dataclasses import dataclass
from pathlib import Path

import numpy as np
import pytest

from oddkettle.core.values import cache as module
from oddkettle.core.values.cache import BoundedCache, bytes_of, cached, cached_on_disk
from oddkettle.store.table_shelf import CORE, TableShelf, digest
from tests.support.patience import PATIENCE_S


@dataclass(frozen=True)
class Pair:
    light: np.ndarray
    rows: np.ndarray


@pytest.fixture
def own(monkeypatch: pytest.MonkeyPatch) -> BoundedCache:
    """A store of its own in place of the program's."""
    store = BoundedCache(10_000)
    monkeypatch.setattr(module, "CACHE", store)
    return store


def test_what_is_kept_is_made_once(own: BoundedCache) -> None:
    made: list[int] = []

    @cached
    def double(n: int) -> int:
        made.append(n)
        return 2 * n

    assert [double(3), double(3), double(4)] == [6, 6, 8]
    assert made == [3, 4]


def test_the_bound_holds_and_the_least_lately_asked_goes_first(own: BoundedCache) -> None:
    def ask(name: str, made: list[str]) -> None:
        own.ask(name, lambda: made.append(name) or np.zeros(400))

    made: list[str] = []
    for name in ("a", "b", "a", "c", "a", "d"):
        ask(name, made)
    assert own.held_bytes <= own.bound_bytes
    assert made == ["a", "b", "c", "d"]
    ask("a", made)
    ask("b", made)
    assert made == ["a", "b", "c", "d", "b"]


def test_one_value_over_the_bound_is_still_kept_alone(own: BoundedCache) -> None:
    own.ask("small", lambda: np.zeros(10))
    own.ask("large", lambda: np.zeros(10_000))
    assert own.ask("large", lambda: pytest.fail("made again")).nbytes == 80_000


def test_who_asks_for_what_is_being_made_waits_for_it(own: BoundedCache) -> None:
    begun, let_go = threading.Event(), threading.Event()
    made: list[int] = []

    def make() -> int:
        begun.set()
        let_go.wait(PATIENCE_S)
        made.append(1)
        return 7

    found: list[int] = []
    asks = [threading.Thread(target=lambda: found.append(own.ask("x", make))) for _ in range(3)]
    asks[0].start()
    begun.wait(PATIENCE_S)
    for other in asks[1:]:
        other.start()
    let_go.set()
    for one in asks:
        one.join(10)
    assert found == [7, 7, 7]
    assert made == [1]


def test_a_failure_is_told_to_all_and_not_kept(own: BoundedCache) -> None:
    def fails() -> int:
        raise ValueError("no")

    for _ in range(2):
        with pytest.raises(ValueError, match="no"):
            own.ask("x", fails)
    assert own.ask("x", lambda: 1) == 1


def test_arrays_are_counted_once_and_views_by_what_they_hold() -> None:
    array = np.zeros(1000)
    assert bytes_of(array) == 8000
    assert bytes_of((array, array[10:], {"again": array})) == 8000
    assert bytes_of(Pair(array, np.zeros(10, np.int32))) == 8040


def test_a_table_comes_back_from_disk_to_the_last_bit(own: BoundedCache, tmp_path: Path) -> None:
    made: list[float] = []

    @cached_on_disk(Pair)
    def table(seed: float, days: tuple[int, ...]) -> Pair:
        made.append(seed)
        return Pair(np.random.default_rng(int(seed)).random((3, 4)), np.array(days))

    own.shelf = TableShelf(tmp_path)
    first = table(1.5, (1, 2))
    own.clear()
    again = table(1.5, (1, 2))
    assert made == [1.5]
    assert again is not first
    for name in ("light", "rows"):
        one, other = getattr(first, name), getattr(again, name)
        assert one.dtype == other.dtype
        assert np.array_equal(one, other)
    table(1.5000000000000002, (1, 2))
    assert len(made) == 2


def test_a_damaged_or_missing_file_is_as_if_it_were_not_there(tmp_path: Path) -> None:
    shelf = TableShelf(tmp_path)
    assert shelf.load("none") is None
    shelf.store("one", {"light": np.ones(5)})
    path = shelf.folder / "one.npz"
    path.write_bytes(path.read_bytes()[:40])
    assert shelf.load("one") is None
    path.write_bytes(b"")
    assert shelf.load("one") is None


def test_the_shelf_stays_in_bounds(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr("oddkettle.store.table_shelf.BOUND_BYTES", 50_000)
    shelf = TableShelf(tmp_path)
    for n in range(12):
        shelf.store(f"t{n}", {"light": np.ones(1000)})
    assert sum(path.stat().st_size for path in shelf.folder.iterdir()) <= 50_000
    assert shelf.load("t11") is not None
    assert shelf.load("t0") is None


def test_a_shelf_that_cannot_be_written_keeps_nothing_and_breaks_nothing(tmp_path: Path) -> None:
    (tmp_path / "file").write_text("")
    shelf = TableShelf(tmp_path / "file")
    shelf.store("one", {"light": np.ones(5)})
    assert shelf.load("one") is None


def test_another_core_is_another_shelf(tmp_path: Path) -> None:
    copy = tmp_path / "core"
    copy.mkdir()
    (copy / "sun.py").write_text("ALBEDO = 0.2")
    before = digest(copy)
    (copy / "sun.py").write_text("ALBEDO = 0.3")
    assert digest(copy) != before
    assert digest(CORE) == digest()

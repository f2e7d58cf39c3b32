"""A million samples of a monitor: how fast they go in, how large the file is, how fast it is read.

Times of reading are given as ratios to the same question asked of a thousand samples.
"""

from __future__ import annotations

import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from tests.conftest import NOW, example

from oddkettle.core.estimation.monitor_sample import Sample
from oddkettle.store import samples as store
from oddkettle.store.file.database import open_database
from oddkettle.usecases.field.samples.samples import trip_span_ms, view
from oddkettle.usecases.field.track.track_report import track_plan
from oddkettle.usecases.plans.plans import create_plan

MANY, FEW, BUNCH, EVERY_S = 1_000_000, 1_000, 10_000, 10
BATTERY_AH = 12.0


def sample(first_ms: int, n: int) -> Sample:
    """A monitor's every ten seconds: by day some charge comes in, by night it goes out."""
    hour = n * EVERY_S / 3600
    amps = 0.4 if 8 < hour % 24 < 16 else -0.2
    day = int(hour // 24)
    ah_in, ah_out = 3.2 * day, 3.2 * day + 0.1 * (hour % 24)
    percent = 60.0 + 20.0 * amps
    return Sample(first_ms + n * EVERY_S * 1000, n, 12.6 + amps / 10, amps, percent, ah_in, ah_out)


def timed(ask: Callable[[], object]) -> float:
    times = []
    for _ in range(5):
        begin = time.perf_counter()
        ask()
        times.append(time.perf_counter() - begin)
    return min(times)


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "bench.sqlite3"
        db = open_database(path, NOW)
        plan = example("gauging-hut")
        few, many = (create_plan(plan).id for _ in range(2))
        first_ms = trip_span_ms(plan)[0] + 86_400_000
        store.put(few, [sample(first_ms, n) for n in range(FEW)])
        begin = time.perf_counter()
        for start in range(0, MANY, BUNCH):
            store.put(many, [sample(first_ms, n) for n in range(start, start + BUNCH)])
        took = time.perf_counter() - begin
        db.execute_sql("PRAGMA wal_checkpoint(TRUNCATE)")
        size = path.stat().st_size
        print(
            f"{MANY:,} samples in {took:.1f} s, file {size / 1e6:.0f} MB, "
            f"{size / MANY:.0f} bytes a sample"
        )
        for name, ask in (
            ("view of the whole", view),
            ("newest sample", store.newest),
            ("how many", store.count),
        ):
            base, large = timed(lambda a=ask: a(few)), timed(lambda a=ask: a(many))
            print(f"{name}: {1000 * large:.1f} ms, {large / base:.1f} x that of {FEW:,}")
        one = sample(first_ms, MANY)
        print(f"one more sample: {1000 * timed(lambda: store.put(many, [one])):.1f} ms")
        begin = time.perf_counter()
        track_plan(many)
        print(
            f"tracked over {MANY * EVERY_S / 86_400:.0f} days: {time.perf_counter() - begin:.1f} s"
        )
        begin = time.perf_counter()
        track_plan(many)
        print(f"and again: {1000 * (time.perf_counter() - begin):.0f} ms")
        db.close()


if __name__ == "__main__":
    main()

"""The long searches of the tests, cut into slices of about two minutes that are run one at a time.

A slice is run in turn with every submission (`.ci/run`), so that each of these tests is run again
and again without anybody remembering; and `make nightly` runs all that are left. What ended well is
kept in `.make/nightly.json`, by the state of the tree: a night that was broken off goes on there.

    python -m scripts.nightly               all slices that this tree has not passed yet
    python -m scripts.nightly --turn        the one whose turn it is, by the number of commits
    python -m scripts.nightly --slice 7     that one
    python -m scripts.nightly --slice 7 --keep   and keep what passed, with its time
    python -m scripts.nightly --list        what is in each, and how long it took

How long a test takes is read from `tests/support/nightly_seconds.json`; `--keep` and a whole night
write what passed into it. A test that stands there has passed once: from then on its failure fails
a submission. One that was never seen to pass is told loudly and fails a whole night only: nobody
had run the night as a whole, and what it finds first must not hold up a change that is none of its
business.
"""

from __future__ import annotations

import argparse
import hashlib
import json
import os
import re
import subprocess
import sys
import tempfile
import time
import xml.etree.ElementTree as ET
from collections.abc import Iterator
from dataclasses import dataclass
from pathlib import Path

ROOT = Path(__file__).resolve().parents[1]
SECONDS = ROOT / "tests" / "support" / "nightly_seconds.json"
PASSED = ROOT / ".make" / "nightly.json"
SLICE_S = 110.0
"""What a slice's tests take together, on each of the workers."""
WORKERS = 2
CUT_S = 300.0
"""A slice of tests that nobody has timed may be longer: a submission waits no longer for it."""
UNKNOWN_S = 3.0
"""Taken for a test that nobody has timed yet."""
SPEAKS_OF_NIGHT = re.compile(
    r"\b(repeats|examples|in_pieces|TIER|NIGHTLY|OF_THE_KERNEL|by_day|sample_boxes)\b"
)
"""A test file of which the night tries more than the day."""


@dataclass(frozen=True)
class Slice:
    """Some tests that are run together."""

    number: int
    tests: tuple[str, ...]
    seconds: float


def collected() -> list[str]:
    """The tests of which the night tries more than the day, by their names."""
    files = [
        str(path.relative_to(ROOT))
        for path in sorted((ROOT / "tests").rglob("test_*.py"))
        if SPEAKS_OF_NIGHT.search(path.read_text()) or "browser" in path.parts
    ]
    night, day = (_listed(files, tier) for tier in ("nightly", "test"))
    # In the browser the night differs by what it runs, elsewhere by how often too.
    return [test for test in night if "tests/browser/" not in test or test not in day]


def _listed(files: list[str], tier: str) -> dict[str, None]:
    done = subprocess.run(
        [sys.executable, "-m", "pytest", "--collect-only", *files],
        cwd=ROOT,
        env=os.environ | {"ODDKETTLE_TIER": tier, "ODDKETTLE_TURN": "1"},
        capture_output=True,
        text=True,
        check=False,
    )
    if done.returncode:
        raise RuntimeError(f"the tests cannot be collected: {done.stdout[-2000:]}")
    return dict.fromkeys(line for line in done.stdout.splitlines() if "::" in line)


def slices() -> list[Slice]:
    """All of them: in the order of the tests, each as long as a slice may be."""
    known = known_seconds()
    found: list[Slice] = []
    tests: list[str] = []
    total = 0.0
    for test in collected():
        takes_s = known.get(test, UNKNOWN_S)
        if tests and total + takes_s > SLICE_S * WORKERS:
            found.append(Slice(len(found), tuple(tests), total))
            tests, total = [], 0.0
        tests.append(test)
        total += takes_s
    return [*found, Slice(len(found), tuple(tests), total)]


def commits() -> int:
    """How many commits there are: whose turn it is goes by that."""
    counted = subprocess.run(
        ["git", "rev-list", "--count", "HEAD"], cwd=ROOT, capture_output=True, text=True, check=True
    )
    return int(counted.stdout)


def state() -> str:
    """A digest of the program and its tests, as they lie in the tree."""
    found = hashlib.sha256()
    for folder in ("src", "tests", "web/src"):
        for path in sorted((ROOT / folder).rglob("*")):
            if path.is_file() and path.suffix in (".py", ".ts", ".tsx", ".json", ".npz"):
                found.update(str(path.relative_to(ROOT)).encode() + path.read_bytes())
    return found.hexdigest()[:16]


@dataclass(frozen=True)
class Outcome:
    """What became of a slice: seconds of each test that passed, and those that did not."""

    passed: dict[str, float]
    failed: tuple[str, ...]
    ended_well: bool
    cut: bool = False


def run(one: Slice, *, fixed: bool) -> Outcome:
    """Run a slice.

    `fixed` keeps to the same random boxes each time: then a submission stands or falls with what it
    changes, not with luck. A whole night looks at new ones.
    """
    with tempfile.TemporaryDirectory() as folder:
        report = Path(folder) / "report.xml"
        listed = Path(folder) / "tests.txt"
        listed.write_text("\n".join(one.tests))
        command = [
            sys.executable,
            "-m",
            "pytest",
            f"--numprocesses={WORKERS}",
            "--dist=worksteal",
            f"--junit-xml={report}",
            f"@{listed}",
        ]
        turn = {"ODDKETTLE_TURN": "1"} if fixed else {}
        try:
            done = subprocess.run(
                command,
                cwd=ROOT,
                env=os.environ | {"ODDKETTLE_TIER": "nightly"} | turn,
                check=False,
                timeout=CUT_S if fixed else None,
            )
        except subprocess.TimeoutExpired:
            print(f"cut after {CUT_S:.0f} s: its tests take longer than was thought", flush=True)
            return Outcome({}, (), False, cut=True)
        cases = list(_cases(report)) if report.is_file() else []
        return Outcome(
            {name: seconds for name, seconds, well in cases if well},
            tuple(name for name, _, well in cases if not well),
            done.returncode == 0,
        )


def _cases(report: Path) -> Iterator[tuple[str, float, bool]]:
    # Our own file, written a moment ago.
    for case in ET.parse(report).getroot().iter("testcase"):
        file = case.get("classname", "").replace(".", "/") + ".py"
        well = case.find("failure") is None and case.find("error") is None
        yield f"{file}::{case.get('name')}", float(case.get("time", "0")), well


def known_seconds() -> dict[str, float]:
    """Seconds of each test that has passed before, by name."""
    known: dict[str, float] = json.loads(SECONDS.read_text()) if SECONDS.is_file() else {}
    return known


def keep(passed: dict[str, float]) -> None:
    """Keep that tests have passed, and how long they took."""
    whole = known_seconds() | {name: round(seconds, 1) for name, seconds in passed.items()}
    SECONDS.write_text(json.dumps(dict(sorted(whole.items())), indent=0) + "\n")


def judge(outcome: Outcome) -> int:
    """1 where a test failed that has passed before, or nothing ran; what is new is only told."""
    known = known_seconds()
    broken = [name for name in outcome.failed if name in known]
    for name in outcome.failed:
        print(f"{'FAILED' if name in known else 'FAILED, never seen to pass'}: {name}", flush=True)
    nothing = not outcome.passed and not outcome.failed and not outcome.cut
    return 1 if broken or nothing else 0


def main() -> int:
    """Run the slices that are asked for."""
    options = argparse.ArgumentParser()
    options.add_argument("--turn", action="store_true", help="the slice whose turn it is")
    options.add_argument("--slice", type=int, help="one slice, by its number")
    options.add_argument("--keep", action="store_true", help="keep what passed, with its time")
    options.add_argument("--list", action="store_true", help="only list them")
    given = options.parse_args()
    every = slices()
    if given.list:
        for one in every:
            print(f"slice {one.number}: {len(one.tests)} tests, {one.seconds:.0f} s")
            print("".join(f"    {test}\n" for test in one.tests), end="")
        return 0
    if given.turn or given.slice is not None:
        number = commits() % len(every) if given.turn else given.slice
        one = every[number]
        print(f"nightly slice {number} of {len(every)}: {len(one.tests)} tests", flush=True)
        outcome = run(one, fixed=True)
        if given.keep:
            keep(outcome.passed)
        return judge(outcome)
    return whole_night(every)


def whole_night(every: list[Slice]) -> int:
    """All that this tree has not passed yet, and how long each test took."""
    kept = json.loads(PASSED.read_text()) if PASSED.is_file() else {}
    now = state()
    passed: list[int] = kept.get("passed", []) if kept.get("state") == now else []
    times: dict[str, float] = kept.get("times", {}) if passed else {}
    failed = []
    for one in every:
        if one.number in passed:
            continue
        begin = time.monotonic()
        outcome = run(one, fixed=False)
        well, times = outcome.ended_well, times | outcome.passed
        took_s = time.monotonic() - begin
        print(
            f"slice {one.number} of {len(every)}: {'passed' if well else 'FAILED'}, {took_s:.0f} s",
            flush=True,
        )
        if well:
            passed.append(one.number)
        else:
            failed.append(one.number)
        PASSED.parent.mkdir(exist_ok=True)
        PASSED.write_text(json.dumps({"state": now, "passed": passed, "times": times}))
    keep(times)
    print(f"{len(passed)} of {len(every)} slices passed; failed: {failed or 'none'}")
    return 1 if failed else 0


if __name__ == "__main__":
    sys.exit(main())

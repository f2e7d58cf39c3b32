"""Foreign files are read in a process of their own, where they can do no harm.

Readers of other people's formats are other people's code: what a file makes them do - take all
memory, go on for ever, crash - ends with that process, which has bounds of time and of memory, and
ends too when nobody waits any more.
"""

from __future__ import annotations

import os
import pickle
import resource
import subprocess
import sys
import tempfile
import time
from collections.abc import Callable
from contextlib import suppress
from typing import TypeVar

from oddkettle.core.values.cancellation import check_given_up

T = TypeVar("T")
MAX_S = 40.0
"""The largest file that is read takes a fifth of it on a slow machine [judgement]."""
MAX_BYTES = 1_200_000_000
"""Of addresses, most of which are never touched: the libraries alone take half of them."""
LOOK_S = 0.1
ONE_THREAD = {"OPENBLAS_NUM_THREADS": "1", "OMP_NUM_THREADS": "1"}
"""Libraries lay out memory for a thread a core: on a large machine that alone would be too much."""


class ReaderEnded(Exception):
    """The reader took too long or too much, or crashed; the message says which."""


def read_apart(reader: Callable[..., T], *given: object, most_s: float = MAX_S) -> T:
    """What `reader`, a function of a module, makes of what it is given.

    Raises what the reader raises, ReaderEnded, and GivenUp when nobody waits any more.
    """
    command = [sys.executable, "-m", __name__, str(most_s)]
    end = time.monotonic() + most_s
    with tempfile.TemporaryFile() as question:
        pickle.dump((reader, given), question)
        question.seek(0)
        with subprocess.Popen(
            command,
            stdin=question,
            stdout=subprocess.PIPE,
            stderr=subprocess.DEVNULL,
            env=os.environ | ONE_THREAD,
        ) as child:
            try:
                answer = _answer(child, end, most_s)
            finally:
                child.kill()
    if not answer:
        raise ReaderEnded("its reader broke down over it")
    # Written by the process that was started above, and by nobody else.
    well, found = pickle.loads(answer)
    if not well:
        raise found
    return found  # type: ignore[no-any-return]


def _answer(child: subprocess.Popen[bytes], end: float, most_s: float) -> bytes:
    while True:
        try:
            return child.communicate(timeout=LOOK_S)[0]
        except subprocess.TimeoutExpired:
            check_given_up()
        if time.monotonic() > end:
            raise ReaderEnded(f"it was not read within {most_s:g} s")


def _within_bounds(most_s: float) -> None:
    for kind, most in (
        (resource.RLIMIT_AS, MAX_BYTES),
        (resource.RLIMIT_CPU, int(most_s) + 1),
        (resource.RLIMIT_CORE, 0),
    ):
        # Not every system knows each of them; the time is watched from outside, too.
        with suppress(ValueError, OSError):
            resource.setrlimit(kind, (most, most))


def _main() -> None:
    """In the other process."""
    _within_bounds(float(sys.argv[1]))
    found: tuple[bool, object]
    try:
        reader, given = pickle.load(sys.stdin.buffer)
        found = True, reader(*given)
    except MemoryError:
        found = False, ReaderEnded("it takes too much memory to read")
    except Exception as error:
        found = False, error
    try:
        answer = pickle.dumps(found)
        pickle.loads(answer)
    except Exception:
        # An exception that cannot be sent: its words can.
        answer = pickle.dumps((False, ReaderEnded(str(found[1])[:500])))
    sys.stdout.buffer.write(answer)


if __name__ == "__main__":
    # Under its own name, so that what is sent back is known under it.
    from oddkettle.formats.untrusted.apart import _main as main

    main()

"""Fail on source files that have grown too long and on paths or addresses of one machine."""

from __future__ import annotations

import re
import subprocess
import sys
from pathlib import Path

MAX_LINES = 400
ROOT = Path(__file__).resolve().parents[1]
SOURCE = re.compile(r"\.(py|ts|tsx|css|mjs|sh)$")
LOCK = re.compile(r"(requirements.*\.lock|package-lock\.json)$")
ADDRESS = re.compile(r"https?://\S+\.(tgz|whl|tar\.gz)|--index-url|\"resolved\"")


def main() -> int:
    """Look at every tracked file; print what is wrong."""
    listed = subprocess.run(
        ["git", "ls-files"], cwd=ROOT, capture_output=True, text=True, check=True
    )
    wrong = []
    for name in listed.stdout.split("\n"):
        path = ROOT / name
        if not path.is_file():
            continue
        if SOURCE.search(name):
            count = path.read_text().count("\n")
            if count > MAX_LINES:
                wrong.append(f"{name} has {count} lines; at most {MAX_LINES}. Split it.")
        if LOCK.search(name) and ADDRESS.search(path.read_text()):
            wrong.append(f"{name} holds a registry's address.")
    print("\n".join(wrong), end="\n" if wrong else "")
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())

"""Find words that a reader must read twice, and say what to write in their place.

    python -m scripts.check_words

Texts are what stands between quotes in Python and TypeScript, and what stands in the documents;
comments and names of code are not read. `docs/words.md` explains the list.
"""

from __future__ import annotations

import re
import sys
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).parent.parent
SOURCES = ("src/oddkettle/**/*.py", "web/src/**/*.ts", "web/src/**/*.tsx", "README.md",
           "docs/*.md")  # fmt: skip
SAY: dict[str, str] = {
    r"It answers as you go": "The answer updates as you change it",
    r"\bMake it mine\b": "Save and plan this trip",
    r"[Tt]aken for granted": "What we assumed",
    r"\bPut it in\b": "Apply",
    r"\bIt does in\b|\btrips? of 10+\b": "in 7 of 10 tries",
    r"\bit first falls short\b": "First short: Thu 11",
    r"\bno money\b": "free",
    r"\bis the tightest\b": "Lowest point:",
    r"\bIt stands at about\b": "About 73 % now",
    r"\bBring a shelf\b": "Import a list",
    r"Begin from something like": "Start from an example",
    r"\bThe mistake in it\b": "The mistake in this example",
    r"experienced builder would say": "Checks on your setup; most serious first",
    r"\bis said against\b": "No problems found",
    r"\bfinds? the battery full\b": "wasted, battery already full",
    r"\bover the rim\b": "wasted, battery already full",
    r"\bholds (?:it|them) back\b": "The battery is the limit",
    r"\blet in \d\b": "charge order: 2nd of 2",
    r"what if it stayed at home": "Turn off to see the trip without it",
    r"\bFirst to go when\b": "When the battery is low, switch off first",
    r"health hangs on": "Medical: must not lose power",
    r"\bMake it surer\b|\bBe sure\b": "Improve your chances / How much is enough",
    r"\bwithout any source\b": "lasts 43 h with no charging",
    r"\bWhat do you read\b": "Log a reading",
    r"\bNote it\b|\bNoted\b": "Save / Saved",
    r"\bIt cut out\b": "Power went off",
    r"\bpoints? of bother\b|\b(?:least|less|more) bother\b": "effort",
    r"\bcheapest mend\b": "easiest fix",
    r"\bnever to be touched\b": "never change these",
    r"\bnot beaten by any\b": "sizes are worth a look",
    r"\bAn anchor\b": "The most reliable reading",
    r"\bTaken in\b|\bSet aside\b|took the doubt": "Used / Not used yet / uncertainty",
    r"\bthat is reckoned with\b": "we allow for that",
    r"\bset to nought\b": "reset to zero",
    r"\bits wont\b": "its normal power",
    r"\bFrost will bar\b|\bbars charging\b": "Too cold to charge",
    r"\bin the clear\b": "not encrypted",
    r"and the way back": "Version history",
    r"\bPut away\b|\bTake it along\b": "Archive / Export",
    r"\bWarmth and place\b": "Temperature and location",
    r"with nothing against": "no problems found",
    r"\b(?:Lay everything|Begin this list) anew\b": "Reset layout / Start this list again",
    r"Set this plan beside": "Compare with another plan",
    r"\bThis cannot be\b|\bChanged meanwhile\b": "Invalid value / Someone else saved",
    r"\bThis file is no text\b": "This file is not plain text",
    r"\bLeave it\b(?!\s+(?:empty|out|plugged|on|off|at))": "Cancel",
    r"\bheavy, dear\b": "heavy, expensive",
}
"""What is found, and what to write."""
ALLOWED = {"docs/words.md"}
QUOTED = re.compile(r'"(?:[^"\\\n]|\\.)*"|`[^`]*`|>[^<>{}]+<')


def texts(path: Path) -> Iterator[tuple[int, str]]:
    """Every text of a file, with its line."""
    whole = path.read_text("utf-8")
    if path.suffix == ".md":
        yield from enumerate(whole.splitlines(), 1)
        return
    code = re.sub(r'""".*?"""', lambda m: "\n" * m.group().count("\n"), whole, flags=re.DOTALL)
    code = re.sub(r"/\*.*?\*/", lambda m: "\n" * m.group().count("\n"), code, flags=re.DOTALL)
    for n, line in enumerate(code.splitlines(), 1):
        if line.lstrip().startswith(("//", "#", "*", "import ")):
            continue
        if path.suffix == ".tsx":
            yield n, line
        else:
            for found in QUOTED.finditer(line):
                yield n, found.group()


def main() -> int:
    """Print what was found; 1 where something was."""
    found = 0
    for pattern in SOURCES:
        for path in sorted(ROOT.glob(pattern)):
            name = str(path.relative_to(ROOT))
            if name in ALLOWED or ".gen." in name or ".test." in name:
                continue
            for line, text in texts(path):
                for words, instead in SAY.items():
                    if re.search(words, text):
                        print(f"{name}:{line}: {text.strip()[:90]}\n    say: {instead}")
                        found += 1
    return 1 if found else 0


if __name__ == "__main__":
    sys.exit(main())

"""Prints what a single run and an ensemble say of two boxes, in the order that is asked for."""

from __future__ import annotations

import json
import sys
from pathlib import Path

from oddkettle.core.simulation.ensemble import run_ensemble
from oddkettle.core.simulation.run import simulate
from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan.case import case_from_plan

PLANS = Path(sys.argv[1])


def main() -> None:
    for name in ("moth-survey", "winter-caravan"):
        case = case_from_plan(parse_plan((PLANS / f"{name}.json").read_bytes()))
        asks = {
            "single": lambda case=case: simulate(case).level.sum(),
            "ensemble": lambda case=case: run_ensemble(case, 4).level.sum(dtype=float),
        }
        order = sorted(asks, reverse=sys.argv[2] == "single first")
        found = {kind: round(float(asks[kind]()), 9) for kind in order}
        print(json.dumps({"box": name, **dict(sorted(found.items()))}))


if __name__ == "__main__":
    main()

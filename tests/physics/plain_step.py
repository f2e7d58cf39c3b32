"""Runs a box with everything switched on and writes its levels and volts to standard output."""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np

from oddkettle.core.simulation.run import simulate
from oddkettle.formats.plan_json import parse_plan
from oddkettle.plan.case import case_from_plan

DAYS = int(sys.argv[1])
ROOT = Path(__file__).resolve().parents[2]


def main() -> None:
    for name in ("winter-caravan", "gauging-hut", "canal-standby"):
        plan = parse_plan((ROOT / "examples" / "plans" / f"{name}.json").read_bytes())
        days = plan.trip.days[:DAYS]
        blocks = [b for b in plan.trip.blocks if (b.end_day or b.day) < len(days)]
        trip = plan.trip.model_copy(update={"days": days, "blocks": blocks})
        run = simulate(case_from_plan(plan.model_copy(update={"trip": trip})))
        sys.stdout.buffer.write(np.ascontiguousarray(run.track.soc).tobytes())
        sys.stdout.buffer.write(np.ascontiguousarray(run.track.bus_v).tobytes())


if __name__ == "__main__":
    main()

"""Simulated outside things in processes of their own, beside the demo; they end with it."""

from __future__ import annotations

import os
import socket
import subprocess
import sys

from oddkettle.shipped import EXAMPLES


def free_port() -> int:
    """A port of this machine that nobody listens on."""
    with socket.socket() as probe:
        probe.bind(("127.0.0.1", 0))
        return int(probe.getsockname()[1])


def start_standin(name: str, *options: str) -> None:
    """A simulated outside thing in a process of its own; it ends with this one."""
    command = [sys.executable, "-m", "oddkettle.cli", name, "--parent", str(os.getpid())]
    subprocess.Popen([*command, *options])


def monitor_ports() -> tuple[int, int] | None:
    """Ports for a simulated monitor on the demo's first plan, told to the plan; None without it."""
    from oddkettle.store.plans import NoSuchPlan
    from oddkettle.store.samples import set_monitor
    from oddkettle.usecases.plans.plans import MOTH_PLAN, open_plan
    from oddkettle.usecases.process.clock import now_utc

    try:
        open_plan(MOTH_PLAN)
    except NoSuchPlan:
        return None
    port, http_port = free_port(), free_port()
    set_monitor(MOTH_PLAN, f"127.0.0.1:{port}", now_utc())
    return port, http_port


def start_monitor_standin(port: int, http_port: int) -> None:
    """The simulated monitor, which goes on from what is stored."""
    from oddkettle.usecases.service.demo import monitor_from_h, plan_file

    plan = ("--plan", str(plan_file(EXAMPLES)))
    ports = ("--port", str(port), "--http-port", str(http_port))
    start_standin("monitor-standin", *plan, *ports, "--from-hour", f"{monitor_from_h():.4f}")

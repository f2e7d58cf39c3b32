"""A simulated forecast service, for demos and tests.

It has a truth of its own: one future of a temperate coast, the same for the same place and days.
A day's word is right as often as forecasts are, and wrong otherwise; temperatures miss by a
kelvin or two, more the farther ahead. It speaks as of the first day asked for, whatever the clock
says. With `--silent` it takes calls and never answers, with `--nonsense` it answers nonsense.
"""

from __future__ import annotations

import json
import os
import threading
import time
from datetime import UTC, date, datetime, timedelta
from http.server import BaseHTTPRequestHandler, ThreadingHTTPServer
from typing import Any, Literal
from urllib.parse import parse_qs, urlsplit

Mood = Literal["well", "silent", "nonsense"]
MAX_DAYS = 16
CLIMATE = "temperate_maritime"
MISS_K, MISS_K_A_DAY = 0.8, 0.25
ISSUED_HOUR = 6
SILENCE_S = 60.0


def foresee(latitude: float, longitude: float, first: date, days: int) -> dict[str, Any]:
    """The service's answer: deterministic in place and days."""
    import numpy as np

    from oddkettle.core.weather.climate import CLIMATES, typical_day
    from oddkettle.core.weather.sky_words import SKY_WORDS
    from oddkettle.core.weather.weather_generator import Doubt, Prospect, draw_skies, holds

    seed = abs(hash((round(latitude, 1), round(longitude, 1), first.toordinal()))) % 100_000
    typical = [
        typical_day(CLIMATES[CLIMATE], first + timedelta(days=d), latitude, 0.0)
        for d in range(days)
    ]
    prospects = tuple(Prospect(t.clearness, t.low_c, t.high_c) for t in typical)
    truth = draw_skies(first, latitude, prospects, Doubt(seed=seed), 1)
    rng = np.random.default_rng(seed)
    words = list(SKY_WORDS.values())
    told = []
    for d in range(days):
        right = min(words, key=lambda w: abs(w.mean - truth.clearness[0, d]))
        word = right if rng.random() < holds(d + 1) else words[int(rng.integers(len(words)))]
        miss = rng.normal(0.0, MISS_K + MISS_K_A_DAY * d, 2)
        low, high = truth.low_c[0, d] + miss[0], truth.high_c[0, d] + miss[1]
        told.append(
            {
                "date": (first + timedelta(days=d)).isoformat(),
                "sky": word.key,
                "low_c": round(float(min(low, high)), 1),
                "high_c": round(float(max(low, high)), 1),
            }
        )
    issued = datetime(first.year, first.month, first.day, ISSUED_HOUR, tzinfo=UTC)
    return {"format": "oddkettle-forecast", "issued": issued.isoformat(), "days": told}


def make_server(port: int, mood: Mood = "well") -> ThreadingHTTPServer:
    """A server on 127.0.0.1, not yet serving; port 0 takes any free one."""

    class Handler(BaseHTTPRequestHandler):
        def do_GET(self) -> None:
            if mood == "silent":
                time.sleep(SILENCE_S)
                return
            status, body = answer(self.path) if mood == "well" else (200, {"rain": "maybe"})
            data = json.dumps(body).encode()
            self.send_response(status)
            self.send_header("Content-Type", "application/json")
            self.send_header("Content-Length", str(len(data)))
            self.end_headers()
            self.wfile.write(data)

        def log_message(self, format: str, *args: object) -> None:
            del format, args

    return ThreadingHTTPServer(("127.0.0.1", port), Handler)


def answer(path: str) -> tuple[int, dict[str, Any]]:
    """Status and body for a request's path and query."""
    parts = urlsplit(path)
    if parts.path != "/forecast":
        return 404, {"error": f"There is no {parts.path}; ask for /forecast."}
    query = {key: values[0] for key, values in parse_qs(parts.query).items()}
    try:
        latitude, longitude = float(query["latitude"]), float(query["longitude"])
        first = date.fromisoformat(query["first"])
        days = min(max(int(query.get("days", "7")), 1), MAX_DAYS)
    except (KeyError, ValueError) as error:
        return 400, {"error": f"Give latitude, longitude, first (a date) and days: {error}."}
    if not (-90 <= latitude <= 90 and -180 <= longitude <= 180):
        return 400, {"error": f"There is no place at {latitude:g}, {longitude:g}."}
    return 200, foresee(latitude, longitude, first, days)


def serve(port: int, mood: Mood = "well", parent: int | None = None) -> None:
    """Serve until killed, or until the process that started it is gone."""
    server = make_server(port, mood)
    if parent is not None:
        threading.Thread(target=_watch, args=(parent,), daemon=True).start()
    server.serve_forever()


def _watch(parent: int) -> None:
    while os.getppid() == parent:
        time.sleep(1.0)
    os._exit(0)

"""What the server holds in memory: at rest, and after all that the pages ask.

Starts the app with demo data in a process of its own and reads its resident memory [MB].
"""

from __future__ import annotations

import sys
import tempfile
import time
from pathlib import Path

from tests.support import http

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from tests.support.serving import Server  # noqa: E402


def resident_mb(pid: int) -> float:
    status = Path(f"/proc/{pid}/status").read_text().splitlines()
    kilobytes = next(line.split()[1] for line in status if line.startswith("VmRSS"))
    return int(kilobytes) / 1024


def main() -> None:
    with tempfile.TemporaryDirectory() as folder:
        server = Server(Path(folder))
        server.start()
        assert server.process is not None
        pid = server.process.pid
        with http.Client(base_url=server.url) as client:
            client.get("/api/plans/1/report")
            time.sleep(60)
            print(f"at rest, a minute after the start   {resident_mb(pid):5.0f} MB")
            plan = client.get("/api/plans/1").json()["document"]
            for path in ("improve/weigh", "improve/sizes"):
                client.post(f"/api/{path}", json=plan).read()
            client.post("/api/build", json=plan)
            for n in range(1, 13):
                client.get(f"/api/plans/{n}/report")
            client.get("/api/places?q=north")
            print(f"after odds, sizes, all samples      {resident_mb(pid):5.0f} MB")
        server.kill()


if __name__ == "__main__":
    main()

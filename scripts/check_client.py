"""Fail when the generated TypeScript client no longer matches the API."""

from __future__ import annotations

import json
import subprocess
import sys
import tempfile
from pathlib import Path

from oddkettle.api.app import create_app

WEB = Path(__file__).resolve().parents[1] / "web"


def main() -> int:
    """Generate both files anew beside the committed ones and compare."""
    document = json.dumps(create_app().openapi(), indent=1, sort_keys=True)
    (WEB / "openapi.json").write_text(document)
    with tempfile.TemporaryDirectory() as folder:
        fresh = {
            "schema.gen.ts": ["npx", "openapi-typescript", "openapi.json", "-o"],
            "limits.gen.ts": ["node", "limits.mjs"],
        }
        for name, command in fresh.items():
            made = Path(folder) / name
            subprocess.run([*command, str(made)], cwd=WEB, check=True, capture_output=True)
            if made.read_text() != (WEB / "src" / "api" / name).read_text():
                print(f"web/src/api/{name} is stale: run `make client`.", file=sys.stderr)
                return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())

#!/usr/bin/env bash
# Debian's Chromium for the browser tests, installed when it is missing.
set -euo pipefail
if command -v chromium >/dev/null; then exit 0; fi
as_root=()
if [ "$(id -u)" -ne 0 ]; then as_root=(sudo); fi
export DEBIAN_FRONTEND=noninteractive
"${as_root[@]}" apt-get update -qq
"${as_root[@]}" apt-get install -y -qq chromium

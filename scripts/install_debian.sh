#!/usr/bin/env bash
# Debian's Chromium for the browser tests and its Mosquitto for those of MQTT, where they are
# missing.
set -euo pipefail
wanted=()
command -v chromium >/dev/null || wanted+=(chromium)
[ -x /usr/sbin/mosquitto ] || command -v mosquitto >/dev/null || wanted+=(mosquitto)
if [ "${#wanted[@]}" -eq 0 ]; then exit 0; fi
as_root=()
if [ "$(id -u)" -ne 0 ]; then as_root=(sudo); fi
export DEBIAN_FRONTEND=noninteractive
"${as_root[@]}" apt-get update -qq
"${as_root[@]}" apt-get install -y -qq "${wanted[@]}"
# It is for the tests alone, which start their own: no broker of the machine's is left running.
if [[ " ${wanted[*]} " == *mosquitto* ]] && command -v systemctl >/dev/null; then
  "${as_root[@]}" systemctl disable --now mosquitto >/dev/null 2>&1 || true
fi

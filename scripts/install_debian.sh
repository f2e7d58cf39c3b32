#!/usr/bin/env bash
# Debian's Chromium for the browser tests and its Mosquitto for those of MQTT, where they are
# missing. The headless shell is the same Chromium without a window: the tests are quicker in it,
# and take the whole one where the shell cannot be had.
set -euo pipefail
wanted=()
command -v chromium >/dev/null || wanted+=(chromium)
[ -x /usr/sbin/mosquitto ] || command -v mosquitto >/dev/null || wanted+=(mosquitto)
shell=chromium-headless-shell
command -v $shell >/dev/null && shell=""
if [ "${#wanted[@]}" -eq 0 ] && [ -z "$shell" ]; then exit 0; fi
as_root=()
if [ "$(id -u)" -ne 0 ]; then as_root=(sudo); fi
export DEBIAN_FRONTEND=noninteractive
# Without a network what is there must do: do not wait long for it.
quick=(-o Acquire::Retries=1 -o Acquire::http::Timeout=20 -o Acquire::https::Timeout=20)
"${as_root[@]}" apt-get "${quick[@]}" update -qq || [ "${#wanted[@]}" -eq 0 ]
if [ "${#wanted[@]}" -gt 0 ]; then
  "${as_root[@]}" apt-get install -y -qq "${wanted[@]}"
fi
if [ -n "$shell" ]; then
  "${as_root[@]}" apt-get "${quick[@]}" install -y -qq $shell || echo "No $shell here: the tests take chromium."
fi
# It is for the tests alone, which start their own: no broker of the machine's is left running.
if [[ " ${wanted[*]} " == *mosquitto* ]] && command -v systemctl >/dev/null; then
  "${as_root[@]}" systemctl disable --now mosquitto >/dev/null 2>&1 || true
fi

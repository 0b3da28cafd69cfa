#!/usr/bin/env bash
# Runs a command with a home, cache and settings of its own, which go with it; with --display first, on an X display of
# its own as well (unless PYROMETER_TEST_DISPLAY names one to watch it on).
set -u
SHOWN=
[ "${1:-}" = --display ] && { SHOWN=1; shift; }
OWN=$(mktemp -d)
SERVER=
leave() {
    [ -n "$SERVER" ] && kill "$SERVER" 2>/dev/null && wait "$SERVER" 2>/dev/null
    rm -rf "$OWN"
}
trap leave EXIT
export HOME="$OWN" XDG_CACHE_HOME="$OWN/cache" XDG_CONFIG_HOME="$OWN/config" XDG_DATA_HOME="$OWN/data" XDG_RUNTIME_DIR="$OWN/run"
mkdir -p -m 700 "$XDG_RUNTIME_DIR" "$OWN/cache" "$OWN/config" "$OWN/data"

# Sanitized builds: what graphics driver, bus and TBB keep until the end cannot be told from leaks of ours, since the driver is
# unloaded before they are counted.
[ -n "$SHOWN" ] && export ASAN_OPTIONS=detect_leaks=0
if [ -n "$SHOWN" ] && [ -n "${PYROMETER_TEST_DISPLAY:-}" ]; then
    export DISPLAY="$PYROMETER_TEST_DISPLAY"
elif [ -n "$SHOWN" ]; then
    mkfifo "$OWN/display"
    Xvfb -displayfd 3 -screen 0 1600x1000x24 -nolisten tcp 3>"$OWN/display" 2>"$OWN/xvfb.log" &
    SERVER=$!
    read -r -t 30 number <"$OWN/display" || { echo "Xvfb did not start:" >&2; cat "$OWN/xvfb.log" >&2; exit 1; }
    export DISPLAY=":$number"
    unset WAYLAND_DISPLAY
fi
"$@"

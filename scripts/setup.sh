# Shared by ./demo and ./check: installs what is missing and builds Release. Sourced with ROOT set.
say() { printf '\033[1m== %s\033[0m\n' "$*"; }
stop() { printf '\nStopped: %s\n' "$*" >&2; exit 1; }

as_root() {
    if [ "$(id -u)" = 0 ]; then "$@"
    elif command -v sudo >/dev/null; then sudo "$@"
    else stop "packages are missing and neither root nor sudo is at hand. Install those in packages.txt."; fi
}

install_packages() {
    local wanted missing
    wanted=$(grep -v '^#' "$ROOT/packages.txt")
    # shellcheck disable=SC2086
    missing=$(comm -23 <(printf '%s\n' $wanted | sort -u) \
        <(dpkg-query -W -f '${db:Status-Abbrev} ${Package}\n' $wanted 2>/dev/null | awk '$1=="ii"{print $2}' | sort -u))
    [ -z "$missing" ] && return
    say "Installing Debian packages:" $missing
    as_root apt-get update || stop "apt-get update failed. Is the network reachable?"
    # shellcheck disable=SC2086
    as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y --no-install-recommends $missing ||
        stop "apt-get could not install: $missing"
}

build_release() {
    if [ ! -f "$ROOT/build/build.ninja" ]; then
        say "Configuring"
        (cd "$ROOT" && cmake --preset release) || stop "configuring failed; see the messages above."
    fi
    if ! ninja -C "$ROOT/build" -n "$@" 2>/dev/null | grep -q 'no work to do'; then
        say "Building (a few minutes the first time)"
        cmake --build "$ROOT/build" --target "$@" || stop "the build failed; see the messages above."
    fi
}

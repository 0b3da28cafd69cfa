#!/usr/bin/env bash
# Every source is as .clang-format says, at most 120 columns, and so is everything else that is written by hand here.
# Argument: the project's folder.
set -u
cd "$1" || exit 2
files=$(find app benchmarks charts cli core pages render rig tests -name '*.cpp' -o -name '*.h')
# shellcheck disable=SC2086
wrong=$(clang-format --dry-run $files 2>&1 | grep -oE '^[^:]+:[0-9]+' | sort -u)
# shellcheck disable=SC2086
wide=$(LC_ALL=C.UTF-8 grep -nE '^.{121,}$' $files $(find core app -name '*.inc') | cut -c1-100)
[ -z "$wrong" ] || printf 'not formatted (clang-format -i FILE):\n%s\n' "$wrong"
[ -z "$wide" ] || printf 'wider than 120 columns:\n%s\n' "$wide"
[ -z "$wrong$wide" ] && echo "formatted" && exit 0
exit 1

#!/usr/bin/env bash
# Evaluates a survey, writes its report and fails on a limit. For a nightly job in a container of Debian 12; no display.
# Argument: the survey.
set -u
SURVEY=$1
pyrometer-cli evaluate "$SURVEY" --step all --junit verdicts.xml > verdicts.txt
VERDICT=$?
pyrometer-cli report "$SURVEY" -o report.pdf -o report.html || [ $? -lt 2 ] || exit 2 # 2: it could not be written
exit $VERDICT # 0 within, 1 over, 4 unknown, 2 not read

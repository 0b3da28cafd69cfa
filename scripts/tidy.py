#!/usr/bin/env python3
"""clang-tidy over whole folders, as they are compiled: unit by unit, so that headers are read once for a folder.

usage: tidy.py BUILD [PATTERN]
PATTERN: a regular expression on the sources' paths (core/field, app/.*card); without it every source. Of a unit that
holds one of them all is looked at. GCC's precompiled headers are replaced by their text, which clang can read.
"""
import concurrent.futures
import json
import os
import re
import shutil
import subprocess
import sys
import tempfile

TIDY = shutil.which("clang-tidy-16") or sys.exit("clang-tidy-16 is not installed (Debian's package of that name)")


def as_clang_reads(command, folder):
    for unknown in ("-fpch-preprocess", "-Winvalid-pch", "-Werror"):
        command = command.replace(f" {unknown} ", " ")
    header = re.search(r"-include (\S+)", command)
    if not header:
        return command
    copy = os.path.join(folder, header.group(1).replace("/", "_"))
    shutil.copy(header.group(1), copy)
    return command.replace(header.group(1), copy)


def sources(unit):
    if "/Unity/" not in unit:
        return [unit]
    with open(unit) as text:
        return re.findall(r'#include "(.*\.cpp)"', text.read())


def main(build, pattern="."):
    root = os.path.dirname(os.path.dirname(os.path.abspath(__file__)))
    with open(os.path.join(build, "compile_commands.json")) as text:
        commands = json.load(text)
    with tempfile.TemporaryDirectory() as folder:
        units = []
        for one in commands:
            if re.search(r"cmake_pch|mocs_compilation|qrc_", one["file"]):
                continue
            one["command"] = as_clang_reads(one["command"], folder)
            if any(re.search(pattern, os.path.relpath(source, root)) for source in sources(one["file"])):
                units.append(one["file"])
        with open(os.path.join(folder, "compile_commands.json"), "w") as text:
            json.dump(commands, text)

        def look(unit):
            told = subprocess.run([TIDY, "-p", folder, "--quiet", "--warnings-as-errors=*", unit], cwd=root,
                                  stdout=subprocess.PIPE, stderr=subprocess.DEVNULL, text=True)
            print(told.stdout, end="", flush=True)
            return told.returncode == 0

        with concurrent.futures.ThreadPoolExecutor(os.cpu_count()) as pool:
            clean = list(pool.map(look, units))
    print(f"{sum(clean)} of {len(units)} units are clean")
    return all(clean) and bool(units)


if __name__ == "__main__":
    if len(sys.argv) < 2:
        sys.exit(__doc__)
    sys.exit(0 if main(*sys.argv[1:3]) else 1)

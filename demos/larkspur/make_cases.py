#!/usr/bin/env python3
"""Inputs of the rig that are variants of another one: larkspur's plate and coolant flow, and coarser grids.

make_cases.py telemetry PLATE_MM FLOW_L_PER_MIN COARSER < telemetry.rig.json   plate of that thickness, that flow
make_cases.py grid COARSER < roof-edge.rig.json                               spacings so many times as wide
"""
import json
import sys


def coarser(rig, factor):
    for axis in rig["grid"].values():
        for key in ("spacing", "fine"):
            if key in axis:
                axis[key] = round(axis[key] * factor, 6)


def telemetry(rig, plate, flow):
    # The plate's upper side stays at 5 mm, its channel where it is. Film coefficient as flow to the power 0.55, through
    # those of the two cases that are solved in full.
    for box in rig["boxes"]:
        if box["part"] == "plate" and box["from"][2] == -3:
            box["from"][2] = 5 - plate
    channel = rig["channels"][0]
    channel["flow"] = f"{flow:g} L/min"
    channel["film_coefficient"] = f"{300 * (flow / 0.12) ** 0.5525:.1f} W/(m2.K)"
    rig["title"] = f"Larkspur telemetry module, plate {plate:g} mm, {flow:g} L/min"


def main():
    kind, *numbers = sys.argv[1:]
    numbers = [float(one) for one in numbers]
    rig = json.load(sys.stdin)
    if kind == "telemetry":
        telemetry(rig, numbers[0], numbers[1])
    else:
        rig.pop("refine", None)  # the grid as it is told
    coarser(rig, numbers[-1])
    json.dump(rig, sys.stdout, indent=1)


if __name__ == "__main__":
    main()

"""Draws the rooms of the code and what each needs, from what the build states (rooms.txt in the build folder).
Arguments: rooms.txt, the SVG to write. The same input gives the same picture; tests/layers compares it."""
import pathlib
import sys

WIDTH, HEIGHT, GAP_X, GAP_Y = 112, 34, 26, 44
ABOVE = {"render": ["report"], "cli": ["report"], "app": ["render"], "rig": ["case"], "reader process": ["field"]}


def rooms_of(file):
    rooms = {}
    for line in pathlib.Path(file).read_text().splitlines():
        name, _, needs = line.partition(":")
        rooms[name.strip()] = needs.split()
    return rooms


def levels_of(rooms):
    levels = {}

    def level(name):
        if name not in levels:
            levels[name] = 1 + max((level(one) for one in rooms[name]), default=-1)
        return levels[name]

    for name in rooms:
        level(name)
    return levels


def drawing(rooms):
    everything = {**rooms, **ABOVE}
    levels = levels_of(everything)
    top = max(levels.values())
    rows = [[name for name in everything if levels[name] == at] for at in range(top + 1)]
    width = max(len(row) for row in rows) * (WIDTH + GAP_X) + GAP_X
    height = (top + 1) * (HEIGHT + GAP_Y) + GAP_Y
    place = {}
    for at, row in enumerate(rows):
        left = (width - len(row) * (WIDTH + GAP_X) + GAP_X) / 2
        for i, name in enumerate(row):
            place[name] = (left + i * (WIDTH + GAP_X), height - (at + 1) * (HEIGHT + GAP_Y))
    out = [
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{width}" height="{height}" font-family="Inter, sans-serif" '
        'font-size="13">',
        f'<rect width="{width}" height="{height}" fill="#F4EFE6"/>',
    ]
    for name, needs in everything.items():
        x, y = place[name]
        for one in needs:
            to_x, to_y = place[one]
            out.append(
                f'<path d="M{x + WIDTH / 2:g} {y + HEIGHT:g} C{x + WIDTH / 2:g} {y + HEIGHT + 24:g} '
                f'{to_x + WIDTH / 2:g} {to_y - 24:g} {to_x + WIDTH / 2:g} {to_y:g}" fill="none" stroke="#8A8F96"/>'
            )
    for name in everything:
        x, y = place[name]
        fill = "#FFFFFF" if name in rooms else "#E7DCCB"
        out.append(f'<rect x="{x:g}" y="{y:g}" width="{WIDTH}" height="{HEIGHT}" rx="4" fill="{fill}" stroke="#20252B"/>')
        out.append(f'<text x="{x + WIDTH / 2:g}" y="{y + 22:g}" text-anchor="middle" fill="#20252B">{name}</text>')
    return "\n".join(out + ["</svg>", ""])


if __name__ == "__main__":
    pathlib.Path(sys.argv[2]).write_text(drawing(rooms_of(sys.argv[1])))

"""Every include within core goes to a room that the including room needs, as the build states it; the README lists the
rooms in that order, and docs/architecture.svg draws them. Arguments: the project's folder, rooms.txt."""
import pathlib
import re
import sys

root = pathlib.Path(sys.argv[1])
sys.path.insert(0, str(root / "scripts"))
import draw_rooms

rooms = draw_rooms.rooms_of(sys.argv[2])
rooms["case/readers"] = ["field"]
rooms["case/writers"] = ["case"]
mistakes = []


def reach(name, seen):
    for need in rooms[name]:
        if need not in rooms:
            mistakes.append(f"{name} needs {need}, which is no room")
        elif need not in seen:
            seen.add(need)
            reach(need, seen)
    return seen


def room_of(path):
    parts = path.split("/")
    nested = "/".join(parts[1:3])
    return nested if nested in rooms else parts[1]


for file in sorted((root / "core").rglob("*")):
    if file.suffix not in (".cpp", ".h", ".inc"):
        continue
    name = file.relative_to(root).as_posix()
    room = room_of(name)
    if room not in rooms:
        mistakes.append(f"{name}: {room} is no room of the build")
        continue
    allowed = reach(room, {room})
    for included in re.findall(r'#include "(core/[^"]+)"', file.read_text()):
        if not (root / included).is_file():
            mistakes.append(f"{name} includes {included}, which is not there")
        elif room_of(included) not in allowed:
            mistakes.append(f"{name} includes {included}, but {room} does not need {room_of(included)}")

listed = re.findall(r"^\| `core/(\w+)/` \|", (root / "README.md").read_text(), re.M)
stated = [name for name in rooms if "/" not in name]
for name in stated:
    if name not in listed:
        mistakes.append(f"README.md does not list core/{name}/")
for name in listed:
    if name not in rooms:
        mistakes.append(f"README.md lists core/{name}/, which is no room")
for at, name in enumerate(listed):
    for need in rooms.get(name, []):
        if need in listed[:at]:
            mistakes.append(f"README.md lists core/{need}/ above core/{name}/, which needs it")

plain = {name: needs for name, needs in rooms.items() if "/" not in name}
picture = root / "docs/architecture.svg"
if not picture.is_file() or picture.read_text() != draw_rooms.drawing(plain):
    mistakes.append("docs/architecture.svg is not the one of this build: scripts/draw_rooms.py build/rooms.txt docs/architecture.svg")

print("\n".join(mistakes) or f"{len(plain)} rooms, each includes what it needs only")
sys.exit(1 if mistakes else 0)

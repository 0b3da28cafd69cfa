// The line in which a plane meets walls.
#pragma once

#include "core/field/cut.h"

namespace pyro {

// Places from one end of the line to the other, metres. Where the plane meets the walls in several lines that do not
// touch, the longest of them; a closed line starts where it is lowest along x, then y, then z. Empty when it misses
// them.
std::vector<Point> wallTrace(std::span<const Mesh* const> walls, const Plane& unitPlane);

} // namespace pyro

// Cells that a check is about, as lines to draw.
#pragma once

#include "core/readings/check.h"

#include <array>
#include <span>

namespace pyro {

// The edges of at most `most` of the cells, straight between their corners, m; an edge that two of them share comes
// twice. Cells whose numbers the case does not have are left out.
std::vector<std::array<Point, 2>> outlinesOf(const Case& solved, std::span<const MarkedCell> cells, std::size_t most);

} // namespace pyro

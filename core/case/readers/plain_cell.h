// A polyhedron that is a tetrahedron, pyramid, wedge or hexahedron given by its faces.
#pragma once

#include "core/case/cell_types.h"

#include <cstdint>
#include <optional>
#include <span>
#include <vector>

namespace pyro {

struct PlainCell {
    CellType type;
    std::vector<std::uint32_t> nodes;
};

// From the faces as rings of node numbers; nothing for a cell with other faces, or whose faces do not close.
std::optional<PlainCell> plainCell(std::span<const std::vector<std::uint32_t>> faces);

} // namespace pyro

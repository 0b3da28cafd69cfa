// Curved cells of a mesh: their lattices, and each cell as straight cells: itself, or the pieces between the nodes of
// its lattice.
#pragma once

#include "core/case/case.h"
#include "core/field/cell_lattice.h"

#include <algorithm>

namespace pyro {

inline bool hasCurved(const Mesh& mesh) {
    return std::ranges::any_of(mesh.types, [](std::uint8_t type) { return isCurved(static_cast<CellType>(type)); });
}

// Null for a straight cell.
inline const CellLattice* latticeOf(const Mesh& mesh, std::size_t cell) {
    const auto type = mesh.type(cell);
    return isCurved(type) ? CellLattice::of(type, mesh.cell(cell).size()) : nullptr;
}

// use(type, nodes) for each.
template <class Use>
void forPieces(const Mesh& mesh, std::size_t cell, Use use) {
    const auto ids = mesh.cell(cell);
    const auto* lattice = latticeOf(mesh, cell);
    if (lattice == nullptr)
        return use(mesh.type(cell), ids);
    std::array<std::uint32_t, 8> nodes;
    for (const auto& piece : lattice->pieces()) {
        for (std::size_t i = 0; i < piece.count; ++i)
            nodes[i] = ids[piece.node[i]];
        use(piece.type, std::span<const std::uint32_t>(nodes).first(piece.count));
    }
}

} // namespace pyro

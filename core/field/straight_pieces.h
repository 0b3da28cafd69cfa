// A cell as straight cells: itself, or of a curved one the pieces between the nodes of its lattice.
#pragma once

#include "core/case/case.h"
#include "core/field/cell_lattice.h"

namespace pyro {

// use(type, nodes) for each.
template <class Use> void forPieces(const Mesh& mesh, std::size_t cell, Use use) {
    const auto ids = mesh.cell(cell);
    const auto* lattice = isCurved(mesh.type(cell)) ? CellLattice::of(mesh.type(cell), ids.size()) : nullptr;
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

// Which nodes of a cell are neighbours along its edges.
#pragma once

#include "core/field/cell_lattice.h"

#include <array>
#include <vector>

namespace pyro {

using EdgeList = std::vector<std::array<std::uint8_t, 2>>;

// Of a straight type, each edge once. Empty for polygons, whose nodes are a ring.
const EdgeList& edgesOf(CellType type);

// use(a, b) for every edge of a cell with these nodes; of a curved one for the neighbours along the lines of its
// lattice.
template <class Ids, class Use>
void forEdges(CellType type, const Ids& ids, Use use) {
    if (type == CellType::Polygon) {
        for (std::size_t i = 0; i < ids.size(); ++i)
            use(ids[i], ids[(i + 1) % ids.size()]);
        return;
    }
    if (isCurved(type)) {
        if (const auto* lattice = CellLattice::of(type, ids.size()))
            for (const auto& [a, b] : lattice->edges())
                use(ids[a], ids[b]);
        return;
    }
    for (const auto& [a, b] : edgesOf(type))
        use(ids[a], ids[b]);
}

} // namespace pyro

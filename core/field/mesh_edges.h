// Which nodes of a cell are neighbours along its edges.
#pragma once

#include "core/case/cell_types.h"

#include <array>
#include <vector>

namespace pyro {

using EdgeList = std::vector<std::array<std::uint8_t, 2>>;

// Of a stored type, each edge once; quadratic cells by way of their middle nodes. Empty for polygons, whose nodes are a ring.
const EdgeList& edgesOf(CellType type);

// use(a, b) for every edge of a cell with these nodes.
template <class Ids, class Use> void forEdges(CellType type, const Ids& ids, Use use) {
    if (type == CellType::Polygon) {
        for (std::size_t i = 0; i < ids.size(); ++i)
            use(ids[i], ids[(i + 1) % ids.size()]);
        return;
    }
    for (const auto& [a, b] : edgesOf(type))
        use(ids[a], ids[b]);
}

} // namespace pyro

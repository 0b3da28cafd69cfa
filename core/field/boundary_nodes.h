// The part's node behind a node of a boundary face.
#pragma once

#include "core/field/case_index.h"
#include "core/field/vector_algebra.h"

namespace pyro {

// The node of the cell behind the face that lies where the boundary's node does. A boundary's node may belong to faces
// of several parts, each with its own node there: hence by face. noNumber where no part is behind the face.
inline std::uint32_t nodeBehind(const Case& solved, const Region& boundary, const BoundaryIndex& behind,
                                std::size_t face, std::uint32_t node) {
    if (behind.part[face] == noNumber)
        return noNumber;
    const auto& mesh = solved.parts[behind.part[face]].mesh;
    const auto at = boundary.mesh.node(node);
    std::uint32_t nearest = noNumber;
    double least = 0;
    for (const auto candidate : mesh.cell(behind.cell[face])) {
        const auto off = minus(mesh.node(candidate), at);
        const double squared = dot(off, off);
        if (nearest == noNumber || squared < least) {
            nearest = candidate;
            least = squared;
        }
    }
    return nearest;
}

} // namespace pyro

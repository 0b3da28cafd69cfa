// Finds for every face of a boundary the outer face of a part that coincides with it.
#pragma once

#include "core/field/shell.h"

namespace pyro {

struct BoundaryMatch {
    std::vector<std::uint32_t> part; // ~0 where nothing matches
    std::vector<std::uint32_t> cell;
    std::vector<std::uint32_t> face; // of the part's shell
    std::vector<std::uint32_t> node; // per boundary node: node number in the part of an adjoining face, or ~0
    std::vector<double> normal;      // 3 per face, unit, out of the part; the face's own where nothing matches
    std::uint64_t unmatched = 0;
};

// Faces match when all their corners agree within 1e-6 of the face's size. Where two parts coincide, the owner is
// the one whose cell lies opposite to the face's normal.
std::vector<BoundaryMatch> matchBoundaries(const Case& solved, std::span<const ShellView> shells);

} // namespace pyro

// How a level set cuts a cell: for every pattern of corners on its upper side, the polygons of the cut as rings of
// cell edges. Made once from the faces of the cell types.
#pragma once

#include "core/case/cell_types.h"

#include <array>
#include <vector>

namespace pyro {

struct CutTable {
    std::vector<std::array<std::uint8_t, 2>> edges; // corner numbers
    std::vector<std::uint32_t> begin;               // patterns + 1 entries into `rings`
    std::vector<std::uint8_t> rings;                // count, then as many edge numbers, polygon after polygon

    // pattern: bit i is set when corner i lies on the upper side.
    std::span<const std::uint8_t> polygons(std::uint32_t pattern) const {
        return std::span(rings).subspan(begin[pattern], begin[pattern + 1] - begin[pattern]);
    }
};

// Null for types that are no volume. Where the corners of a face alternate,
// its upper corners are separated: a rule that both cells of the face share, so that the cut has no gaps.
const CutTable* cutTable(CellType type);

} // namespace pyro

// The volume cells of a part in an order in which neighbours in space are neighbours in the list, cut into blocks that
// know their box and their nodes. Sections, isotherm surfaces and point searches look at whole blocks first, and within
// a block every node is fetched once instead of once for each of its cells.
#pragma once

#include "core/case/case.h"
#include "core/field/raw_vector.h"

namespace pyro {

struct CellBlock {
    std::array<float, 3> low; // metres, rounded outwards
    std::array<float, 3> high;
    std::uint32_t stretch; // in CellOrder::stretches; the following are positions within it
    std::uint32_t firstCell;
    std::uint32_t firstNode;
    std::uint32_t firstCorner;
    std::uint16_t cellCount;
    std::uint16_t nodeCount;
};

// What one block holds. A curved cell is there as its straight pieces, each with the number of the cell.
struct BlockCells {
    std::span<const std::uint32_t> cells;
    const std::uint8_t* types; // CellType of the piece, per cell
    std::span<const std::uint32_t> nodes;
    const std::uint8_t* corners; // positions in `nodes`, all nodes of one cell after the other
};

struct CellOrder {
    static constexpr std::size_t mostCells = 96; // of a block
    static constexpr std::size_t mostNodes = 256;

    struct Stretch {
        RawVector<std::uint32_t> cells;
        RawVector<std::uint8_t> types;
        RawVector<std::uint32_t> nodes;
        RawVector<std::uint8_t> corners;
    };
    // together they hold every volume cell of the part once, curved ones once for each piece
    std::vector<Stretch> stretches;
    std::vector<CellBlock> blocks;

    BlockCells block(std::size_t at) const {
        const auto& one = blocks[at];
        const auto& from = stretches[one.stretch];
        return {std::span(from.cells).subspan(one.firstCell, one.cellCount), from.types.data() + one.firstCell,
                std::span(from.nodes).subspan(one.firstNode, one.nodeCount), from.corners.data() + one.firstCorner};
    }
};

// The cells' centres are halved in turn along x, y and z, each time at the median of that axis over the whole part,
// until a block is small enough: a k-d tree (Bentley 1975) with one set of cuts for each axis, which sorting by an
// interleaved key (Morton 1966) gives in a few passes. Blocks are compact on graded grids too.
CellOrder cellOrder(const Region& part);

// The range of a nodal or cell field within each block, to skip blocks that a level does not meet. NaN counts for
// nothing.
struct BlockRange {
    float low; // rounded outwards
    float high;
};
std::vector<BlockRange> blockRanges(const CellOrder& order, const StoredArray& field);

} // namespace pyro

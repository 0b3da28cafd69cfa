// Which cell of a part holds a point.
#pragma once

#include "core/field/cell_frame.h"
#include "core/field/cell_order.h"

#include <atomic>
#include <memory>

namespace pyro {

// Finds the cell by the part's blocks and, within a block, by the cells' boxes, rounded to bytes, which are made when a
// block is first asked. Where several cells share a point the first found is told. Part and order must outlive the
// locator. Thread-safe.
class PointLocator {
public:
    PointLocator(const Region& part, const CellOrder& order);

    std::optional<CellPlace> find(const Point& place) const;
    // The blocks of the order whose boxes meet a box, added to `out`.
    void blocksWithin(const Point& low, const Point& high, std::vector<std::uint32_t>& out) const;
    // The cell itself, ready for more places near this one, and the weights there. `block`: where to look first, and
    // then where it was found; any number to begin with.
    std::optional<CellFrame> frameAt(const Point& place, CellWeights& weight, std::uint32_t& block) const;

private:
    using FourFloats = float __attribute__((vector_size(16))); // x, y, z: compared at once
    struct Box {
        FourFloats low;
        FourFloats high;
    };
    // cells of a block, each axis low and high side by side
    static constexpr std::size_t lanes = CellOrder::mostCells;
    using ByteBoxes = std::array<std::array<std::uint8_t, lanes>, 6>;
    enum State : std::uint8_t { Unmade, Making, Made };

    Box build(std::size_t node, std::size_t from, std::size_t to);
    float bulgeOf(std::size_t block) const; // m
    void fillBoxes(std::size_t block, ByteBoxes& out) const;
    const ByteBoxes& boxesOf(std::size_t block, ByteBoxes& own) const;
    std::optional<CellFrame> inBlock(std::size_t block, const Point& place, CellWeights& weight) const;
    bool mayHold(std::size_t node, const FourFloats& at) const;

    const Region& m_part;
    const CellOrder& m_order;
    std::vector<Box> m_tree;              // binary, over the blocks in their order; children of i are 2i+1 and 2i+2
    std::unique_ptr<ByteBoxes[]> m_boxes; // per block
    std::unique_ptr<std::atomic<std::uint8_t>[]> m_state;
};

} // namespace pyro

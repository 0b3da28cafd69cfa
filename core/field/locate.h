// Which cell of a part holds a point, and with which weights its nodes interpolate there.
#pragma once

#include "core/field/cell_order.h"

#include <atomic>
#include <memory>

namespace pyro {

struct CellPlace {
    std::uint32_t cell;
    std::array<double, 8> weight{}; // of the cell's corner nodes; sum to 1
    std::uint8_t corners;
};

// The map from the local coordinates r, s, t of a hexahedron, 0..1 each, to space: a sum of their products.
struct Trilinear {
    std::array<Point, 8> of; // 1, r, s, t, rs, st, rt, rst
    // What is left from there to a place, and the slopes along r, s and t.
    void map(const Point& at, const Point& local, Point& rest, std::array<Point, 3>& column) const;
};
Trilinear trilinear(const std::array<Point, 8>& corners);

// One cell with its corners at hand, to be asked for many places near each other. Linear tetrahedra, hexahedra and
// wedges with their own shape functions (Newton's method inverts the map, exact for what those functions represent);
// pyramids as two tetrahedra; quadratic cells by their corners. A point within 1e-6 of the cell's size outside of it
// counts as inside.
class CellFrame {
public:
    CellFrame(const Region& part, std::uint32_t cell);

    std::uint32_t cell() const { return m_cell; }
    std::span<const std::uint32_t> corners() const { return {m_node.data(), m_corners}; }
    // False outside, and the weights then mean nothing. The search begins where the last one ended.
    bool weightsAt(const Point& place, std::array<double, 8>& weight);
    double size() const; // m: cube root of the cell's box

private:
    bool insideTetrahedron(const Point& place, std::array<double, 8>& weight) const;

    std::uint32_t m_cell;
    CellType m_type;
    std::uint8_t m_corners;
    // Filled as far as the type needs it: a search makes many of these.
    std::array<std::uint32_t, 8> m_node;
    std::array<Point, 8> m_at;
    Trilinear m_map; // hexahedra
    Point m_local;   // hexahedra and wedges: where the last search ended
    std::array<Point, 3> m_inverse; // tetrahedra: rows give the weights of corners 1, 2 and 3
};

// Finds the cell by the part's blocks and, within a block, by the cells' boxes, rounded to bytes, which are made when a
// block is first asked. Where several cells share a point the first found is told. Part and order must outlive the
// locator. Thread-safe.
class PointLocator {
public:
    PointLocator(const Region& part, const CellOrder& order);

    std::optional<CellPlace> find(const Point& place) const;
    // The cell itself, ready for more places near this one, and the weights there. `block`: where to look first, and
    // then where it was found; any number to begin with.
    std::optional<CellFrame> frameAt(const Point& place, std::array<double, 8>& weight, std::uint32_t& block) const;
    // The same for one cell; nothing when the point lies outside.
    std::optional<CellPlace> within(std::uint32_t cell, const Point& place) const;

private:
    using FourFloats = float __attribute__((vector_size(16))); // x, y, z: compared at once
    struct Box {
        FourFloats low;
        FourFloats high;
    };
    static constexpr std::size_t lanes = CellOrder::mostCells; // cells of a block, each axis low and high side by side
    using ByteBoxes = std::array<std::array<std::uint8_t, lanes>, 6>;
    enum State : std::uint8_t { Unmade, Making, Made };

    Box build(std::size_t node, std::size_t from, std::size_t to);
    void fillBoxes(std::size_t block, ByteBoxes& out) const;
    const ByteBoxes& boxesOf(std::size_t block, ByteBoxes& own) const;
    std::optional<CellFrame> inBlock(std::size_t block, const Point& place, std::array<double, 8>& weight) const;
    bool mayHold(std::size_t node, const FourFloats& at) const;

    const Region& m_part;
    const CellOrder& m_order;
    std::vector<Box> m_tree; // binary, over the blocks in their order; children of i are 2i+1 and 2i+2
    std::unique_ptr<ByteBoxes[]> m_boxes; // per block
    std::unique_ptr<std::atomic<std::uint8_t>[]> m_state;
};

// A nodal field of one component at many places, in their order; NaN outside of the part. On all cores. With a locator
// the places are taken in an order in which neighbours follow each other; without one all cells are looked at once
// against the places sorted into a grid, which is worth it from about one place for a hundred cells.
std::vector<double> sampleAll(const Region& part, const PointLocator& locator, const RealView& values, std::span<const Point> places);
std::vector<double> sampleAll(const Region& part, const RealView& values, std::span<const Point> places);

// Interpolated component of a nodal field at a place.
double valueAt(const Region& part, const CellPlace& place, const RealView& values, std::size_t components = 1,
               std::size_t component = 0);

} // namespace pyro

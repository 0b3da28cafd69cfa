// Which cell of a part holds a point, and with which weights its nodes interpolate there.
#pragma once

#include "core/field/cell_order.h"

namespace pyro {

struct CellPlace {
    std::uint32_t cell;
    std::array<double, 8> weight{}; // of the cell's corner nodes; sum to 1
    std::uint8_t corners;
};

// Linear tetrahedra, hexahedra and wedges with their own shape functions (Newton's method inverts the map, exact for
// what those functions represent); pyramids as two tetrahedra; quadratic cells by their corners. A point within 1e-6
// of the cell's size outside of it counts as inside. Where several cells share a point the first found is told.
// Part and order must outlive the locator. Thread-safe.
class PointLocator {
public:
    PointLocator(const Region& part, const CellOrder& order);

    std::optional<CellPlace> find(const Point& place) const;
    // The same for one cell; nothing when the point lies outside.
    std::optional<CellPlace> within(std::uint32_t cell, const Point& place) const;

private:
    struct Box {
        std::array<float, 3> low;
        std::array<float, 3> high;
    };
    Box build(std::size_t node, std::size_t from, std::size_t to);
    std::optional<CellPlace> inBlock(const BlockCells& block, const Point& place) const;
    std::optional<CellPlace> search(std::size_t node, std::size_t from, std::size_t to, const Point& place) const;

    const Region& m_part;
    const CellOrder& m_order;
    std::vector<Box> m_tree; // binary, over the blocks in their order; children of i are 2i+1 and 2i+2
};

// Interpolated component of a nodal field at a place.
double valueAt(const Region& part, const CellPlace& place, const RealView& values, std::size_t components = 1,
               std::size_t component = 0);

} // namespace pyro

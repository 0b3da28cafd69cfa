// Where in a cell a point lies, and with which weights the cell's nodes interpolate there.
#pragma once

#include "core/case/case.h"

#include <array>
#include <optional>
#include <span>

namespace pyro {

using CellWeights = std::array<double, 8>; // of a cell's corner nodes; they sum to 1

struct CellPlace {
    std::uint32_t cell;
    CellWeights weight{};
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
    bool weightsAt(const Point& place, CellWeights& weight);
    double size() const; // m: cube root of the cell's box

private:
    bool insideTetrahedron(const Point& place, CellWeights& weight) const;

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

// Interpolated component of a nodal field at a place.
double valueAt(const Region& part, const CellPlace& place, const RealView& values, std::size_t components = 1,
               std::size_t component = 0);

} // namespace pyro

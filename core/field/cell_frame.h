// Where in a cell a point lies, and with which weights the cell's nodes interpolate there.
#pragma once

#include "core/case/case.h"
#include "core/field/cell_lattice.h"

#include <array>
#include <optional>
#include <span>
#include <vector>

namespace pyro {

// Of the corners of a straight cell, of all nodes of a curved one; they sum to 1. Up to eight are kept in place.
class CellWeights {
public:
    CellWeights() = default;
    CellWeights(const std::array<double, 8>& few) : m_few(few) {}

    double operator[](std::size_t at) const { return m_many.empty() ? m_few[at] : m_many[at]; }
    double& operator[](std::size_t at) { return m_many.empty() ? m_few[at] : m_many[at]; }
    std::size_t size() const { return m_many.empty() ? m_few.size() : m_many.size(); }
    void reset(std::size_t count) { // all 0
        m_few.fill(0);
        m_many.assign(count > m_few.size() ? count : 0, 0.0);
    }
    std::span<double> all() { return m_many.empty() ? std::span<double>(m_few) : std::span<double>(m_many); }

private:
    std::array<double, 8> m_few{};
    std::vector<double> m_many;
};

struct CellPlace {
    std::uint32_t cell;
    CellWeights weight{};
    std::uint16_t nodes; // how many of the cell's nodes, from the first, have a weight
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
// pyramids as two tetrahedra; curved cells with all their shape functions. A point within 1e-6 of the cell's size
// outside of it counts as inside.
class CellFrame {
public:
    CellFrame(const Region& part, std::uint32_t cell);

    std::uint32_t cell() const { return m_cell; }
    // Those that have weights: corners, of a curved cell all.
    std::span<const std::uint32_t> nodes() const { return m_nodes; }
    // False outside, and the weights then mean nothing. The search begins where the last one ended.
    bool weightsAt(const Point& place, CellWeights& weight);
    double size() const; // m: cube root of the cell's box

private:
    bool insideTetrahedron(const Point& place, CellWeights& weight) const;
    bool insideCurved(const Point& place, CellWeights& weight);

    std::uint32_t m_cell;
    CellType m_type;
    std::uint8_t m_corners;
    std::span<const std::uint32_t> m_nodes; // of the mesh, which must outlive the frame
    // Filled as far as the type needs it: a search makes many of these.
    std::array<Point, 8> m_at;
    Trilinear m_map;                        // hexahedra
    Point m_local;                          // all but tetrahedra and pyramids: where the last search ended
    std::array<Point, 3> m_inverse;         // tetrahedra: rows give the weights of corners 1, 2 and 3
    const CellLattice* m_lattice = nullptr; // curved cells
    std::vector<Point> m_curved;            // their nodes
    std::vector<LocalPoint> m_slope;        // room for a search
};

// Interpolated component of a nodal field at a place.
double valueAt(const Region& part, const CellPlace& place, const RealView& values, std::size_t components = 1,
               std::size_t component = 0);

} // namespace pyro

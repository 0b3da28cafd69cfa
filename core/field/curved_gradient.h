// The gradient of a nodal field at places within curved cells.
#pragma once

#include "core/field/straight_pieces.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>

namespace pyro {

// One cell after the other, by their own shape functions.
// `Values`: the field at a node of the part.
template <class Values>
class CurvedGradient {
public:
    CurvedGradient(const Mesh& mesh, Values values) : m_mesh(mesh), m_values(std::move(values)) {}

    // False for a cell that is not curved.
    bool enter(std::size_t cell) {
        m_nodes = m_mesh.cell(cell);
        m_lattice = latticeOf(m_mesh, cell);
        if (m_lattice == nullptr || m_lattice->dimension() != 3)
            return false;
        m_value.resize(m_nodes.size());
        m_slope.resize(m_nodes.size());
        return true;
    }
    const CellLattice& lattice() const { return *m_lattice; }
    std::span<const std::uint32_t> nodes() const { return m_nodes; }

    // At a place within the cell; NaN where the cell has no extent. `volume`: that of its map there.
    Point at(const LocalPoint& local, double& volume) {
        m_lattice->shape(local, m_value, m_slope);
        std::array<Point, 3> along{}; // of the place, along r, s, t
        Point ofValue{};
        for (std::size_t i = 0; i < m_nodes.size(); ++i) {
            const auto place = m_mesh.node(m_nodes[i]);
            const double value = m_values(m_nodes[i]);
            for (std::size_t direction = 0; direction < 3; ++direction) {
                ofValue[direction] += m_slope[i][direction] * value;
                for (std::size_t axis = 0; axis < 3; ++axis)
                    along[direction][axis] += m_slope[i][direction] * place[axis];
            }
        }
        const std::array<Point, 3> reciprocal{cross(along[1], along[2]), cross(along[2], along[0]),
                                              cross(along[0], along[1])};
        const double whole = dot(along[0], reciprocal[0]);
        Point gradient{};
        for (std::size_t axis = 0; axis < 3; ++axis)
            gradient[axis] = whole == 0 ? std::nan("")
                                        : (ofValue[0] * reciprocal[0][axis] + ofValue[1] * reciprocal[1][axis] +
                                           ofValue[2] * reciprocal[2][axis]) /
                                              whole;
        volume = std::abs(whole);
        return gradient;
    }

    // At the middle of some of its nodes.
    Point amid(std::span<const std::uint32_t> ring) {
        LocalPoint middle{};
        for (const auto node : ring) {
            const auto place = m_lattice->place(
                static_cast<std::size_t>(std::ranges::find(m_nodes, node) - m_nodes.begin()));
            for (std::size_t axis = 0; axis < 3; ++axis)
                middle[axis] += place[axis] / static_cast<double>(ring.size());
        }
        double volume = 0;
        return at(middle, volume);
    }

private:
    const Mesh& m_mesh;
    Values m_values;
    std::span<const std::uint32_t> m_nodes;
    const CellLattice* m_lattice = nullptr;
    std::vector<double> m_value;
    std::vector<LocalPoint> m_slope;
};

} // namespace pyro

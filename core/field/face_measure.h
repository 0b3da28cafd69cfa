// Areas of faces: of straight ones as fans of triangles, of pieces of curved ones by the shape functions of their cell.
#pragma once

#include "core/case/case.h"
#include "core/field/cell_lattice.h"
#include "core/field/polygon_fan.h"

namespace pyro {

// A piece of a curved cell with these nodes, given by the nodes at its three or four corners. `fan`: its true area,
// centre and area vector, and each corner's part in the integral of a field linear on the piece. `ofNode`: the integral
// over it of each of the cell's shape functions, m2.
void measurePiece(const CellLattice& lattice, std::span<const Point> nodes, std::span<const std::uint16_t> corners,
                  PolygonFan& fan, std::vector<double>& ofNode);

// Faces of one mesh, one after the other.
class FaceMeasure {
public:
    explicit FaceMeasure(const Mesh& mesh) : m_mesh(mesh) {}

    // `ring`: a face of the cell's shell.
    const PolygonFan& of(std::uint32_t cell, std::span<const std::uint32_t> ring);
    // use(node, share): how the mean over the last face follows from the values at nodes; the shares sum to 1.
    template <class Use>
    void forShares(Use use) const {
        if (m_ofNode.empty()) {
            for (std::size_t i = 0; i < m_ring.size(); ++i)
                use(m_ring[i], m_fan.shareOf(i));
            return;
        }
        for (std::size_t i = 0; i < m_ofNode.size(); ++i)
            if (m_ofNode[i] != 0)
                use(m_nodes[i], m_fan.size > 0 ? m_ofNode[i] / m_fan.size : 0);
    }

private:
    const Mesh& m_mesh;
    PolygonFan m_fan;
    std::span<const std::uint32_t> m_ring;
    std::span<const std::uint32_t> m_nodes; // of a curved cell
    std::vector<double> m_ofNode;           // of a curved cell
    std::vector<Point> m_places;
};

} // namespace pyro

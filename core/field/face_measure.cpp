#include "core/field/face_measure.h"

#include "core/field/quadrature.h"
#include "core/field/straight_pieces.h"

#include <algorithm>
#include <cmath>

namespace pyro {

void measurePiece(const CellLattice& lattice, std::span<const Point> nodes, std::span<const std::uint16_t> corners,
                  PolygonFan& fan, std::vector<double>& ofNode) {
    const bool triangle = corners.size() == 3;
    std::array<LocalPoint, 4> local{};
    for (std::size_t i = 0; i < corners.size(); ++i)
        local[i] = lattice.place(corners[i]);
    fan.area = {};
    fan.centre = {};
    fan.size = 0;
    fan.share.assign(corners.size(), 0.0);
    ofNode.assign(nodes.size(), 0.0);
    std::vector<double> value(nodes.size());
    std::vector<LocalPoint> slope(nodes.size());
    const auto line = gaussPoints(lattice.order() + 2);
    for (const auto& [u, wu] : line)
        for (const auto& [w, ww] : line) {
            const double v = triangle ? w * (1 - u) : w;
            const double weight = wu * ww * (triangle ? 1 - u : 1);
            const std::array<double, 4> share = triangle ? std::array<double, 4>{1 - u - v, u, v, 0}
                                                         : std::array<double, 4>{(1 - u) * (1 - v), u * (1 - v), u * v,
                                                                                 (1 - u) * v};
            LocalPoint at{};
            LocalPoint alongU{};
            LocalPoint alongV{};
            for (std::size_t axis = 0; axis < 3; ++axis) {
                for (std::size_t i = 0; i < corners.size(); ++i)
                    at[axis] += share[i] * local[i][axis];
                alongU[axis] = triangle ? local[1][axis] - local[0][axis]
                                        : (1 - v) * (local[1][axis] - local[0][axis]) +
                                              v * (local[2][axis] - local[3][axis]);
                alongV[axis] = triangle ? local[2][axis] - local[0][axis]
                                        : (1 - u) * (local[3][axis] - local[0][axis]) +
                                              u * (local[2][axis] - local[1][axis]);
            }
            lattice.shape(at, value, slope);
            Point place{};
            Point byU{};
            Point byV{};
            for (std::size_t i = 0; i < nodes.size(); ++i) {
                const double du = dot(slope[i], alongU);
                const double dv = dot(slope[i], alongV);
                for (std::size_t axis = 0; axis < 3; ++axis) {
                    place[axis] += value[i] * nodes[i][axis];
                    byU[axis] += du * nodes[i][axis];
                    byV[axis] += dv * nodes[i][axis];
                }
            }
            const auto normal = cross(byU, byV);
            const double area = weight * std::sqrt(dot(normal, normal));
            fan.size += area;
            for (std::size_t axis = 0; axis < 3; ++axis) {
                fan.area[axis] += weight * normal[axis];
                fan.centre[axis] += area * place[axis];
            }
            for (std::size_t i = 0; i < corners.size(); ++i)
                fan.share[i] += area * share[i];
            for (std::size_t i = 0; i < nodes.size(); ++i)
                ofNode[i] += area * value[i];
        }
    for (std::size_t axis = 0; axis < 3; ++axis)
        fan.centre[axis] = fan.size > 0 ? fan.centre[axis] / fan.size : nodes[corners[0]][axis];
}

const PolygonFan& FaceMeasure::of(std::uint32_t cell, std::span<const std::uint32_t> ring) {
    m_ring = ring;
    m_nodes = m_mesh.cell(cell);
    const auto* lattice = latticeOf(m_mesh, cell);
    if (lattice == nullptr) {
        m_ofNode.clear();
        m_fan.measure(ring.size(), [&](std::size_t i) { return m_mesh.node(ring[i]); });
        return m_fan;
    }
    m_places.clear();
    for (const auto node : m_nodes)
        m_places.push_back(m_mesh.node(node));
    std::array<std::uint16_t, 4> corners{};
    for (std::size_t i = 0; i < ring.size(); ++i)
        corners[i] = static_cast<std::uint16_t>(std::ranges::find(m_nodes, ring[i]) - m_nodes.begin());
    measurePiece(*lattice, m_places, std::span(corners).first(ring.size()), m_fan, m_ofNode);
    return m_fan;
}

} // namespace pyro

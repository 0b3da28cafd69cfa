#include "core/field/measure.h"

#include "core/field/lanes.h"
#include "core/field/quadrature.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <tbb/parallel_for.h>
#include <tuple>

namespace pyro {
namespace {

template <class Real>
struct Nodes {
    std::span<const Real> coordinates;
    Point operator[](std::size_t at) const {
        return {static_cast<double>(coordinates[3 * at]), static_cast<double>(coordinates[3 * at + 1]),
                static_cast<double>(coordinates[3 * at + 2])};
    }
};

// The extent of the element of integration at one quadrature point, signed in three dimensions.
double element(const std::array<Point, 3>& jacobian, int dimension) {
    if (dimension == 3)
        return dot(jacobian[0], cross(jacobian[1], jacobian[2]));
    return dimension == 2 ? length(cross(jacobian[0], jacobian[1])) : length(jacobian[0]);
}

using HexahedronLanes = std::array<Lanes, 8>;

// A vector component given on four parallel edges, bilinear between them, at the 2x2 Gauss points.
inline void atGaussPoints(const Lanes& e00, const Lanes& e10, const Lanes& e01, const Lanes& e11, Lanes* out) {
    constexpr double far = 0.21132486540518711775; // (1 - 1/sqrt(3)) / 2
    constexpr double near = 1 - far;
    const Lanes low0 = near * e00 + far * e10;
    const Lanes low1 = far * e00 + near * e10;
    const Lanes high0 = near * e01 + far * e11;
    const Lanes high1 = far * e01 + near * e11;
    out[0] = near * low0 + far * high0;
    out[1] = near * low1 + far * high1;
    out[2] = far * low0 + near * high0;
    out[3] = far * low1 + near * high1;
}

// The integrals of the eight shape functions of trilinear hexahedra, by the 2x2x2 rule written out by directions:
// the derivative along one direction depends on the other two only, and the shape functions are products. The same
// sums as byQuadrature, at a fraction of the work; this is where large cases spend their time.
PYRO_WIDE void hexahedronCorners(const HexahedronLanes* p, HexahedronLanes& out) {
    std::array<std::array<Lanes, 4>, 3> alongR;
    std::array<std::array<Lanes, 4>, 3> alongS;
    std::array<std::array<Lanes, 4>, 3> alongT;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const auto& q = p[axis];
        atGaussPoints(q[1] - q[0], q[2] - q[3], q[5] - q[4], q[6] - q[7], alongR[axis].data());
        atGaussPoints(q[3] - q[0], q[2] - q[1], q[7] - q[4], q[6] - q[5], alongS[axis].data());
        atGaussPoints(q[4] - q[0], q[5] - q[1], q[7] - q[3], q[6] - q[2], alongT[axis].data());
    }
    HexahedronLanes corner; // index r + 2 s + 4 t
    for (std::size_t t = 0; t < 2; ++t)
        for (std::size_t s = 0; s < 2; ++s)
            for (std::size_t r = 0; r < 2; ++r) {
                const auto i = s + 2 * t;
                const auto j = r + 2 * t;
                const auto k = r + 2 * s;
                corner[r + 2 * s + 4 * t] =
                    0.125 * (alongR[0][i] * (alongS[1][j] * alongT[2][k] - alongS[2][j] * alongT[1][k]) +
                             alongR[1][i] * (alongS[2][j] * alongT[0][k] - alongS[0][j] * alongT[2][k]) +
                             alongR[2][i] * (alongS[0][j] * alongT[1][k] - alongS[1][j] * alongT[0][k]));
            }
    constexpr double far = 0.21132486540518711775;
    for (const std::size_t step : {1U, 2U, 4U}) // from Gauss points to corners, one direction after the other
        for (std::size_t i = 0; i < 8; ++i)
            if ((i & step) == 0) {
                const Lanes low = corner[i];
                const Lanes high = corner[i + step];
                corner[i] = (1 - far) * low + far * high;
                corner[i + step] = far * low + (1 - far) * high;
            }
    constexpr std::array<std::size_t, 8> cornerOfNode{0, 1, 3, 2, 4, 5, 7, 6};
    for (std::size_t i = 0; i < 8; ++i)
        out[i] = corner[cornerOfNode[i]];
}

template <class Real>
class Measurer {
public:
    Measurer(const Mesh& mesh, int dimension, std::span<const Real> coordinates, Measures& out)
        : m_mesh(mesh), m_dimension(dimension), m_nodes{coordinates}, m_out(out) {}

    // Adds the cells [from, to) into node shares `share`; returns the number of cells without extent.
    std::uint64_t add(std::size_t from, std::size_t to, std::span<double> share) {
        std::uint64_t flawed = 0;
        for (std::size_t at = from; at < to; ++at) {
            const auto* shape = cellShape(m_mesh.type(at));
            if (shape == nullptr || shape->dimension != m_dimension)
                continue;
            if (shape->type == CellType::Hexahedron) {
                std::size_t count = 1;
                while (count < laneCount && at + count < to && m_mesh.type(at + count) == CellType::Hexahedron)
                    ++count;
                flawed += hexahedra(at, count, share);
                at += count - 1;
                continue;
            }
            const auto ids = m_mesh.cell(at);
            double extent = 0;
            if (shape->type == CellType::Polygon)
                extent = polygon(ids, share);
            else if (shape->type == CellType::Tetrahedron)
                extent = tetrahedron(ids, share);
            else
                extent = byQuadrature(shape->type, ids, share);
            m_out.cell[at] = extent;
            flawed += extent > 0 ? 0 : 1;
        }
        return flawed;
    }

private:
    using Ids = std::span<const std::uint32_t>;

    double spread(Ids ids, double extent, std::span<double> share) const {
        for (const auto id : ids)
            share[id] += extent / static_cast<double>(ids.size());
        return extent;
    }

    double tetrahedron(Ids ids, std::span<double> share) const {
        const auto origin = m_nodes[ids[0]];
        const double volume = dot(minus(m_nodes[ids[1]], origin),
                                  cross(minus(m_nodes[ids[2]], origin), minus(m_nodes[ids[3]], origin))) /
                              6;
        return spread(ids, std::abs(volume), share);
    }

    // Up to four hexahedra at once. Returns the number of them without extent.
    std::uint64_t hexahedra(std::size_t from, std::size_t count, std::span<double> share) {
        std::array<HexahedronLanes, 3> p;
        std::array<Ids, laneCount> ids;
        for (std::size_t lane = 0; lane < laneCount; ++lane) {
            ids[lane] = m_mesh.cell(from + std::min(lane, count - 1));
            for (std::size_t i = 0; i < 8; ++i) {
                const auto at = m_nodes[ids[lane][i]];
                for (std::size_t axis = 0; axis < 3; ++axis)
                    p[axis][i][lane] = at[axis];
            }
        }
        HexahedronLanes corner;
        hexahedronCorners(p.data(), corner);
        std::uint64_t flawed = 0;
        for (std::size_t lane = 0; lane < count; ++lane) {
            double extent = 0;
            for (std::size_t i = 0; i < 8; ++i)
                extent += corner[i][lane];
            const double sign = extent < 0 ? -1 : 1;
            for (std::size_t i = 0; i < 8; ++i)
                share[ids[lane][i]] += sign * corner[i][lane];
            m_out.cell[from + lane] = std::abs(extent);
            flawed += std::abs(extent) > 0 ? 0 : 1;
        }
        return flawed;
    }

    // Fanned from the first node; each triangle shares its area evenly among its three nodes.
    double polygon(Ids ids, std::span<double> share) const {
        double area = 0;
        const auto origin = m_nodes[ids[0]];
        for (std::size_t i = 1; i + 1 < ids.size(); ++i) {
            const double part = length(cross(minus(m_nodes[ids[i]], origin), minus(m_nodes[ids[i + 1]], origin))) / 2;
            for (const auto id : {ids[0], ids[i], ids[i + 1]})
                share[id] += part / 3;
            area += part;
        }
        return area;
    }

    double byQuadrature(CellType type, Ids ids, std::span<double> share) {
        auto& p = m_places;
        auto& sum = m_sums;
        p.resize(ids.size());
        sum.assign(ids.size(), 0.0);
        for (std::size_t i = 0; i < ids.size(); ++i)
            p[i] = m_nodes[ids[i]];
        double extent = 0;
        for (const auto& point : quadrature(type, ids.size())) {
            std::array<Point, 3> jacobian{};
            for (std::size_t i = 0; i < ids.size(); ++i)
                for (int local = 0; local < m_dimension; ++local)
                    for (int axis = 0; axis < 3; ++axis)
                        jacobian[static_cast<std::size_t>(local)][axis] += point.gradient[i][local] * p[i][axis];
            const double here = point.weight * element(jacobian, m_dimension);
            extent += here;
            for (std::size_t i = 0; i < ids.size(); ++i)
                sum[i] += here * point.shape[i];
        }
        for (std::size_t i = 0; i < ids.size(); ++i)
            share[ids[i]] += extent < 0 ? -sum[i] : sum[i];
        return std::abs(extent);
    }

    const Mesh& m_mesh;
    int m_dimension;
    Nodes<Real> m_nodes;
    Measures& m_out;
    std::vector<Point> m_places; // of one cell's nodes
    std::vector<double> m_sums;
};

} // namespace

Measures measure(const Region& region) {
    const auto& mesh = region.mesh;
    Measures out;
    if (!region.extent.empty()) { // pieces of curved faces
        out.cell.assign(region.extent.begin(), region.extent.end());
        out.node.assign(region.share.begin(), region.share.end());
        out.flawedCells = static_cast<std::uint64_t>(
            std::ranges::count_if(out.cell, [](double extent) { return !(extent > 0); }));
        return out;
    }
    out.cell.assign(mesh.cells(), 0.0);
    // A fixed number of pieces, merged in order: the same result however many threads there are.
    const std::size_t pieces = mesh.cells() < 10'000 ? 1 : 4;
    std::vector<std::vector<double>> share(pieces);
    std::vector<std::uint64_t> flawed(pieces);
    mesh.coordinates.visit([&](auto coordinates) {
        using Real = typename decltype(coordinates)::value_type;
        tbb::parallel_for(std::size_t{0}, pieces, [&](std::size_t piece) {
            share[piece].assign(mesh.nodes(), 0.0);
            flawed[piece] = Measurer<Real>(mesh, region.dimension, coordinates, out)
                                .add(mesh.cells() * piece / pieces, mesh.cells() * (piece + 1) / pieces, share[piece]);
        });
    });
    out.node = std::move(share[0]);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, out.node.size(), 1 << 16), [&](const auto& range) {
        for (std::size_t piece = 1; piece < pieces; ++piece)
            for (auto i = range.begin(); i != range.end(); ++i)
                out.node[i] += share[piece][i];
    });
    out.flawedCells = std::accumulate(flawed.begin(), flawed.end(), std::uint64_t{0});
    return out;
}

Point areaVector(const Mesh& mesh, std::size_t cell) {
    const auto ids = mesh.cell(cell);
    const auto* shape = cellShape(mesh.type(cell));
    const std::size_t corners = shape->corners > 0 ? static_cast<std::size_t>(shape->corners) : ids.size();
    Point sum{};
    const auto origin = mesh.node(ids[0]);
    for (std::size_t i = 1; i + 1 < corners; ++i) {
        const auto part = cross(minus(mesh.node(ids[i]), origin), minus(mesh.node(ids[i + 1]), origin));
        for (int axis = 0; axis < 3; ++axis)
            sum[axis] += 0.5 * part[axis];
    }
    return sum;
}

} // namespace pyro

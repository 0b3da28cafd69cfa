#include "core/field/measure.h"

#include "core/field/quadrature.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <tbb/parallel_for.h>
#include <tuple>

namespace pyro {
namespace {

Point cross(const Point& a, const Point& b) {
    return {a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]};
}
double dot(const Point& a, const Point& b) { return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]; }
double length(const Point& a) { return std::sqrt(dot(a, a)); }
Point minus(const Point& a, const Point& b) { return {a[0] - b[0], a[1] - b[1], a[2] - b[2]}; }

template <class Real> struct Nodes {
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

template <class Real> class Measurer {
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
            const auto ids = m_mesh.cell(at);
            double extent = 0;
            if (shape->type == CellType::Polygon)
                extent = polygon(ids, share);
            else if (shape->type == CellType::Tetrahedron)
                extent = tetrahedron(ids, share);
            else if (shape->type == CellType::Hexahedron)
                extent = hexahedron(ids, share);
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

    // The 2x2x2 rule of the trilinear hexahedron written out by directions: the derivative along one direction
    // depends on the other two only, and the shape functions are products. The same sums as byQuadrature, at a
    // fraction of the work; this is where large cases spend their time.
    double hexahedron(Ids ids, std::span<double> share) const {
        std::array<Point, 8> p;
        for (std::size_t i = 0; i < 8; ++i)
            p[i] = m_nodes[ids[i]];
        const auto alongR = atGaussPoints(minus(p[1], p[0]), minus(p[2], p[3]), minus(p[5], p[4]), minus(p[6], p[7]));
        const auto alongS = atGaussPoints(minus(p[3], p[0]), minus(p[2], p[1]), minus(p[7], p[4]), minus(p[6], p[5]));
        const auto alongT = atGaussPoints(minus(p[4], p[0]), minus(p[5], p[1]), minus(p[7], p[3]), minus(p[6], p[2]));
        std::array<double, 8> corner{}; // index r + 2 s + 4 t
        double extent = 0;
        for (std::size_t t = 0; t < 2; ++t)
            for (std::size_t s = 0; s < 2; ++s)
                for (std::size_t r = 0; r < 2; ++r) {
                    const double here = 0.125 * dot(alongR[s + 2 * t], cross(alongS[r + 2 * t], alongT[r + 2 * s]));
                    corner[r + 2 * s + 4 * t] = here;
                    extent += here;
                }
        for (const std::size_t step : {1U, 2U, 4U}) // from Gauss points to corners, one direction after the other
            for (std::size_t i = 0; i < 8; ++i)
                if ((i & step) == 0) {
                    const double low = corner[i];
                    const double high = corner[i + step];
                    corner[i] = (1 - gaussPoint) * low + gaussPoint * high;
                    corner[i + step] = gaussPoint * low + (1 - gaussPoint) * high;
                }
        constexpr std::array<std::size_t, 8> cornerOfNode{0, 1, 3, 2, 4, 5, 7, 6};
        for (std::size_t i = 0; i < 8; ++i)
            share[ids[i]] += extent < 0 ? -corner[cornerOfNode[i]] : corner[cornerOfNode[i]];
        return std::abs(extent);
    }

    // A vector given on four parallel edges, bilinear between them, at the 2x2 Gauss points.
    static std::array<Point, 4> atGaussPoints(const Point& e00, const Point& e10, const Point& e01, const Point& e11) {
        constexpr double near = 1 - gaussPoint;
        constexpr double far = gaussPoint;
        std::array<Point, 4> out;
        for (int axis = 0; axis < 3; ++axis) {
            const double low0 = near * e00[axis] + far * e10[axis];
            const double low1 = far * e00[axis] + near * e10[axis];
            const double high0 = near * e01[axis] + far * e11[axis];
            const double high1 = far * e01[axis] + near * e11[axis];
            out[0][axis] = near * low0 + far * high0;
            out[1][axis] = near * low1 + far * high1;
            out[2][axis] = far * low0 + near * high0;
            out[3][axis] = far * low1 + near * high1;
        }
        return out;
    }
    static constexpr double gaussPoint = 0.21132486540518711775; // (1 - 1/sqrt(3)) / 2

    // Fanned from the first node; each triangle shares its area evenly among its three nodes.
    double polygon(Ids ids, std::span<double> share) const {
        double area = 0;
        const auto origin = m_nodes[ids[0]];
        for (std::size_t i = 1; i + 1 < ids.size(); ++i) {
            const double part =
                length(cross(minus(m_nodes[ids[i]], origin), minus(m_nodes[ids[i + 1]], origin))) / 2;
            for (const auto id : {ids[0], ids[i], ids[i + 1]})
                share[id] += part / 3;
            area += part;
        }
        return area;
    }

    double byQuadrature(CellType type, Ids ids, std::span<double> share) const {
        std::array<Point, 20> p;
        std::array<double, 20> sum{};
        for (std::size_t i = 0; i < ids.size(); ++i)
            p[i] = m_nodes[ids[i]];
        double extent = 0;
        for (const auto& point : quadrature(type)) {
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
};

} // namespace

Measures measure(const Region& region) {
    const auto& mesh = region.mesh;
    Measures out;
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
    for (std::size_t piece = 1; piece < pieces; ++piece)
        for (std::size_t i = 0; i < out.node.size(); ++i)
            out.node[i] += share[piece][i];
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

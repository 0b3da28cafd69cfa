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
            else if (shape->type != CellType::Hexahedron || !box(ids, share, extent))
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

    // A parallelepiped has a constant Jacobian: every node takes an eighth. False when the cell is none.
    bool box(Ids ids, std::span<double> share, double& extent) const {
        std::array<Point, 8> p;
        for (std::size_t i = 0; i < 8; ++i)
            p[i] = m_nodes[ids[i]];
        const auto a = minus(p[1], p[0]);
        const auto b = minus(p[3], p[0]);
        const auto c = minus(p[4], p[0]);
        const double slack = 1e-13 * (length(a) + length(b) + length(c));
        for (const auto& [tail, head, edge] : {std::tuple{3, 2, &a}, {4, 5, &a}, {7, 6, &a}, {1, 5, &c}, {2, 6, &c}}) {
            const auto other = minus(p[static_cast<std::size_t>(head)], p[static_cast<std::size_t>(tail)]);
            for (int axis = 0; axis < 3; ++axis)
                if (std::abs(other[axis] - (*edge)[axis]) > slack)
                    return false;
        }
        extent = spread(ids, std::abs(dot(a, cross(b, c))), share);
        return true;
    }

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

#include "core/field/volume_above.h"

#include "core/field/straight_pieces.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

namespace pyro {
namespace {

using TetrahedronNodes = std::array<std::uint8_t, 4>;

// Around the diagonal from corner 0 to 6 of a hexahedron; wedge and pyramid likewise with whole faces outside.
std::span<const TetrahedronNodes> tetrahedraOf(CellType type) {
    static constexpr std::array<TetrahedronNodes, 6> hexahedron{
        {{0, 1, 2, 6}, {0, 2, 3, 6}, {0, 3, 7, 6}, {0, 7, 4, 6}, {0, 4, 5, 6}, {0, 5, 1, 6}}};
    static constexpr std::array<TetrahedronNodes, 3> wedge{{{0, 1, 2, 5}, {0, 1, 5, 4}, {0, 4, 5, 3}}};
    static constexpr std::array<TetrahedronNodes, 2> pyramid{{{0, 1, 2, 4}, {0, 2, 3, 4}}};
    static constexpr std::array<TetrahedronNodes, 1> tetrahedron{{{0, 1, 2, 3}}};
    switch (type) {
    case CellType::Hexahedron:
        return hexahedron;
    case CellType::Wedge:
        return wedge;
    case CellType::Pyramid:
        return pyramid;
    case CellType::Tetrahedron:
        return tetrahedron;
    default:
        return {};
    }
}

double volumeOf(const std::array<Point, 4>& p) {
    std::array<Point, 3> e{};
    for (std::size_t i = 0; i < 3; ++i)
        for (std::size_t axis = 0; axis < 3; ++axis)
            e[i][axis] = p[i + 1][axis] - p[0][axis];
    return std::abs(e[0][0] * (e[1][1] * e[2][2] - e[1][2] * e[2][1]) +
                    e[0][1] * (e[1][2] * e[2][0] - e[1][0] * e[2][2]) +
                    e[0][2] * (e[1][0] * e[2][1] - e[1][1] * e[2][0])) /
           6;
}

// Of a cell that the level passes through.
double shareOfCell(const Mesh& mesh, std::size_t cell, RealView values, double level) {
    double above = 0;
    double whole = 0;
    forPieces(mesh, cell, [&](CellType type, std::span<const std::uint32_t> ids) {
        for (const auto& corners : tetrahedraOf(type)) {
            std::array<Point, 4> at{};
            std::array<double, 4> value{};
            for (std::size_t i = 0; i < 4; ++i) {
                at[i] = mesh.node(ids[corners[i]]);
                value[i] = values[ids[corners[i]]];
            }
            const double volume = volumeOf(at);
            whole += volume;
            above += volume * shareAbove(value, level);
        }
        if (cellShape(type)->dimension == 2)
            for (std::size_t i = 1; i + 1 < ids.size(); ++i) {
                const auto twice = cross(minus(mesh.node(ids[i]), mesh.node(ids[0])),
                                         minus(mesh.node(ids[i + 1]), mesh.node(ids[0])));
                const double area = 0.5 * std::sqrt(dot(twice, twice));
                whole += area;
                above += area *
                         shareAbove(std::array<double, 3>{values[ids[0]], values[ids[i]], values[ids[i + 1]]}, level);
            }
    });
    return whole > 0 ? above / whole : 0;
}

void addNodal(const Region& part, RealView values, std::size_t cell, double measure, double level, VolumeAbove& sum) {
    double low = INFINITY;
    double high = -INFINITY;
    for (const auto node : part.mesh.cell(cell)) {
        const double value = values[node];
        if (std::isnan(value))
            return;
        low = std::min(low, value);
        high = std::max(high, value);
    }
    sum.whole += measure;
    sum.volume += low > level ? measure : high <= level ? 0 : measure * shareOfCell(part.mesh, cell, values, level);
}

} // namespace

// With the corners sorted, what is cut off at one corner is a tetrahedron similar to the whole along its three edges;
// between two and two lies a wedge, three tetrahedra whose volumes are products of the shares of the cut edges.
double shareAbove(std::array<double, 4> corner, double level) {
    std::ranges::sort(corner);
    const auto [a, b, c, d] = corner;
    if (d <= level)
        return 0;
    if (a > level)
        return 1;
    if (c <= level)
        return (d - level) / (d - a) * (d - level) / (d - b) * (d - level) / (d - c);
    if (b > level)
        return 1 - (level - a) / (b - a) * (level - a) / (c - a) * (level - a) / (d - a);
    const double p = (c - level) / (c - a);
    const double q = (c - level) / (c - b);
    const double r = (d - level) / (d - a);
    const double s = (d - level) / (d - b);
    return p * q + r * q * (1 - p) + r * s * (1 - q);
}

// What is cut off at a corner is a triangle similar to the whole along its two edges.
double shareAbove(std::array<double, 3> corner, double level) {
    std::ranges::sort(corner);
    const auto [a, b, c] = corner;
    if (c <= level)
        return 0;
    if (a > level)
        return 1;
    return b <= level ? (c - level) / (c - a) * (c - level) / (c - b)
                      : 1 - (level - a) / (b - a) * (level - a) / (c - a);
}

VolumeAbove volumeAbove(const Region& part, const StoredArray& values, std::span<const double> measure, double level) {
    return tbb::parallel_deterministic_reduce(
        tbb::blocked_range<std::size_t>(0, part.mesh.cells(), 1 << 15), VolumeAbove{},
        [&](const auto& range, VolumeAbove sum) {
            for (auto cell = range.begin(); cell != range.end(); ++cell) {
                if (values.on == Location::Node) {
                    addNodal(part, values.values, cell, measure[cell], level, sum);
                } else if (const double value = values.values[cell]; !std::isnan(value)) {
                    sum.whole += measure[cell];
                    sum.volume += value > level ? measure[cell] : 0;
                }
            }
            return sum;
        },
        [](const VolumeAbove& a, const VolumeAbove& b) {
            return VolumeAbove{a.volume + b.volume, a.whole + b.whole};
        });
}

} // namespace pyro

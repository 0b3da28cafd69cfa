#include "core/field/gradient.h"

#include "core/field/curved_gradient.h"
#include "core/field/lanes.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

constexpr double nothing = std::numeric_limits<double>::quiet_NaN();
using EightLanes = std::array<Lanes, 8>;

// Which corner of the cell stands at each of the hexahedron's eight; null for cells without volume.
const std::array<std::uint8_t, 8>* asHexahedron(CellType type) {
    static constexpr std::array<std::uint8_t, 8> hexahedron{0, 1, 2, 3, 4, 5, 6, 7};
    static constexpr std::array<std::uint8_t, 8> wedge{0, 1, 2, 2, 3, 4, 5, 5};
    static constexpr std::array<std::uint8_t, 8> pyramid{0, 1, 2, 3, 4, 4, 4, 4};
    static constexpr std::array<std::uint8_t, 8> tetrahedron{0, 1, 2, 2, 3, 3, 3, 3};
    switch (type) {
    case CellType::Hexahedron:
        return &hexahedron;
    case CellType::Wedge:
        return &wedge;
    case CellType::Pyramid:
        return &pyramid;
    case CellType::Tetrahedron:
        return &tetrahedron;
    default:
        return nullptr;
    }
}

struct GradientLanes {
    std::array<Lanes, 3> gradient;
    Lanes volume; // signed, of the cell's map at its middle
};

// Sums of the four edges along each local direction, of places and values alike; their quotient is the gradient.
PYRO_WIDE void gradientOf(const std::array<EightLanes, 4>& p, GradientLanes& out) {
    std::array<std::array<Lanes, 4>, 3> along; // local direction; x, y, z, value
    for (std::size_t i = 0; i < 4; ++i) {
        const auto& q = p[i];
        along[0][i] = (q[1] - q[0]) + (q[2] - q[3]) + (q[5] - q[4]) + (q[6] - q[7]);
        along[1][i] = (q[3] - q[0]) + (q[2] - q[1]) + (q[7] - q[4]) + (q[6] - q[5]);
        along[2][i] = (q[4] - q[0]) + (q[5] - q[1]) + (q[6] - q[2]) + (q[7] - q[3]);
    }
    const auto& a = along[0];
    const auto& b = along[1];
    const auto& c = along[2];
    const std::array<Lanes, 3> bc{b[1] * c[2] - b[2] * c[1], b[2] * c[0] - b[0] * c[2], b[0] * c[1] - b[1] * c[0]};
    const std::array<Lanes, 3> ca{c[1] * a[2] - c[2] * a[1], c[2] * a[0] - c[0] * a[2], c[0] * a[1] - c[1] * a[0]};
    const std::array<Lanes, 3> ab{a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]};
    const Lanes whole = a[0] * bc[0] + a[1] * bc[1] + a[2] * bc[2];
    for (std::size_t axis = 0; axis < 3; ++axis)
        out.gradient[axis] = (a[3] * bc[axis] + b[3] * ca[axis] + c[3] * ab[axis]) / whole;
    out.volume = whole / 64;
}

// Calls `use(cell, gradient, volume)` for the volume cells of a stretch; a gradient of NaN where the cell has no
// extent.
template <class Coordinates, class Values, class Use>
void forGradients(const Mesh& mesh, Coordinates coordinates, Values values, std::size_t from, std::size_t to, Use use) {
    std::array<EightLanes, 4> p;
    std::array<std::size_t, laneCount> cells{};
    std::size_t filled = 0;
    const auto flush = [&] {
        GradientLanes out;
        gradientOf(p, out);
        for (std::size_t lane = 0; lane < filled; ++lane) {
            const double volume = out.volume[lane];
            const bool flat = !(std::abs(volume) > 0);
            use(cells[lane],
                Point{flat ? nothing : out.gradient[0][lane], flat ? nothing : out.gradient[1][lane],
                      flat ? nothing : out.gradient[2][lane]},
                std::abs(volume));
        }
        filled = 0;
    };
    for (auto cell = from; cell < to; ++cell) {
        const auto* corner = asHexahedron(mesh.type(cell));
        if (corner == nullptr)
            continue;
        const auto ids = mesh.cell(cell);
        for (std::size_t i = 0; i < 8; ++i) {
            const std::size_t node = ids[(*corner)[i]];
            for (std::size_t axis = 0; axis < 3; ++axis)
                p[axis][i][filled] = static_cast<double>(coordinates[3 * node + axis]);
            p[3][i][filled] = static_cast<double>(values[node]);
        }
        if (filled == 0) // unused lanes compute on something finite
            for (auto& quantity : p)
                for (auto& lanes : quantity)
                    for (std::size_t lane = 1; lane < laneCount; ++lane)
                        lanes[lane] = lanes[0];
        cells[filled++] = cell;
        if (filled == laneCount)
            flush();
    }
    if (filled > 0)
        flush();
}

} // namespace

RawVector<double> cellGradient(const Region& part, RealView nodeValues) {
    const auto& mesh = part.mesh;
    RawVector<double> out(3 * mesh.cells());
    mesh.coordinates.visit([&](auto coordinates) {
        nodeValues.visit([&](auto values) {
            tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.cells(), 1 << 14), [&](const auto& range) {
                std::fill(out.begin() + static_cast<std::ptrdiff_t>(3 * range.begin()),
                          out.begin() + static_cast<std::ptrdiff_t>(3 * range.end()), nothing);
                forGradients(mesh, coordinates, values, range.begin(), range.end(),
                             [&](std::size_t cell, const Point& gradient, double) {
                                 std::ranges::copy(gradient, out.begin() + static_cast<std::ptrdiff_t>(3 * cell));
                             });
                CurvedGradient curved(mesh, [&](std::size_t node) { return nodeValues[node]; });
                double volume = 0;
                for (auto cell = range.begin(); cell != range.end(); ++cell)
                    if (curved.enter(cell))
                        std::ranges::copy(curved.at(curved.lattice().centre(), volume),
                                          out.begin() + static_cast<std::ptrdiff_t>(3 * cell));
            });
        });
    });
    return out;
}

RawVector<double> nodeGradient(const Region& part, RealView nodeValues) {
    const auto& mesh = part.mesh;
    // A fixed number of pieces, merged in order: the same result however many threads there are.
    const std::size_t pieces = mesh.cells() < 10'000 ? 1 : 2;
    std::vector<std::vector<std::array<double, 4>>> sums(pieces); // gradient times volume, volume
    mesh.coordinates.visit([&](auto coordinates) {
        nodeValues.visit([&](auto values) {
            tbb::parallel_for(std::size_t{0}, pieces, [&](std::size_t piece) {
                auto& mine = sums[piece];
                mine.assign(mesh.nodes(), {});
                const auto from = mesh.cells() * piece / pieces;
                const auto to = mesh.cells() * (piece + 1) / pieces;
                const auto add = [&](std::uint32_t node, const Point& gradient, double volume) {
                    for (std::size_t axis = 0; axis < 3; ++axis)
                        mine[node][axis] += volume * gradient[axis];
                    mine[node][3] += volume;
                };
                forGradients(mesh, coordinates, values, from, to,
                             [&](std::size_t cell, const Point& gradient, double volume) {
                                 if (volume > 0)
                                     for (const auto node : mesh.cell(cell))
                                         add(node, gradient, volume);
                             });
                CurvedGradient curved(mesh, [&](std::size_t node) { return nodeValues[node]; });
                for (auto cell = from; cell < to; ++cell)
                    if (curved.enter(cell))
                        for (std::size_t i = 0; i < curved.nodes().size(); ++i) {
                            double volume = 0;
                            if (const auto gradient = curved.at(curved.lattice().place(i), volume); volume > 0)
                                add(curved.nodes()[i], gradient, volume);
                        }
            });
        });
    });
    RawVector<double> out(3 * mesh.nodes());
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, mesh.nodes(), 1 << 15), [&](const auto& range) {
        for (auto node = range.begin(); node != range.end(); ++node) {
            std::array<double, 4> sum{};
            for (const auto& piece : sums)
                for (std::size_t i = 0; i < 4; ++i)
                    sum[i] += piece[node][i];
            for (std::size_t axis = 0; axis < 3; ++axis)
                out[3 * node + axis] = sum[3] > 0 ? sum[axis] / sum[3] : nothing;
        }
    });
    return out;
}

} // namespace pyro

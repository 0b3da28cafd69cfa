#include "core/field/quadrature.h"

#include "core/field/cell_lattice.h"

#include <cmath>
#include <map>
#include <mutex>
#include <span>
#include <utility>

namespace pyro {
namespace {

using Local = std::array<double, 3>;
using Rule = std::vector<QuadraturePoint>;

QuadraturePoint blank(double weight, std::size_t nodes) {
    return {weight, std::vector<double>(nodes, 0.0), std::vector<Local>(nodes, Local{})};
}

// Corners of the unit cube or square in node order.
constexpr std::array<Local, 8> cubeCorners{
    {{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}, {0, 0, 1}, {1, 0, 1}, {1, 1, 1}, {0, 1, 1}}};

// Multilinear shape functions of the cube (dimension 3) or square (2) at `at`.
QuadraturePoint multilinear(const Local& at, double weight, int dimension) {
    const std::size_t nodes = dimension == 3 ? 8 : 4;
    auto point = blank(weight, nodes);
    for (std::size_t i = 0; i < nodes; ++i) {
        Local factor{1, 1, 1};
        Local slope{};
        for (int axis = 0; axis < dimension; ++axis) {
            const bool upper = cubeCorners[i][axis] > 0;
            factor[axis] = upper ? at[axis] : 1 - at[axis];
            slope[axis] = upper ? 1 : -1;
        }
        point.shape[i] = factor[0] * factor[1] * factor[2];
        point.gradient[i] = {slope[0] * factor[1] * factor[2], factor[0] * slope[1] * factor[2],
                             factor[0] * factor[1] * slope[2]};
    }
    return point;
}

Rule cubeRule(int dimension) {
    Rule rule;
    for (const auto& [r, wr] : gaussPoints(2))
        for (const auto& [s, ws] : gaussPoints(2)) {
            if (dimension == 2) {
                rule.push_back(multilinear({r, s, 0}, wr * ws, 2));
                continue;
            }
            for (const auto& [t, wt] : gaussPoints(2))
                rule.push_back(multilinear({r, s, t}, wr * ws * wt, 3));
        }
    return rule;
}

// The cube rule with several corners of the cube standing for one node of the cell.
Rule collapsed(std::size_t nodes, std::span<const std::size_t> nodeOfCorner) {
    Rule rule;
    for (const auto& cube : cubeRule(3)) {
        auto point = blank(cube.weight, nodes);
        for (std::size_t corner = 0; corner < nodeOfCorner.size(); ++corner) {
            point.shape[nodeOfCorner[corner]] += cube.shape[corner];
            for (int axis = 0; axis < 3; ++axis)
                point.gradient[nodeOfCorner[corner]][axis] += cube.gradient[corner][axis];
        }
        rule.push_back(std::move(point));
    }
    return rule;
}

// Linear shape functions of a triangle or tetrahedron.
QuadraturePoint simplex(const Local& at, double weight, int dimension) {
    const auto corners = static_cast<std::size_t>(dimension) + 1;
    auto point = blank(weight, corners);
    point.shape[0] = 1;
    for (int axis = 0; axis < dimension; ++axis) {
        const auto corner = static_cast<std::size_t>(axis) + 1;
        point.shape[0] -= at[axis];
        point.shape[corner] = at[axis];
        point.gradient[0][axis] = -1;
        point.gradient[corner][axis] = 1;
    }
    return point;
}

// The integrand has degree p times that of the volume element, 3 p - 1 along each direction: 2 p points; beyond order 3
// somewhat fewer, which straight-sided cells do not need.
Rule curvedRule(const CellLattice& lattice) {
    const int order = lattice.order();
    const auto line = gaussPoints(order <= 3 ? 2 * order : order + 3);
    Rule rule;
    const auto add = [&](const Local& at, double weight) {
        auto point = blank(weight, lattice.nodes());
        lattice.shape(at, point.shape, point.gradient);
        rule.push_back(std::move(point));
    };
    for (const auto& [u, wu] : line)
        for (const auto& [v, wv] : line) {
            const auto surface = [&](double w, double weight) {
                switch (lattice.type()) {
                case CellType::CurvedTriangle:
                case CellType::CurvedWedge:
                    return add({u, v * (1 - u), w}, wu * wv * (1 - u) * weight);
                case CellType::CurvedTetrahedron:
                    return add({u, v * (1 - u), w * (1 - u) * (1 - v)}, wu * wv * (1 - u) * (1 - u) * (1 - v) * weight);
                default:
                    return add({u, v, w}, wu * wv * weight);
                }
            };
            if (lattice.dimension() == 2)
                surface(0, 1);
            else
                for (const auto& [w, ww] : line)
                    surface(w, ww);
        }
    return rule;
}

const Rule& ruleOf(const CellLattice& lattice) {
    struct Made {
        std::once_flag once;
        Rule rule;
    };
    // asked for each cell: no lock once it is made
    static std::array<std::array<Made, CellLattice::highestOrder + 1>, 5> rules;
    auto& made = rules[static_cast<std::size_t>(lattice.type()) - static_cast<std::size_t>(CellType::CurvedTriangle)]
                      [static_cast<std::size_t>(lattice.order())];
    std::call_once(made.once, [&] { made.rule = curvedRule(lattice); });
    return made.rule;
}

Rule lineRule() {
    auto point = blank(1.0, 2);
    point.shape = {0.5, 0.5};
    point.gradient = {Local{-1, 0, 0}, Local{1, 0, 0}};
    return {point};
}

std::map<CellType, Rule> allRules() {
    constexpr std::array<std::size_t, 8> wedge{0, 1, 2, 2, 3, 4, 5, 5};
    constexpr std::array<std::size_t, 8> pyramid{0, 1, 2, 3, 4, 4, 4, 4};
    return {{CellType::Line, lineRule()},
            {CellType::Triangle, {simplex({1.0 / 3, 1.0 / 3, 0}, 0.5, 2)}},
            {CellType::Quad, cubeRule(2)},
            {CellType::Tetrahedron, {simplex({0.25, 0.25, 0.25}, 1.0 / 6, 3)}},
            {CellType::Hexahedron, cubeRule(3)},
            {CellType::Wedge, collapsed(6, wedge)},
            {CellType::Pyramid, collapsed(5, pyramid)}};
}

} // namespace

// Roots of the Legendre polynomial by Newton's method (Abramowitz and Stegun, 25.4.30).
std::vector<std::array<double, 2>> gaussPoints(int points) {
    std::vector<std::array<double, 2>> out;
    for (int i = points; i > 0; --i) {
        double x = std::cos(M_PI * (i - 0.25) / (points + 0.5));
        double slope = 1;
        for (int round = 0; round < 100; ++round) {
            double before = 1;
            double value = x;
            for (int k = 2; k <= points; ++k)
                before = std::exchange(value, ((2 * k - 1) * x * value - (k - 1) * before) / k);
            slope = points * (x * value - before) / (x * x - 1);
            const double step = value / slope;
            x -= step;
            if (std::abs(step) < 1e-15)
                break;
        }
        out.push_back({0.5 + 0.5 * x, 1 / ((1 - x * x) * slope * slope)});
    }
    return out;
}

const std::vector<QuadraturePoint>& quadrature(CellType type, std::size_t nodes) {
    static const std::map<CellType, Rule> rules = allRules();
    static const Rule none;
    if (const auto* lattice = CellLattice::of(type, nodes))
        return ruleOf(*lattice);
    const auto found = rules.find(type);
    return found == rules.end() ? none : found->second;
}

} // namespace pyro

#include "core/field/quadrature.h"

#include <cmath>
#include <map>
#include <span>

namespace pyro {
namespace {

using Local = std::array<double, 3>;
using Rule = std::vector<QuadraturePoint>;

QuadraturePoint blank(double weight, std::size_t nodes) {
    return {weight, std::vector<double>(nodes, 0.0), std::vector<Local>(nodes, Local{})};
}

// Gauss-Legendre points and weights on [0, 1].
std::vector<std::pair<double, double>> gauss(int points) {
    const auto both = [](double x, double w) {
        return std::vector<std::pair<double, double>>{{0.5 - 0.5 * x, 0.5 * w}, {0.5 + 0.5 * x, 0.5 * w}};
    };
    if (points == 2)
        return both(1 / std::sqrt(3.0), 1.0);
    auto inner = both(std::sqrt(3.0 / 7 - 2.0 / 7 * std::sqrt(1.2)), (18 + std::sqrt(30.0)) / 36);
    const auto outer = both(std::sqrt(3.0 / 7 + 2.0 / 7 * std::sqrt(1.2)), (18 - std::sqrt(30.0)) / 36);
    inner.insert(inner.end(), outer.begin(), outer.end());
    return inner;
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
    for (const auto& [r, wr] : gauss(2))
        for (const auto& [s, ws] : gauss(2)) {
            if (dimension == 2) {
                rule.push_back(multilinear({r, s, 0}, wr * ws, 2));
                continue;
            }
            for (const auto& [t, wt] : gauss(2))
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

// Simplex with mid-edge nodes when `edges` is given: N = L(2L-1) at corners, 4 La Lb on edges.
QuadraturePoint simplex(const Local& at, double weight, int dimension,
                        std::span<const std::array<std::size_t, 2>> edges) {
    const auto corners = static_cast<std::size_t>(dimension) + 1;
    std::vector<double> l(corners);
    std::vector<Local> dl(corners, Local{});
    l[0] = 1;
    for (int axis = 0; axis < dimension; ++axis) {
        l[0] -= at[axis];
        l[static_cast<std::size_t>(axis) + 1] = at[axis];
        dl[0][axis] = -1;
        dl[static_cast<std::size_t>(axis) + 1][axis] = 1;
    }
    auto point = blank(weight, corners + edges.size());
    for (std::size_t i = 0; i < corners; ++i) {
        point.shape[i] = edges.empty() ? l[i] : l[i] * (2 * l[i] - 1);
        for (int axis = 0; axis < 3; ++axis)
            point.gradient[i][axis] = edges.empty() ? dl[i][axis] : (4 * l[i] - 1) * dl[i][axis];
    }
    for (std::size_t e = 0; e < edges.size(); ++e) {
        const auto [a, b] = edges[e];
        point.shape[corners + e] = 4 * l[a] * l[b];
        for (int axis = 0; axis < 3; ++axis)
            point.gradient[corners + e][axis] = 4 * (l[a] * dl[b][axis] + dl[a][axis] * l[b]);
    }
    return point;
}

constexpr std::array<std::array<std::size_t, 2>, 6> tetrahedronEdges{{{0, 1}, {1, 2}, {2, 0}, {0, 3}, {1, 3}, {2, 3}}};
constexpr std::array<std::array<std::size_t, 2>, 3> triangleEdges{{{0, 1}, {1, 2}, {2, 0}}};

Rule quadraticTetrahedronRule() {
    Rule rule;
    const auto add = [&](Local at, double weight) { rule.push_back(simplex(at, weight, 3, tetrahedronEdges)); };
    for (const auto& [a, w] : {std::pair{0.09273525031089123, 0.01224884051939366},
                               std::pair{0.3108859192633006, 0.01878132095300264}}) {
        const double b = 1 - 3 * a;
        for (const Local& at : {Local{a, a, a}, Local{b, a, a}, Local{a, b, a}, Local{a, a, b}})
            add(at, w);
    }
    const double c = 0.04550370412564965;
    const double d = 0.5 - c;
    for (const Local& at : {Local{c, c, d}, Local{c, d, c}, Local{d, c, c}, Local{c, d, d}, Local{d, c, d}, Local{d, d, c}})
        add(at, 0.007091003462846911);
    return rule;
}

// Degree 5 on the triangle by a collapsed Gauss product.
Rule quadraticTriangleRule() {
    Rule rule;
    for (const auto& [u, wu] : gauss(4))
        for (const auto& [v, wv] : gauss(4))
            rule.push_back(simplex({u, v * (1 - u), 0}, wu * wv * (1 - u), 2, triangleEdges));
    return rule;
}

// Serendipity functions on [-1, 1]^d: corners 1/2^d prod(1 + x xi)(sum(x xi) - d + 1),
// mid-edge nodes 1/2^(d-1) (1 - x^2) prod of the others.
QuadraturePoint serendipity(const Local& at, double weight, int dimension, std::span<const Local> nodes) {
    auto point = blank(weight, nodes.size());
    const auto value = [&](const Local& x, const Local& xi) {
        double product = 1;
        double sum = 0;
        bool corner = true;
        for (int axis = 0; axis < dimension; ++axis) {
            corner = corner && xi[axis] != 0;
            product *= xi[axis] == 0 ? 1 - x[axis] * x[axis] : 0.5 * (1 + x[axis] * xi[axis]);
            sum += x[axis] * xi[axis];
        }
        return corner ? product * (sum - dimension + 1) : product;
    };
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        point.shape[i] = value(at, nodes[i]);
        for (int axis = 0; axis < dimension; ++axis) {
            // The functions are at most quadratic in each direction: a central difference is exact.
            Local ahead = at;
            Local behind = at;
            ahead[axis] += 0.5;
            behind[axis] -= 0.5;
            point.gradient[i][axis] = value(ahead, nodes[i]) - value(behind, nodes[i]);
        }
    }
    return point;
}

Rule serendipityRule(int dimension) {
    std::vector<Local> nodes;
    const std::size_t corners = dimension == 3 ? 8 : 4;
    const auto scaled = [&](std::size_t i) {
        Local at{};
        for (int axis = 0; axis < dimension; ++axis)
            at[axis] = 2 * cubeCorners[i][axis] - 1;
        return at;
    };
    for (std::size_t i = 0; i < corners; ++i)
        nodes.push_back(scaled(i));
    constexpr std::array<std::array<std::size_t, 2>, 12> edges{{{0, 1}, {1, 2}, {2, 3}, {3, 0}, {4, 5}, {5, 6}, {6, 7},
                                                                {7, 4}, {0, 4}, {1, 5}, {2, 6}, {3, 7}}};
    for (std::size_t e = 0; e < (dimension == 3 ? 12U : 4U); ++e) {
        Local middle{};
        for (int axis = 0; axis < 3; ++axis)
            middle[axis] = 0.5 * (scaled(edges[e][0])[axis] + scaled(edges[e][1])[axis]);
        nodes.push_back(middle);
    }
    Rule rule;
    const auto line = gauss(4);
    for (const auto& [r, wr] : line)
        for (const auto& [s, ws] : line) {
            if (dimension == 2) {
                rule.push_back(serendipity({2 * r - 1, 2 * s - 1, 0}, 4 * wr * ws, 2, nodes));
                continue;
            }
            for (const auto& [t, wt] : line)
                rule.push_back(serendipity({2 * r - 1, 2 * s - 1, 2 * t - 1}, 8 * wr * ws * wt, 3, nodes));
        }
    return rule;
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
            {CellType::Triangle, {simplex({1.0 / 3, 1.0 / 3, 0}, 0.5, 2, {})}},
            {CellType::Quad, cubeRule(2)},
            {CellType::Tetrahedron, {simplex({0.25, 0.25, 0.25}, 1.0 / 6, 3, {})}},
            {CellType::Hexahedron, cubeRule(3)},
            {CellType::Wedge, collapsed(6, wedge)},
            {CellType::Pyramid, collapsed(5, pyramid)},
            {CellType::QuadraticTriangle, quadraticTriangleRule()},
            {CellType::QuadraticQuad, serendipityRule(2)},
            {CellType::QuadraticTetrahedron, quadraticTetrahedronRule()},
            {CellType::QuadraticHexahedron, serendipityRule(3)}};
}

} // namespace

const std::vector<QuadraturePoint>& quadrature(CellType type) {
    static const std::map<CellType, Rule> rules = allRules();
    static const Rule none;
    const auto found = rules.find(type);
    return found == rules.end() ? none : found->second;
}

} // namespace pyro

#include "core/field/locate.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

constexpr double slack = 1e-6; // of the cell's size
using Corners = std::array<Point, 8>;
using Weights = std::array<double, 8>;

Point minus(const Point& a, const Point& b) { return {a[0] - b[0], a[1] - b[1], a[2] - b[2]}; }
double volume(const Point& a, const Point& b, const Point& c) { // of the parallelepiped, signed
    return a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
}

bool inTetrahedron(const Corners& p, const std::array<int, 4>& node, const Point& at, Weights& weight) {
    const auto corner = [&](int i) { return p[static_cast<std::size_t>(node[static_cast<std::size_t>(i)])]; };
    const auto a = minus(corner(1), corner(0));
    const auto b = minus(corner(2), corner(0));
    const auto c = minus(corner(3), corner(0));
    const auto x = minus(at, corner(0));
    const double whole = volume(a, b, c);
    if (whole == 0)
        return false;
    const double l1 = volume(x, b, c) / whole;
    const double l2 = volume(a, x, c) / whole;
    const double l3 = volume(a, b, x) / whole;
    const std::array<double, 4> l{1 - l1 - l2 - l3, l1, l2, l3};
    if (std::ranges::any_of(l, [](double one) { return one < -slack; }))
        return false;
    weight.fill(0);
    for (std::size_t i = 0; i < 4; ++i)
        weight[static_cast<std::size_t>(node[i])] = l[i];
    return true;
}

// Shape functions and their slopes along the local coordinates, 0 .. 1 each.
struct Shape {
    Weights value{};
    std::array<Point, 8> slope{};
};

Shape hexahedronShape(const Point& at) {
    constexpr std::array<std::array<int, 3>, 8> corner{{{0, 0, 0}, {1, 0, 0}, {1, 1, 0}, {0, 1, 0}, {0, 0, 1}, {1, 0, 1}, {1, 1, 1}, {0, 1, 1}}};
    Shape shape;
    for (std::size_t i = 0; i < 8; ++i) {
        Point f{};
        Point d{};
        for (std::size_t axis = 0; axis < 3; ++axis) {
            f[axis] = corner[i][axis] == 1 ? at[axis] : 1 - at[axis];
            d[axis] = corner[i][axis] == 1 ? 1 : -1;
        }
        shape.value[i] = f[0] * f[1] * f[2];
        shape.slope[i] = {d[0] * f[1] * f[2], f[0] * d[1] * f[2], f[0] * f[1] * d[2]};
    }
    return shape;
}

Shape wedgeShape(const Point& at) {
    const auto [r, s, t] = at;
    const std::array<double, 3> l{1 - r - s, r, s};
    constexpr std::array<std::array<double, 2>, 3> d{{{-1, -1}, {1, 0}, {0, 1}}};
    Shape shape;
    for (std::size_t i = 0; i < 3; ++i)
        for (std::size_t end = 0; end < 2; ++end) {
            const double f = end == 1 ? t : 1 - t;
            shape.value[i + 3 * end] = l[i] * f;
            shape.slope[i + 3 * end] = {d[i][0] * f, d[i][1] * f, end == 1 ? l[i] : -l[i]};
        }
    return shape;
}

// Newton's method for the local coordinates of a point.
template <class ShapeOf, class Inside>
bool byNewton(const Corners& p, std::size_t corners, ShapeOf shapeOf, Inside inside, Point local, const Point& at, Weights& weight) {
    for (int round = 0; round < 12; ++round) {
        const auto shape = shapeOf(local);
        Point rest = at;
        std::array<Point, 3> column{};
        for (std::size_t i = 0; i < corners; ++i)
            for (std::size_t axis = 0; axis < 3; ++axis) {
                rest[axis] -= shape.value[i] * p[i][axis];
                for (std::size_t direction = 0; direction < 3; ++direction)
                    column[direction][axis] += shape.slope[i][direction] * p[i][axis];
            }
        const double whole = volume(column[0], column[1], column[2]);
        if (whole == 0)
            return false;
        const Point by{volume(rest, column[1], column[2]) / whole, volume(column[0], rest, column[2]) / whole,
                       volume(column[0], column[1], rest) / whole};
        double size = 0;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            local[axis] += by[axis];
            size = std::max(size, std::abs(by[axis]));
        }
        if (!(size < 10)) // far outside, or not a number
            return false;
        if (size < 1e-12) {
            weight = shapeOf(local).value;
            return inside(local);
        }
    }
    weight = shapeOf(local).value;
    return inside(local);
}

bool inCell(CellType type, const Corners& p, const Point& at, Weights& weight) {
    const auto between = [](double value) { return value >= -slack && value <= 1 + slack; };
    switch (type) {
    case CellType::Hexahedron:
    case CellType::QuadraticHexahedron:
        return byNewton(p, 8, hexahedronShape, [&](const Point& l) { return between(l[0]) && between(l[1]) && between(l[2]); },
                        {0.5, 0.5, 0.5}, at, weight);
    case CellType::Wedge:
        return byNewton(p, 6, wedgeShape, [&](const Point& l) { return l[0] >= -slack && l[1] >= -slack && l[0] + l[1] <= 1 + slack && between(l[2]); },
                        {1.0 / 3, 1.0 / 3, 0.5}, at, weight);
    case CellType::Pyramid:
        return inTetrahedron(p, {0, 1, 2, 4}, at, weight) || inTetrahedron(p, {0, 2, 3, 4}, at, weight);
    default:
        return inTetrahedron(p, {0, 1, 2, 3}, at, weight);
    }
}

template <class Box> bool holds(const Box& box, const Point& at) {
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double reach = slack * (box.high[axis] - box.low[axis]);
        if (at[axis] < box.low[axis] - reach || at[axis] > box.high[axis] + reach)
            return false;
    }
    return true;
}

} // namespace

PointLocator::PointLocator(const Region& part, const CellOrder& order) : m_part(part), m_order(order) {
    std::size_t leaves = 1;
    while (leaves < std::max<std::size_t>(order.blocks.size(), 1))
        leaves *= 2;
    m_tree.resize(2 * leaves);
    if (!order.blocks.empty())
        build(0, 0, order.blocks.size());
}

PointLocator::Box PointLocator::build(std::size_t node, std::size_t from, std::size_t to) {
    if (to - from == 1)
        return m_tree[node] = {m_order.blocks[from].low, m_order.blocks[from].high};
    const auto middle = from + (to - from) / 2;
    auto box = build(2 * node + 1, from, middle);
    const auto other = build(2 * node + 2, middle, to);
    for (std::size_t axis = 0; axis < 3; ++axis) {
        box.low[axis] = std::min(box.low[axis], other.low[axis]);
        box.high[axis] = std::max(box.high[axis], other.high[axis]);
    }
    return m_tree[node] = box;
}

std::optional<CellPlace> PointLocator::within(std::uint32_t cell, const Point& place) const {
    const auto type = m_part.mesh.type(cell);
    const auto* shape = cellShape(type);
    const auto ids = m_part.mesh.cell(cell);
    Corners corner{};
    Box box{{1e30F, 1e30F, 1e30F}, {-1e30F, -1e30F, -1e30F}};
    for (std::size_t i = 0; i < static_cast<std::size_t>(shape->corners); ++i) {
        corner[i] = m_part.mesh.node(ids[i]);
        for (std::size_t axis = 0; axis < 3; ++axis) {
            box.low[axis] = std::min(box.low[axis], static_cast<float>(corner[i][axis]));
            box.high[axis] = std::max(box.high[axis], static_cast<float>(corner[i][axis]));
        }
    }
    for (std::size_t axis = 0; axis < 3; ++axis) { // floats are rounded, and warped faces bulge a little
        const float reach = 1e-3F * (box.high[axis] - box.low[axis]) + 1e-6F * std::abs(box.high[axis]);
        box.low[axis] -= reach;
        box.high[axis] += reach;
    }
    CellPlace found{cell, {}, static_cast<std::uint8_t>(shape->corners)};
    if (!holds(box, place) || !inCell(type, corner, place, found.weight))
        return std::nullopt;
    return found;
}

// Fetches every node of the block once; most cells are ruled out by their box alone.
std::optional<CellPlace> PointLocator::inBlock(const BlockCells& block, const Point& place) const {
    std::array<Point, CellOrder::mostNodes> node;
    for (std::size_t i = 0; i < block.nodes.size(); ++i)
        node[i] = m_part.mesh.node(block.nodes[i]);
    const auto* corners = block.corners;
    for (std::size_t i = 0; i < block.cells.size(); ++i) {
        const auto count = static_cast<std::size_t>(cellShape(static_cast<CellType>(block.types[i]))->nodes);
        bool near = true;
        for (std::size_t axis = 0; axis < 3 && near; ++axis) {
            double low = node[corners[0]][axis];
            double high = low;
            for (std::size_t corner = 1; corner < count; ++corner) {
                low = std::min(low, node[corners[corner]][axis]);
                high = std::max(high, node[corners[corner]][axis]);
            }
            const double reach = 2e-3 * (high - low);
            near = place[axis] >= low - reach && place[axis] <= high + reach;
        }
        corners += count;
        if (near)
            if (auto found = within(block.cells[i], place))
                return found;
    }
    return std::nullopt;
}

std::optional<CellPlace> PointLocator::search(std::size_t node, std::size_t from, std::size_t to, const Point& place) const {
    if (!holds(m_tree[node], place))
        return std::nullopt;
    if (to - from == 1)
        return inBlock(m_order.block(from), place);
    const auto middle = from + (to - from) / 2;
    if (auto found = search(2 * node + 1, from, middle, place))
        return found;
    return search(2 * node + 2, middle, to, place);
}

std::optional<CellPlace> PointLocator::find(const Point& place) const {
    return m_order.blocks.empty() ? std::nullopt : search(0, 0, m_order.blocks.size(), place);
}

double valueAt(const Region& part, const CellPlace& place, const RealView& values, std::size_t components, std::size_t component) {
    const auto ids = part.mesh.cell(place.cell);
    double sum = 0;
    for (std::size_t i = 0; i < place.corners; ++i)
        sum += place.weight[i] * values[components * ids[i] + component];
    return sum;
}

} // namespace pyro

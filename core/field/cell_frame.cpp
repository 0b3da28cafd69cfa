#include "core/field/cell_frame.h"

#include "core/field/straight_pieces.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

constexpr double slack = 1e-6; // of the cell's size
using CellCorners = std::array<Point, 8>;

Point over(const Point& a, double b) { return {a[0] / b, a[1] / b, a[2] / b}; }
double volume(const Point& a, const Point& b, const Point& c) { // of the parallelepiped, signed
    return a[0] * (b[1] * c[2] - b[2] * c[1]) + a[1] * (b[2] * c[0] - b[0] * c[2]) + a[2] * (b[0] * c[1] - b[1] * c[0]);
}

bool inTetrahedron(const CellCorners& p, const std::array<int, 4>& node, const Point& at, CellWeights& weight) {
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
    weight.reset(4);
    for (std::size_t i = 0; i < 4; ++i)
        weight[static_cast<std::size_t>(node[i])] = l[i];
    return true;
}

// Shape functions and their slopes along the local coordinates, 0 .. 1 each.
struct Shape {
    std::array<double, 8> value{};
    std::array<Point, 8> slope{};
};

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

// Newton's method for the local coordinates of a point, from those given on; they end where the search does.
// mapAt(local, rest, column): what is left to the point there, and the slopes along the local coordinates.
template <class MapAt>
bool byNewton(MapAt mapAt, Point& local) {
    for (int round = 0; round < 12; ++round) {
        Point rest;
        std::array<Point, 3> column;
        mapAt(local, rest, column);
        const auto cross12 = cross(column[1], column[2]);
        const double whole = dot(column[0], cross12);
        if (whole == 0)
            return false;
        const auto cross0 = cross(rest, column[0]);
        const double share = 1 / whole;
        const Point by{dot(rest, cross12) * share, -dot(cross0, column[2]) * share, dot(cross0, column[1]) * share};
        double size = 0;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            local[axis] += by[axis];
            size = std::max(size, std::abs(by[axis]));
        }
        if (!(size < 10)) // far outside, or not a number
            return false;
        // The error squares from round to round: after a step this small the next would change nothing.
        if (size < 1e-7)
            return true;
        // A point whose first steps lead well out of the cell is not in it.
        if (round == 1 && std::ranges::any_of(local, [](double l) { return l < -0.5 || l > 1.5; }))
            return false;
    }
    return true;
}

std::array<double, 8> hexahedronWeights(const Point& local) {
    const auto [r, s, t] = local;
    const std::array<double, 4> flat{(1 - r) * (1 - s), r * (1 - s), r * s, (1 - r) * s};
    std::array<double, 8> weight;
    for (std::size_t i = 0; i < 4; ++i) {
        weight[i] = flat[i] * (1 - t);
        weight[i + 4] = flat[i] * t;
    }
    return weight;
}

void wedgeMap(const CellCorners& p, const Point& at, const Point& local, Point& rest, std::array<Point, 3>& column) {
    const auto shape = wedgeShape(local);
    rest = at;
    column = {};
    for (std::size_t i = 0; i < 6; ++i)
        for (std::size_t axis = 0; axis < 3; ++axis) {
            rest[axis] -= shape.value[i] * p[i][axis];
            for (std::size_t direction = 0; direction < 3; ++direction)
                column[direction][axis] += shape.slope[i][direction] * p[i][axis];
        }
}

constexpr auto between = [](double value) { return value >= -slack && value <= 1 + slack; };
constexpr auto inUnitCube = [](const Point& l) { return between(l[0]) && between(l[1]) && between(l[2]); };
constexpr auto inUnitWedge = [](const Point& l) {
    return l[0] >= -slack && l[1] >= -slack && l[0] + l[1] <= 1 + slack && between(l[2]);
};

Point middleOf(CellType type) { return type == CellType::Wedge ? Point{1.0 / 3, 1.0 / 3, 0.5} : Point{0.5, 0.5, 0.5}; }

} // namespace

Trilinear trilinear(const std::array<Point, 8>& p) {
    Trilinear map;
    auto& of = map.of;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const auto c = [&](std::size_t corner) { return p[corner][axis]; };
        of[0][axis] = c(0);
        of[1][axis] = c(1) - c(0);
        of[2][axis] = c(3) - c(0);
        of[3][axis] = c(4) - c(0);
        of[4][axis] = c(2) - c(3) - of[1][axis];
        of[5][axis] = c(7) - c(4) - of[2][axis];
        of[6][axis] = c(5) - c(4) - of[1][axis];
        of[7][axis] = c(6) - c(7) - (c(5) - c(4)) - of[4][axis];
    }
    return map;
}

void Trilinear::map(const Point& at, const Point& local, Point& rest, std::array<Point, 3>& column) const {
    const auto [r, s, t] = local;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double alongR = of[1][axis] + s * of[4][axis] + t * (of[6][axis] + s * of[7][axis]);
        rest[axis] = at[axis] - of[0][axis] - r * alongR - s * of[2][axis] - t * (of[3][axis] + s * of[5][axis]);
        column[0][axis] = alongR;
        column[1][axis] = of[2][axis] + r * of[4][axis] + t * (of[5][axis] + r * of[7][axis]);
        column[2][axis] = of[3][axis] + r * of[6][axis] + s * (of[5][axis] + r * of[7][axis]);
    }
}

CellFrame::CellFrame(const Region& part, std::uint32_t cell)
    : m_cell(cell), m_type(part.mesh.type(cell)), m_corners(static_cast<std::uint8_t>(cellShape(m_type)->corners)),
      m_nodes(part.mesh.cell(cell)), m_local(middleOf(m_type)) {
    m_lattice = latticeOf(part.mesh, cell);
    for (std::size_t i = 0; i < m_corners; ++i)
        m_at[i] = part.mesh.node(m_nodes[i]);
    if (m_lattice != nullptr) {
        for (const auto node : m_nodes)
            m_curved.push_back(part.mesh.node(node));
        m_local = m_lattice->centre();
        return;
    }
    if (m_corners == 8)
        m_map = trilinear(m_at);
    if (m_corners != 4)
        return;
    const auto a = minus(m_at[1], m_at[0]);
    const auto b = minus(m_at[2], m_at[0]);
    const auto c = minus(m_at[3], m_at[0]);
    const double whole = volume(a, b, c);
    if (whole == 0) // without extent it holds nothing
        m_inverse[0].fill(std::nan(""));
    else
        m_inverse = {over(cross(b, c), whole), over(cross(c, a), whole), over(cross(a, b), whole)};
}

bool CellFrame::insideTetrahedron(const Point& place, CellWeights& weight) const {
    const auto x = minus(place, m_at[0]);
    weight[0] = 1;
    bool inside = true;
    for (std::size_t i = 0; i < 3; ++i) {
        weight[i + 1] = m_inverse[i][0] * x[0] + m_inverse[i][1] * x[1] + m_inverse[i][2] * x[2];
        weight[0] -= weight[i + 1];
        inside = inside && weight[i + 1] >= -slack;
    }
    return inside && weight[0] >= -slack;
}

// Newton's method from the nearest node on: a strongly curved cell has places to which it does not lead from the
// middle.
bool CellFrame::insideCurved(const Point& place, CellWeights& weight) {
    weight.reset(m_curved.size());
    m_slope.resize(m_curved.size());
    const auto searchFrom = [&](LocalPoint local) {
        for (int round = 0; round < 40; ++round) {
            m_lattice->shape(local, weight.all().first(m_curved.size()), m_slope);
            Point rest = place;
            std::array<Point, 3> column{};
            for (std::size_t i = 0; i < m_curved.size(); ++i)
                for (std::size_t axis = 0; axis < 3; ++axis) {
                    rest[axis] -= weight[i] * m_curved[i][axis];
                    for (std::size_t direction = 0; direction < 3; ++direction)
                        column[direction][axis] += m_slope[i][direction] * m_curved[i][axis];
                }
            const auto cross12 = cross(column[1], column[2]);
            const double whole = dot(column[0], cross12);
            if (whole == 0)
                return false;
            const auto cross0 = cross(rest, column[0]);
            Point by{dot(rest, cross12) / whole, -dot(cross0, column[2]) / whole, dot(cross0, column[1]) / whole};
            const double size = std::max({std::abs(by[0]), std::abs(by[1]), std::abs(by[2])});
            if (!std::isfinite(size))
                return false;
            // far from the end a whole step may leave the cell for good
            const double damped = size > 0.5 ? 0.5 / size : 1;
            for (std::size_t axis = 0; axis < 3; ++axis)
                local[axis] += damped * by[axis];
            if (!m_lattice->holds(local, 1.5))
                return false;
            if (size < 1e-12) {
                m_local = local;
                return m_lattice->holds(local, slack);
            }
        }
        return false;
    };
    if (searchFrom(m_local))
        return true;
    const auto squared = [&](const Point& node) {
        const auto off = minus(node, place);
        return dot(off, off);
    };
    const auto nearest = std::ranges::min_element(m_curved, {}, squared);
    if (searchFrom(m_lattice->place(static_cast<std::size_t>(nearest - m_curved.begin()))))
        return true;
    m_local = m_lattice->centre();
    return false;
}

bool CellFrame::weightsAt(const Point& place, CellWeights& weight) {
    switch (m_type) {
    case CellType::Hexahedron:
        if (byNewton([&](const Point& local, Point& rest, auto& column) { m_map.map(place, local, rest, column); },
                     m_local) &&
            inUnitCube(m_local)) {
            weight = hexahedronWeights(m_local);
            return true;
        }
        break;
    case CellType::Wedge:
        if (byNewton([&](const Point& local, Point& rest, auto& column) { wedgeMap(m_at, place, local, rest, column); },
                     m_local) &&
            inUnitWedge(m_local)) {
            weight = wedgeShape(m_local).value;
            return true;
        }
        break;
    case CellType::CurvedTetrahedron:
    case CellType::CurvedHexahedron:
    case CellType::CurvedWedge:
        return insideCurved(place, weight);
    case CellType::Pyramid:
        return inTetrahedron(m_at, {0, 1, 2, 4}, place, weight) || inTetrahedron(m_at, {0, 2, 3, 4}, place, weight);
    default:
        return insideTetrahedron(place, weight);
    }
    m_local = middleOf(m_type); // what lies outside is no start for the next search
    return false;
}

double CellFrame::size() const { // of a curved cell by its corners
    Point low = m_at[0];
    Point high = m_at[0];
    for (std::size_t i = 1; i < m_corners; ++i)
        for (std::size_t axis = 0; axis < 3; ++axis) {
            low[axis] = std::min(low[axis], m_at[i][axis]);
            high[axis] = std::max(high[axis], m_at[i][axis]);
        }
    return std::cbrt((high[0] - low[0]) * (high[1] - low[1]) * (high[2] - low[2]));
}

double valueAt(const Region& part, const CellPlace& place, const RealView& values, std::size_t components,
               std::size_t component) {
    const auto ids = part.mesh.cell(place.cell);
    double sum = 0;
    for (std::size_t i = 0; i < place.nodes; ++i)
        sum += place.weight[i] * values[components * ids[i] + component];
    return sum;
}

} // namespace pyro

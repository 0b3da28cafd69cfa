#include "core/field/cut.h"

#include "core/field/cut_table.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <tbb/parallel_for.h>

namespace pyro {
namespace {

constexpr std::size_t blocksPerTask = 32;

struct TypeTable {
    const CutTable* table;
    std::uint32_t corners;
    std::uint32_t nodes;
};
const std::array<TypeTable, 256>& tables() {
    static const auto all = [] {
        std::array<TypeTable, 256> table{};
        for (std::size_t code = 0; code < table.size(); ++code)
            if (const auto* known = cutTable(static_cast<CellType>(code)))
                table[code] = {known, static_cast<std::uint32_t>(cellShape(static_cast<CellType>(code))->corners),
                               static_cast<std::uint32_t>(cellShape(static_cast<CellType>(code))->nodes)};
        return table;
    }();
    return all;
}

// Cuts one block after another. `Level` gives the height of a node above the level; nodes at zero count as above.
template <class Real, class Level>
class Cutter {
public:
    Cutter(std::span<const Real> coordinates, const Level& level) : m_coordinates(coordinates), m_level(level) {}

    // The nodes of a block lie scattered in memory; asking for them one block early hides most of the wait.
    void fetchAhead(const BlockCells& block) const {
        for (const auto node : block.nodes) {
            __builtin_prefetch(&m_coordinates[3 * std::size_t{node}]);
            m_level.fetchAhead(node);
        }
    }

    void add(const BlockCells& block) {
        const auto count = block.nodes.size();
        std::size_t above = 0;
        std::size_t below = 0;
        for (std::size_t i = 0; i < count; ++i) {
            const double height = m_level(block.nodes[i]);
            m_height[i] = height;
            m_above[i] = height >= 0 ? 1 : 0;
            above += m_above[i];
            below += height < 0 ? 1 : 0;
        }
        if (above == 0 || below == 0)
            return;
        m_anyNaN = above + below < count;
        for (std::size_t i = 0; i < count; ++i)
            for (std::size_t axis = 0; axis < 3; ++axis)
                m_place[i][axis] = static_cast<double>(m_coordinates[3 * std::size_t{block.nodes[i]} + axis]);
        const auto* corners = block.corners;
        for (std::size_t i = 0; i < block.cells.size(); ++i) {
            const auto& type = tables()[block.types[i]];
            addCell(block.cells[i], type, block.nodes, corners);
            corners += type.nodes;
        }
    }
    Cut take() { return std::move(m_cut); }

private:
    void addCell(std::uint32_t cell, const TypeTable& type, std::span<const std::uint32_t> nodes,
                 const std::uint8_t* corners) {
        std::uint32_t pattern = 0;
        const auto bit = [&](std::uint32_t i) { return static_cast<std::uint32_t>(m_above[corners[i]]) << i; };
        if (type.corners == 8)
            pattern = bit(0) | bit(1) | bit(2) | bit(3) | bit(4) | bit(5) | bit(6) | bit(7);
        else
            for (std::uint32_t i = 0; i < type.corners; ++i)
                pattern |= bit(i);
        if (pattern == 0 || pattern == (1U << type.corners) - 1)
            return;
        if (m_anyNaN && std::any_of(corners, corners + type.corners, [&](auto i) { return std::isnan(m_height[i]); }))
            return;
        const auto rings = type.table->polygons(pattern);
        for (std::size_t at = 0; at < rings.size(); at += rings[at] + std::size_t{1})
            addPolygon(cell, nodes, corners, *type.table, rings.subspan(at + 1, rings[at]));
    }

    void addPolygon(std::uint32_t cell, std::span<const std::uint32_t> nodes, const std::uint8_t* corners,
                    const CutTable& table, std::span<const std::uint8_t> ring) {
        auto next = m_cut.vertices.size();
        m_cut.vertices.resize(next + ring.size());
        m_cut.points.resize(next + ring.size());
        for (const auto number : ring) {
            auto i = corners[table.edges[number][0]];
            auto j = corners[table.edges[number][1]];
            if (nodes[i] > nodes[j]) // the same place from whichever cell it is computed
                std::swap(i, j);
            const double share = m_height[i] / (m_height[i] - m_height[j]);
            m_cut.vertices[next] = {nodes[i], nodes[j], share};
            const auto& a = m_place[i];
            const auto& b = m_place[j];
            m_cut.points[next] = {a[0] + share * (b[0] - a[0]), a[1] + share * (b[1] - a[1]),
                                  a[2] + share * (b[2] - a[2])};
            ++next;
        }
        m_cut.corners.push_back(static_cast<std::uint8_t>(ring.size()));
        m_cut.cell.push_back(cell);
    }

    std::span<const Real> m_coordinates;
    const Level& m_level;
    std::array<double, CellOrder::mostNodes> m_height;
    std::array<std::uint8_t, CellOrder::mostNodes> m_above;
    std::array<Point, CellOrder::mostNodes> m_place;
    bool m_anyNaN = false;
    Cut m_cut;
};

template <class Vector>
void place(Vector& whole, std::size_t at, const Vector& piece) {
    std::ranges::copy(piece, whole.begin() + static_cast<std::ptrdiff_t>(at));
}

// Put together in the order of the blocks, so that the result does not depend on the number of threads.
Cut joined(const std::vector<Cut>& pieces) {
    std::vector<std::array<std::size_t, 2>> first; // vertex and polygon
    std::array<std::size_t, 2> all{};
    for (const auto& piece : pieces) {
        first.push_back(all);
        all = {all[0] + piece.vertices.size(), all[1] + piece.polygons()};
    }
    Cut whole;
    whole.points.resize(all[0]);
    whole.vertices.resize(all[0]);
    whole.corners.resize(all[1]);
    whole.cell.resize(all[1]);
    tbb::parallel_for(std::size_t{0}, pieces.size(), [&](std::size_t i) {
        place(whole.points, first[i][0], pieces[i].points);
        place(whole.vertices, first[i][0], pieces[i].vertices);
        place(whole.corners, first[i][1], pieces[i].corners);
        place(whole.cell, first[i][1], pieces[i].cell);
    });
    return whole;
}

template <class Real, class Level, class Meets>
Cut cutBlocks(const CellOrder& order, std::span<const Real> coordinates, const Level& level, Meets meets) {
    std::vector<std::uint32_t> met;
    for (std::size_t block = 0; block < order.blocks.size(); ++block)
        if (meets(block))
            met.push_back(static_cast<std::uint32_t>(block));
    std::vector<Cut> pieces((met.size() + blocksPerTask - 1) / blocksPerTask);
    tbb::parallel_for(std::size_t{0}, pieces.size(), [&](std::size_t piece) {
        Cutter<Real, Level> cutter(coordinates, level);
        const auto end = std::min(met.size(), (piece + 1) * blocksPerTask);
        for (auto i = piece * blocksPerTask; i < end; ++i) {
            if (i + 1 < end)
                cutter.fetchAhead(order.block(met[i + 1]));
            cutter.add(order.block(met[i]));
        }
        pieces[piece] = cutter.take();
    });
    return joined(pieces);
}

bool planeMeets(const CellBlock& block, const Plane& plane) {
    double centre = 0;
    double reach = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double low = block.low[axis];
        const double high = block.high[axis];
        centre += plane.normal[axis] * (0.5 * (low + high) - plane.origin[axis]);
        reach += std::abs(plane.normal[axis]) * 0.5 * (high - low);
    }
    return std::abs(centre) <= reach * (1 + 1e-12);
}

} // namespace

Result<Plane> withUnitNormal(const Plane& plane) {
    const double length = std::hypot(plane.normal[0], plane.normal[1], plane.normal[2]);
    bool finite = std::isfinite(length);
    for (const double value : plane.origin)
        finite = finite && std::isfinite(value);
    if (!(length > 0) || !finite)
        return fail(ErrorCode::WrongType, "a plane needs a finite origin and a normal that is not zero",
                    fmt::format("normal ({:g}, {:g}, {:g})", plane.normal[0], plane.normal[1], plane.normal[2]),
                    "Give at least one component of the normal");
    auto unit = plane;
    for (auto& component : unit.normal)
        component /= length;
    return unit;
}

Result<Plane> planeThrough(const Point& a, const Point& b, const Point& c) {
    const auto u = minus(b, a);
    const auto v = minus(c, a);
    const auto normal = cross(u, v);
    const double sides = std::hypot(u[0], u[1], u[2]) * std::hypot(v[0], v[1], v[2]);
    if (!(std::hypot(normal[0], normal[1], normal[2]) > 1e-9 * sides))
        return fail(ErrorCode::WrongType, "three places on one line give no plane", "section",
                    "Choose places that form a triangle");
    return withUnitNormal({a, normal});
}

Plane planeWithin(const std::array<double, 6>& box, const Point& place) {
    constexpr double margin = 0.02; // of the extent
    const auto extent = [&](std::size_t axis) { return box[2 * axis + 1] - box[2 * axis]; };
    const auto isWithin = [&](std::size_t axis) {
        return place[axis] > box[2 * axis] + 1e-3 * extent(axis) &&
               place[axis] < box[2 * axis + 1] - 1e-3 * extent(axis);
    };
    std::size_t across = 1;
    if (!isWithin(0) && !isWithin(1) && !isWithin(2)) // a corner
        for (const std::size_t axis : {0, 2})
            across = extent(axis) < extent(across) ? axis : across;
    Plane plane{place, {}};
    plane.origin[across] = std::clamp(place[across], box[2 * across] + margin * extent(across),
                                      box[2 * across + 1] - margin * extent(across));
    plane.normal[0] = plane.normal[1] = plane.normal[2] = 0;
    plane.normal[across] = across == 1 ? -1 : 1;
    return plane;
}

double distanceTo(const Plane& plane, const Point& place) {
    double sum = 0;
    for (std::size_t axis = 0; axis < 3; ++axis)
        sum += plane.normal[axis] * (place[axis] - plane.origin[axis]);
    return sum;
}

template <class Real>
struct HeightOverPlane {
    std::span<const Real> coordinates;
    const Plane& plane;

    double operator()(std::uint32_t node) const {
        double sum = 0;
        for (std::size_t axis = 0; axis < 3; ++axis)
            sum += plane.normal[axis] *
                   (static_cast<double>(coordinates[3 * std::size_t{node} + axis]) - plane.origin[axis]);
        return sum;
    }
    void fetchAhead(std::uint32_t) const {} // the coordinates are fetched anyway
};

template <class Real>
struct HeightOverThickPlane {
    HeightOverPlane<Real> plane;
    double slack;

    double operator()(std::uint32_t node) const {
        const double height = plane(node);
        return std::abs(height) <= slack ? 0.0 : height;
    }
    void fetchAhead(std::uint32_t) const {}
};

template <class Real>
struct HeightOverValue {
    std::span<const Real> values;
    double value;

    double operator()(std::uint32_t node) const { return static_cast<double>(values[node]) - value; }
    void fetchAhead(std::uint32_t node) const { __builtin_prefetch(&values[node]); }
};

Cut section(const Region& part, const CellOrder& order, const Plane& plane) {
    return part.mesh.coordinates.visit([&]<class Real>(std::span<const Real> coordinates) {
        return cutBlocks(order, coordinates, HeightOverPlane<Real>{coordinates, plane},
                         [&](std::size_t block) { return planeMeets(order.blocks[block], plane); });
    });
}

Cut sectionOfBlocks(const Region& part, const CellOrder& order, std::span<const std::uint32_t> blocks,
                    const Plane& plane, double slack) {
    return part.mesh.coordinates.visit([&]<class Real>(std::span<const Real> coordinates) {
        const HeightOverThickPlane<Real> level{{coordinates, plane}, slack};
        Cutter<Real, HeightOverThickPlane<Real>> cutter(coordinates, level);
        for (const auto block : blocks)
            cutter.add(order.block(block));
        return cutter.take();
    });
}

Cut levelSurface(const Region& part, const CellOrder& order, std::span<const BlockRange> ranges, RealView nodeValues,
                 double value) {
    const auto meets = [&](std::size_t block) { return ranges[block].low <= value && ranges[block].high >= value; };
    return part.mesh.coordinates.visit([&](auto coordinates) {
        return nodeValues.visit([&]<class Real>(std::span<const Real> values) {
            return cutBlocks(order, coordinates, HeightOverValue<Real>{values, value}, meets);
        });
    });
}

std::vector<double> valuesOn(const Cut& cut, const StoredArray& field) {
    std::vector<double> out;
    if (field.on == Location::Cell) {
        out.reserve(cut.polygons());
        for (const auto cell : cut.cell)
            out.push_back(field.values[cell]);
        return out;
    }
    out.reserve(cut.vertices.size());
    for (const auto& place : cut.vertices)
        out.push_back(field.values[place.a] + place.share * (field.values[place.b] - field.values[place.a]));
    return out;
}

CutSums sumsOn(const Cut& cut, std::span<const double> values) {
    const bool perVertex = values.size() == cut.vertices.size() && values.size() != cut.polygons();
    CutSums sums;
    std::size_t first = 0;
    for (std::size_t polygon = 0; polygon < cut.polygons(); ++polygon) {
        const auto end = first + cut.corners[polygon];
        for (auto i = first + 1; i + 1 < end; ++i) {
            double squares = 0;
            for (std::size_t axis = 0; axis < 3; ++axis) {
                const auto u = (axis + 1) % 3;
                const auto v = (axis + 2) % 3;
                const auto& origin = cut.points[first];
                const auto& p = cut.points[i];
                const auto& q = cut.points[i + 1];
                const double component = (p[u] - origin[u]) * (q[v] - origin[v]) -
                                         (p[v] - origin[v]) * (q[u] - origin[u]);
                squares += component * component;
            }
            const double area = 0.5 * std::sqrt(squares);
            sums.area += area;
            sums.integral += area * (perVertex ? (values[first] + values[i] + values[i + 1]) / 3 : values[polygon]);
        }
        first = end;
    }
    return sums;
}

} // namespace pyro

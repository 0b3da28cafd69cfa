#include "core/field/stream.h"

#include "core/field/cells_to_nodes.h"
#include "core/field/gradient.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace pyro {
namespace {

Point moved(const Point& from, const Point& along, double by) {
    return {from[0] + by * along[0], from[1] + by * along[1], from[2] + by * along[2]};
}

std::optional<Point> direction(const Point& vector) {
    const double length = std::hypot(vector[0], vector[1], vector[2]);
    if (!(length > 0) || !std::isfinite(length))
        return std::nullopt;
    return Point{vector[0] / length, vector[1] / length, vector[2] / length};
}

} // namespace

// Asks a field at places one after the other, most of which lie in the cell of the one before.
class StreamWalker {
public:
    explicit StreamWalker(const VectorField& field) : m_field(field) {}

    // False outside of the parts that have the field.
    bool moveTo(const Point& place) {
        if (m_cell && m_cell->weightsAt(place, m_weight)) {
            interpolate();
            return true;
        }
        if (m_cell && enter(m_part, place))
            return true;
        for (std::size_t part = 0; part < m_field.m_locators.size(); ++part)
            if ((!m_cell || part != m_part) && enter(part, place))
                return true;
        return false;
    }

    const Point& vector() const { return m_vector; }
    StreamPoint point(const Point& at) const {
        return {at, m_part, {m_cell->cell(), m_weight, static_cast<std::uint16_t>(m_cell->nodes().size())}, m_vector};
    }
    double cellSize() const { return m_size; } // m

private:
    bool enter(std::size_t part, const Point& place) {
        if (!m_field.m_locators[part])
            return false;
        auto block = part == m_part ? m_block : ~0U;
        auto found = m_field.m_locators[part]->frameAt(place, m_weight, block);
        if (!found)
            return false;
        m_part = part;
        m_block = block;
        m_cell = found;
        m_size = m_cell->size();
        const auto nodes = m_cell->nodes();
        m_vectors.resize(nodes.size());
        for (std::size_t i = 0; i < nodes.size(); ++i)
            for (std::size_t axis = 0; axis < 3; ++axis)
                m_vectors[i][axis] = m_field.m_nodal[part][3 * std::size_t{nodes[i]} + axis];
        interpolate();
        return true;
    }

    void interpolate() {
        m_vector = {};
        for (std::size_t i = 0; i < m_vectors.size(); ++i)
            for (std::size_t axis = 0; axis < 3; ++axis)
                m_vector[axis] += m_weight[i] * m_vectors[i][axis];
    }

    const VectorField& m_field;
    std::size_t m_part = 0;
    std::uint32_t m_block = ~0U;     // of the part's order
    std::optional<CellFrame> m_cell; // where the last place was found
    double m_size = 0;
    std::vector<Point> m_vectors; // the field at the cell's nodes
    CellWeights m_weight{};
    Point m_vector{};
};

namespace {

// One step of the given signed length from a place with that direction; nothing when it leaves the field.
std::optional<Point> step(StreamWalker& walker, const Point& at, const Point& k1, double length) {
    const auto slope = [&](const Point& place) {
        return walker.moveTo(place) ? direction(walker.vector()) : std::nullopt;
    };
    const auto k2 = slope(moved(at, k1, length / 2));
    const auto k3 = k2 ? slope(moved(at, *k2, length / 2)) : std::nullopt;
    const auto k4 = k3 ? slope(moved(at, *k3, length)) : std::nullopt;
    if (!k4)
        return std::nullopt;
    Point next = at;
    for (std::size_t axis = 0; axis < 3; ++axis)
        next[axis] += length / 6 * (k1[axis] + 2 * (*k2)[axis] + 2 * (*k3)[axis] + (*k4)[axis]);
    return next;
}

void follow(StreamWalker& walker, Point at, const StreamRule& rule, double sign, std::vector<StreamPoint>& out) {
    double gone = 0;
    if (!walker.moveTo(at))
        return;
    auto along = direction(walker.vector());
    while (along && gone < rule.longest && out.size() < rule.mostPoints) {
        const double length = std::min(rule.step * walker.cellSize(), rule.longest - gone);
        // Near the end of the field a simple step may still lie within.
        const auto next = step(walker, at, *along, sign * length).value_or(moved(at, *along, sign * length / 2));
        if (!walker.moveTo(next))
            return;
        along = direction(walker.vector());
        if (!along)
            return;
        gone += std::hypot(next[0] - at[0], next[1] - at[1], next[2] - at[2]);
        at = next;
        out.push_back(walker.point(at));
    }
}

} // namespace

VectorField::VectorField(const Case& solved)
    : m_case(solved), m_locators(solved.parts.size()), m_made(solved.parts.size()), m_nodal(solved.parts.size()) {}

VectorField::VectorField(const Case& solved, std::span<const CellOrder> orders, std::string_view array, Location on)
    : VectorField(solved) {
    for (std::size_t part = 0; part < solved.parts.size(); ++part) {
        const auto* stored = solved.parts[part].find(array, on);
        if (stored == nullptr || stored->components != 3)
            continue;
        if (on == Location::Cell) {
            m_made[part] = cellsToNodes(solved.parts[part].mesh, stored->values, 3);
            m_nodal[part] = RealView(std::span<const double>(m_made[part]));
        } else {
            m_nodal[part] = stored->values;
        }
        m_locators[part] = std::make_unique<PointLocator>(solved.parts[part], orders[part]);
    }
}

VectorField VectorField::downhill(const Case& solved, std::span<const CellOrder> orders, std::string_view nodalArray) {
    VectorField field(solved);
    for (std::size_t part = 0; part < solved.parts.size(); ++part) {
        const auto* stored = solved.parts[part].find(nodalArray, Location::Node);
        if (stored == nullptr || stored->components != 1)
            continue;
        const auto gradient = nodeGradient(solved.parts[part], stored->values);
        field.m_made[part].resize(gradient.size());
        std::ranges::transform(gradient, field.m_made[part].begin(), std::negate<>());
        field.m_nodal[part] = RealView(std::span<const double>(field.m_made[part]));
        field.m_locators[part] = std::make_unique<PointLocator>(solved.parts[part], orders[part]);
    }
    return field;
}

std::optional<CellPlace> VectorField::in(std::size_t part, const Point& place) const {
    return m_locators[part] ? m_locators[part]->find(place) : std::nullopt;
}

std::optional<VectorField::Here> VectorField::at(const Point& place) const {
    for (std::size_t part = 0; part < m_locators.size(); ++part)
        if (const auto found = in(part, place)) {
            Here here{{}, part, *found};
            for (std::size_t axis = 0; axis < 3; ++axis)
                here.vector[axis] = valueAt(m_case.parts[part], *found, m_nodal[part], 3, axis);
            return here;
        }
    return std::nullopt;
}

double VectorField::cellSize(const Here& here) const {
    return CellFrame(m_case.parts[here.part], here.place.cell).size();
}

std::vector<StreamPoint> traceStream(const VectorField& field, const Point& seed, const StreamRule& rule) {
    StreamWalker walker(field);
    if (!walker.moveTo(seed) || !direction(walker.vector()))
        return {};
    const auto start = walker.point(seed);
    std::vector<StreamPoint> line;
    if (rule.backwards)
        follow(walker, seed, rule, -1, line);
    std::ranges::reverse(line);
    line.push_back(start);
    if (rule.forwards)
        follow(walker, seed, rule, 1, line);
    return line;
}

} // namespace pyro

#include "core/field/stream.h"

#include "core/field/gradient.h"

#include <algorithm>
#include <cmath>
#include <functional>

namespace pyro {
namespace {

std::vector<double> averagedToNodes(const Region& part, const StoredArray& array) {
    std::vector<double> sum(3 * part.mesh.nodes());
    std::vector<std::uint32_t> count(part.mesh.nodes());
    for (std::size_t cell = 0; cell < part.mesh.cells(); ++cell)
        for (const auto node : part.mesh.cell(cell)) {
            ++count[node];
            for (std::size_t axis = 0; axis < 3; ++axis)
                sum[3 * std::size_t{node} + axis] += array.values[3 * cell + axis];
        }
    for (std::size_t i = 0; i < sum.size(); ++i)
        sum[i] /= std::max(1U, count[i / 3]);
    return sum;
}

Point moved(const Point& from, const Point& along, double by) {
    return {from[0] + by * along[0], from[1] + by * along[1], from[2] + by * along[2]};
}

std::optional<Point> direction(const Point& vector) {
    const double length = std::hypot(vector[0], vector[1], vector[2]);
    if (!(length > 0) || !std::isfinite(length))
        return std::nullopt;
    return Point{vector[0] / length, vector[1] / length, vector[2] / length};
}

// One step of the given signed length; nothing when it leaves the field.
std::optional<Point> step(const VectorField& field, const VectorField::Here& here, const Point& at, double length) {
    const auto slope = [&](const Point& place) -> std::optional<Point> {
        const auto there = field.at(place, here);
        return there ? direction(there->vector) : std::nullopt;
    };
    const auto k1 = direction(here.vector);
    const auto k2 = k1 ? slope(moved(at, *k1, length / 2)) : std::nullopt;
    const auto k3 = k2 ? slope(moved(at, *k2, length / 2)) : std::nullopt;
    const auto k4 = k3 ? slope(moved(at, *k3, length)) : std::nullopt;
    if (!k4)
        return std::nullopt;
    Point next = at;
    for (std::size_t axis = 0; axis < 3; ++axis)
        next[axis] += length / 6 * ((*k1)[axis] + 2 * (*k2)[axis] + 2 * (*k3)[axis] + (*k4)[axis]);
    return next;
}

void follow(const VectorField& field, StreamPoint from, const StreamRule& rule, double sign, std::vector<StreamPoint>& out) {
    auto here = field.at(from.at);
    auto at = from.at;
    double gone = 0;
    while (here && gone < rule.longest && out.size() < rule.mostPoints) {
        const double length = std::min(rule.step * field.cellSize(*here), rule.longest - gone);
        auto next = step(field, *here, at, sign * length);
        if (!next) // near the end of the field a simple step may still lie within
            if (const auto along = direction(here->vector); along)
                next = moved(at, *along, sign * length / 2);
        const auto there = next ? field.at(*next, *here) : std::nullopt;
        if (!there || !direction(there->vector))
            return;
        gone += std::hypot((*next)[0] - at[0], (*next)[1] - at[1], (*next)[2] - at[2]);
        at = *next;
        here = there;
        out.push_back({at, here->part, here->place});
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
            m_made[part] = averagedToNodes(solved.parts[part], *stored);
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

VectorField::Here VectorField::filled(std::size_t part, const CellPlace& place) const {
    Here here{{}, part, place};
    for (std::size_t axis = 0; axis < 3; ++axis)
        here.vector[axis] = valueAt(m_case.parts[part], place, m_nodal[part], 3, axis);
    return here;
}

std::optional<VectorField::Here> VectorField::in(std::size_t part, const Point& place) const {
    if (!m_locators[part])
        return std::nullopt;
    const auto found = m_locators[part]->find(place);
    return found ? std::optional(filled(part, *found)) : std::nullopt;
}

std::optional<VectorField::Here> VectorField::at(const Point& place) const {
    for (std::size_t part = 0; part < m_locators.size(); ++part)
        if (auto here = in(part, place))
            return here;
    return std::nullopt;
}

std::optional<VectorField::Here> VectorField::at(const Point& place, const Here& before) const {
    if (const auto same = m_locators[before.part]->within(before.place.cell, place))
        return filled(before.part, *same);
    if (auto here = in(before.part, place))
        return here;
    return at(place);
}

double VectorField::cellSize(const Here& here) const {
    const auto& mesh = m_case.parts[here.part].mesh;
    std::array<double, 3> low{1e300, 1e300, 1e300};
    std::array<double, 3> high{-1e300, -1e300, -1e300};
    for (const auto node : mesh.cell(here.place.cell))
        for (std::size_t axis = 0; axis < 3; ++axis) {
            low[axis] = std::min(low[axis], mesh.node(node)[axis]);
            high[axis] = std::max(high[axis], mesh.node(node)[axis]);
        }
    return std::cbrt((high[0] - low[0]) * (high[1] - low[1]) * (high[2] - low[2]));
}

std::vector<StreamPoint> traceStream(const VectorField& field, const Point& seed, const StreamRule& rule) {
    const auto here = field.at(seed);
    if (!here || !direction(here->vector))
        return {};
    const StreamPoint start{seed, here->part, here->place};
    std::vector<StreamPoint> line;
    if (rule.backwards)
        follow(field, start, rule, -1, line);
    std::ranges::reverse(line);
    line.push_back(start);
    if (rule.forwards)
        follow(field, start, rule, 1, line);
    return line;
}

} // namespace pyro

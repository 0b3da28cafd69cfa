#include "core/envelope/ray.h"

#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>

namespace pyro {
namespace {

struct Here {
    std::uint32_t part = noNumber;
    std::uint32_t cell = noNumber;
    double conductivity = 0; // W/(m.K), along the ray
    bool inside() const { return part != noNumber; }
};

class Walk {
public:
    Walk(const PartFields& fields, const Point& from, const Point& direction)
        : m_fields(fields), m_from(from), m_direction(direction) {
        for (const auto& part : fields.index().parts)
            for (std::size_t axis = 0; axis < 3; ++axis)
                m_size = std::max(m_size, part.box[2 * axis + 1] - part.box[2 * axis]);
    }

    Result<Ray> run() {
        const double step = 1e-7 * m_size;
        double at = step;
        auto here = look(at);
        if (!m_problem.what.empty())
            return tl::unexpected(m_problem);
        if (!here.inside())
            return fail(ErrorCode::NotSupported, "no part begins at this face");
        Ray ray;
        ray.from = m_from;
        double begin = 0;
        while (here.inside()) {
            const double further = at + std::max(step, leaving(here, at) + step);
            const auto next = look(further);
            if (!m_problem.what.empty())
                return tl::unexpected(m_problem);
            const bool changes = next.part != here.part ||
                                 std::abs(next.conductivity - here.conductivity) > 0.005 * here.conductivity;
            if (changes) {
                const double end = change(here, at, further);
                add(ray, here, end - begin);
                begin = end;
                ray.part = here.part;
                ray.cell = here.cell;
                ray.to = place(end);
            }
            here = next;
            at = further;
        }
        return ray;
    }

private:
    Point place(double along) const {
        Point out = m_from;
        for (std::size_t axis = 0; axis < 3; ++axis)
            out[axis] += along * m_direction[axis];
        return out;
    }

    Here look(double along) {
        const auto at = place(along);
        for (std::uint32_t i = 0; i < m_fields.solved().parts.size(); ++i) {
            const auto part = (m_last + i) % static_cast<std::uint32_t>(m_fields.solved().parts.size());
            if (!mayHold(part, at))
                continue;
            const auto found = m_fields.index().search->locator(part).find(at);
            if (!found)
                continue;
            const auto conductivity = m_fields.field(part, "conductivity");
            if (!conductivity) {
                m_problem = conductivity.error();
                return {};
            }
            m_last = part;
            double k = 0;
            if (conductivity->isConstant() || conductivity->on == Location::Cell)
                k = conductivity->along(found->cell, m_direction);
            else
                for (const auto node : m_fields.solved().parts[part].mesh.cell(found->cell))
                    k += conductivity->along(node, m_direction) /
                         static_cast<double>(m_fields.solved().parts[part].mesh.cell(found->cell).size());
            return {part, found->cell, k};
        }
        return {};
    }

    bool mayHold(std::uint32_t part, const Point& at) const {
        const auto& box = m_fields.index().parts[part].box;
        for (std::size_t axis = 0; axis < 3; ++axis)
            if (at[axis] < box[2 * axis] - 1e-6 * m_size || at[axis] > box[2 * axis + 1] + 1e-6 * m_size)
                return false;
        return true;
    }

    // How far it is to the end of the cell's box, m; a quarter of it where the cell does not fill its box.
    double leaving(const Here& here, double along) const {
        const auto& mesh = m_fields.solved().parts[here.part].mesh;
        const auto at = place(along);
        double volume = 1;
        double nearest = std::numeric_limits<double>::max();
        for (std::size_t axis = 0; axis < 3; ++axis) {
            double low = std::numeric_limits<double>::max();
            double high = std::numeric_limits<double>::lowest();
            for (const auto node : mesh.cell(here.cell)) {
                low = std::min(low, mesh.node(node)[axis]);
                high = std::max(high, mesh.node(node)[axis]);
            }
            volume *= high - low;
            const double slope = m_direction[axis];
            if (std::abs(slope) > 1e-12)
                nearest = std::min(nearest, ((slope > 0 ? high : low) - at[axis]) / slope);
        }
        const bool fills = m_fields.index().parts[here.part].cellMeasure[here.cell] > 0.999 * volume;
        return std::max(0.0, fills ? nearest : 0.25 * nearest);
    }

    // Where between two places along the ray what was here ends.
    double change(const Here& here, double low, double high) {
        while (high - low > 1e-10 * m_size) {
            const double middle = 0.5 * (low + high);
            const auto there = look(middle);
            const bool same = there.part == here.part &&
                              std::abs(there.conductivity - here.conductivity) <= 0.005 * here.conductivity;
            (same ? low : high) = middle;
        }
        return 0.5 * (low + high);
    }

    static void add(Ray& ray, const Here& here, double thickness) {
        ray.layers.push_back({here.part, thickness, thickness / here.conductivity});
    }

    const PartFields& m_fields;
    Point m_from;
    Point m_direction;
    double m_size = 0;
    std::uint32_t m_last = 0;
    Error m_problem{ErrorCode::NotSupported, {}, {}, {}};
};

} // namespace

Result<Ray> rayThrough(const PartFields& fields, const Point& from, const Point& direction) {
    return Walk(fields, from, direction).run();
}

} // namespace pyro

#include "app/viewport/section_sweep.h"

namespace pyro {

std::optional<std::array<double, 2>> sweepRange(const Session& session) {
    const auto at = session.selection().selectedSection();
    const auto* state = session.activeCase();
    if (!at || state == nullptr || !state->opened)
        return std::nullopt;
    const auto plane = withUnitNormal(session.view().field.sections[*at].plane);
    std::array<double, 2> range{1e300, -1e300};
    for (const auto part : visibleParts(session.seen())) {
        const auto& box = state->opened->index->parts[part].box;
        for (unsigned corner = 0; corner < 8 && plane; ++corner) {
            const double d = distanceTo(*plane,
                                        {box[corner & 1], box[2 + (corner >> 1 & 1)], box[4 + (corner >> 2 & 1)]});
            range = {std::min(range[0], d), std::max(range[1], d)};
        }
    }
    return range[0] < range[1] ? std::optional(range) : std::nullopt;
}

bool sweepBy(Session& session, double share) {
    const auto at = session.selection().selectedSection();
    const auto range = sweepRange(session);
    if (!at || !range)
        return false;
    auto view = session.view();
    auto& plane = view.field.sections[*at].plane;
    const auto unit = withUnitNormal(plane);
    const double length = (*range)[1] - (*range)[0];
    double by = share * length;
    if (by > 0.999 * (*range)[1])
        by -= 0.998 * length;
    for (std::size_t axis = 0; axis < 3 && unit; ++axis)
        plane.origin[axis] += by * unit->normal[axis];
    session.editView("Sweep section", view, {GestureKind::SectionSweep});
    return true;
}

} // namespace pyro

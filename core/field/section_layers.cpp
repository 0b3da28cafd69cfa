#include "core/field/section_layers.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

// From and to of a part's box along the normal, from the plane on, m.
std::array<double, 2> reachOf(const std::array<double, 6>& box, const Plane& plane, int direction) {
    std::array<double, 2> reach{1e300, -1e300};
    for (unsigned corner = 0; corner < 8; ++corner) {
        const double at = direction *
                          distanceTo(plane, {box[corner & 1], box[2 + (corner >> 1 & 1)], box[4 + (corner >> 2 & 1)]});
        reach = {std::min(reach[0], at), std::max(reach[1], at)};
    }
    return reach;
}

} // namespace

LayerStop nextStop(const CaseIndex& index, std::span<const std::size_t> parts, const Plane& plane, double step,
                   int direction) {
    std::vector<std::array<double, 2>> reach;
    std::vector<double> ends;
    for (const auto part : parts) {
        reach.push_back(reachOf(index.parts[part].box, plane, direction));
        ends.insert(ends.end(), reach.back().begin(), reach.back().end());
    }
    std::ranges::sort(ends);
    LayerStop stop;
    stop.by = step;
    for (std::size_t i = 1; i < ends.size(); ++i) {
        const double middle = 0.5 * (ends[i - 1] + ends[i]);
        const double thickness = ends[i] - ends[i - 1];
        if (thickness > 1e-6 * step && thickness < step && middle > 1e-3 * step && middle < stop.by) {
            stop.by = middle;
            break;
        }
    }
    std::vector<std::pair<double, std::size_t>> met;
    for (std::size_t i = 0; i < reach.size(); ++i)
        if (reach[i][0] <= stop.by && stop.by <= reach[i][1])
            met.emplace_back(reach[i][1] - reach[i][0], parts[i]);
    std::ranges::sort(met);
    for (const auto& [thickness, part] : met)
        stop.parts.push_back(part);
    return stop;
}

} // namespace pyro

#include "render/pinned_labels.h"

#include "core/field/locate.h"

#include <cmath>

namespace pyro {

std::vector<PinnedLabel> readLabels(const FieldPicture& picture, const CellOrders& orders,
                                    std::span<const Point> places) {
    const auto& parts = picture.opened.solved->parts;
    std::vector<PinnedLabel> labels;
    for (const auto& place : places)
        labels.push_back({place, std::nullopt, std::nullopt});
    for (std::size_t part = 0; part < parts.size() && !labels.empty(); ++part) {
        const PointLocator locator(parts[part], orders.parts[part]);
        for (auto& label : labels) {
            if (label.part)
                continue;
            const auto cell = locator.find(label.at);
            if (!cell)
                continue;
            label.part = part;
            if (const double value = valueAt(picture, part, *cell); !std::isnan(value))
                label.value = value;
        }
    }
    return labels;
}

Point withinCell(const Region& part, std::uint32_t cell, const Point& place) {
    constexpr double share = 1e-4; // of the way to the middle: changes a reading by as much of the cell's difference
    const auto middle = part.mesh.cellCentre(cell);
    Point inside{};
    for (std::size_t axis = 0; axis < 3; ++axis)
        inside[axis] = place[axis] + share * (middle[axis] - place[axis]);
    return inside;
}

} // namespace pyro

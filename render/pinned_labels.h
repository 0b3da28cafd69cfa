// Readings that are pinned to a place of the model and read again on every step and case.
#pragma once

#include "render/section_picture.h"

namespace pyro {

struct PinnedLabel {
    Point at;                        // metres
    std::optional<std::size_t> part; // nothing: no part of this case holds the place
    std::optional<double> value;     // SI; nothing: no part there, or it lacks the quantity
};

// Node values by the shape functions of the cell that holds the place, cell values as they are.
std::vector<PinnedLabel> readLabels(const FieldPicture& picture, const CellOrders& orders,
                                    std::span<const Point> places);

// The place a little within the cell behind a surface: pixels give it to float precision only, and a place that is
// outside by rounding would be read on no other step.
Point withinCell(const Region& part, std::uint32_t cell, const Point& place);

} // namespace pyro

// Arrows of a vector quantity on sections and boundaries, packed for drawing. Made by a job.
#pragma once

#include "core/field/stream.h"
#include "render/section_picture.h"

namespace pyro {

struct ArrowPicture {
    std::vector<float> points;  // 3 per arrow: its tail, metres
    std::vector<float> vectors; // 3 per arrow: as it is drawn, metres
    std::vector<float> values;  // SI of the quantity on display behind it; NaN where there is none
    double longest = 0;         // SI: the magnitude that the longest arrow stands for
    double unit = 0;            // SI: the magnitude of an arrow as long as the spacing allows; 0: all are that long
    double spacing = 0;         // m: as chosen, or the one that fits
    std::string why;            // set when there is no arrow: what is missing

    std::size_t count() const { return points.size() / 3; }
};
constexpr std::size_t mostArrows = 20'000;

// `sections`: those that carry arrows. Arrows stand on a grid of the spacing across each section; on a boundary one for
// each spacing squared of its area. A spacing that would give more than `mostArrows` says so in `why`.
// Errors: Cancelled.
Result<ArrowPicture> makeArrows(const FieldPicture& picture, const CellOrders& orders, const Quantity& followed,
                                const ArrowView& view, std::span<const std::shared_ptr<const SectionPicture>> sections,
                                Progress& progress);

} // namespace pyro

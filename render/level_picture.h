// Isotherm surfaces of the quantity on display, packed for drawing, and how much of each part lies above. By a job.
#pragma once

#include "core/field/volume_above.h"
#include "render/section_picture.h"

namespace pyro {

struct LevelSurface {
    double value;                        // SI
    std::vector<float> points;           // 3 per node
    std::vector<std::int32_t> triangles; // 3 nodes each
    struct PartShare {
        std::size_t part;
        VolumeAbove above;
    };
    std::vector<PartShare> parts; // those that are hotter somewhere, the largest volume first
};

struct LevelPicture {
    std::vector<LevelSurface> levels;
    std::string why; // set when no surface can be drawn
};

// `values`: SI. `parts`: those that are seen; the volumes are those of all parts. Errors: Cancelled.
Result<LevelPicture> makeLevels(const FieldPicture& picture, const CellOrders& orders, std::span<const double> values,
                                std::span<const std::size_t> parts, Progress& progress);

} // namespace pyro

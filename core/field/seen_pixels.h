// What each pixel of a picture sees of a case.
#pragma once

#include "core/field/case_index.h"
#include "core/field/picture_camera.h"

namespace pyro {

struct SeenPixel {
    std::uint32_t part = noNumber; // noNumber: nothing
    std::uint32_t cell = 0;
    std::array<std::uint32_t, 3> nodes{}; // of the part, and their weights where the pixel's middle meets the face
    std::array<double, 3> share{};
    double depth = std::numeric_limits<double>::infinity();
};

// The nearest outer face of the parts behind the middle of each pixel, row by row; faces are seen from both sides.
std::vector<SeenPixel> seenPixels(const PictureCamera& camera, std::size_t columns, std::size_t rows,
                                  const Case& solved, const CaseIndex& index, std::span<const std::uint32_t> parts);

} // namespace pyro

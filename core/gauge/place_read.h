// All quantities of a case at one place on the outer surface of a part.
#pragma once

#include "core/case/quantity.h"

#include <vector>

namespace pyro {

// A place within one triangle of the surface: node values are weighted, cell values are those of the cell behind it.
struct SurfacePlace {
    std::size_t part;
    std::vector<std::uint32_t> nodes; // of the part
    std::vector<double> weights;      // of these, sum to 1
    std::uint32_t cell = 0;           // of the part
    std::array<Point, 3> corner{};    // of the triangle
};

struct PlaceReading {
    const Quantity* quantity;
    double value;   // SI, the magnitude of vectors; NaN where the stored value is
    char along = 0; // 'x', 'y' or 'z' of a quantity that is told along the axes, one reading each
};

// In the order of `quantities`; those that the part does not have are left out.
std::vector<PlaceReading> readPlace(const Case& solved, const QuantityList& quantities, const SurfacePlace& place);

} // namespace pyro

// All quantities of a case at one place on the outer surface of a part.
#pragma once

#include "core/case/quantity.h"

namespace pyro {

// A place within one triangle of the surface: node values are weighted, cell values are those of the cell behind it.
struct SurfacePlace {
    std::size_t part;
    std::array<std::uint32_t, 3> nodes{}; // of the part
    std::array<double, 3> weights{};      // sum to 1
    std::uint32_t cell = 0;               // of the part
};

struct PlaceReading {
    const Quantity* quantity;
    double value; // SI, the magnitude of vectors; NaN where the stored value is
    char along = 0; // 'x', 'y' or 'z' of a quantity that is told along the axes, one reading each
};

// In the order of `quantities`; those that the part does not have are left out.
std::vector<PlaceReading> readPlace(const Case& solved, const QuantityList& quantities, const SurfacePlace& place);

} // namespace pyro

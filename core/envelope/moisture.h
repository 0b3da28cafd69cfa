// Whether a plane element stays dry: its inner surface and its inside against the dew point of the room's air.
#pragma once

#include "core/envelope/plane_layers.h"

namespace pyro {

enum class SurfaceMoisture { Dry, Mould, Condensation };

struct Moisture {
    double surface = 0;  // K, of the inner surface
    double dewPoint = 0; // K
    double mould = 0;    // K, below which mould can grow
    SurfaceMoisture state = SurfaceMoisture::Dry;
    // m from the inner surface, where the steady state falls to the dew point: 0 where the surface itself is at or
    // below it; nothing where no place in the element is.
    std::optional<double> depth;

    std::string text() const; // two sentences
};

// `inside` and `outside` in K, `humidity` of the air inside, 0 to 1. Source: ISO 13788, 5.3; steady state by ISO 6946.
// Errors: as dewPoint.
Result<Moisture> moistureOf(const PlaneElement& element, double inside, double outside, double humidity);

} // namespace pyro

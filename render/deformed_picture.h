// Outer faces moved by a displacement field, which may be another case's on the same mesh.
#pragma once

#include "render/surface.h"

namespace pyro {

struct DeformedPicture {
    std::vector<std::vector<float>> shift; // per part: m, 3 per node of its surface; empty: it is not moved
    double largest = 0;                    // m, over the surfaces
    double factor = 1;                     // of the shift, as drawn
    std::vector<std::string> unmoved;      // parts that the field is not known of
    std::string why;                       // nothing is moved
};

// `moved`: the case that the field is of; `quantity`: a vector of lengths on its nodes. Parts are matched by name and
// number of nodes. `factor`: nothing makes the largest shift a twentieth of the box around all parts.
DeformedPicture makeDeformed(const FieldPicture& picture, const OpenedCase& moved, const Quantity& quantity,
                             std::optional<double> factor);

// The points of a part's surface at a share of its shift.
std::vector<float> deformedPoints(const PartSurface& surface, const std::vector<float>& shift, double scale);

} // namespace pyro

// A surface that is not part of the mesh, divided by the cells it passes through.
#pragma once

#include "core/gauge/places.h"

namespace pyro {

using Triangle = std::array<Point, 3>; // metres; its normal by the right-hand rule

struct DividedSurface {
    SurfacePlaces places; // facets within one cell each, and corners of the pieces as nodes
    double area = 0;      // m2, of all triangles
    double inside = 0;    // m2, within the mesh
};

// Every triangle is cut exactly by the cells of the parts it meets, so that readings do not depend on how the surface
// is divided into triangles. What lies in faces of the mesh is read from one side. Places outside of the mesh are left
// out.
DividedSurface divided(const Case& solved, const CaseIndex& index, std::span<const Triangle> triangles,
                       std::span<const std::uint32_t> parts);

} // namespace pyro

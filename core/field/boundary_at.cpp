#include "core/field/boundary_at.h"

#include "core/field/face_lookup.h"

namespace pyro {

std::optional<std::size_t> boundaryAt(const Case& solved, const CaseIndex& index, std::size_t part, std::uint32_t cell,
                                      const Point& place) {
    std::optional<std::size_t> nearest;
    double least = 0;
    for (std::size_t boundary = 0; boundary < solved.boundaries.size(); ++boundary) {
        const auto& behind = index.boundaries[boundary];
        const auto& mesh = solved.boundaries[boundary].mesh;
        for (std::size_t face = 0; face < behind.cell.size(); ++face) {
            if (behind.cell[face] != cell || behind.part[face] != part)
                continue;
            // From the face's plane, and a little from its middle: of two faces in one plane the one that holds the
            // place.
            const auto off = minus(place, centroid(mesh, mesh.cell(face)));
            const double across = off[0] * behind.normal[3 * face] + off[1] * behind.normal[3 * face + 1] +
                                  off[2] * behind.normal[3 * face + 2];
            const double distance = std::abs(across) + 1e-3 * std::sqrt(dot(off, off));
            if (!nearest || distance < least) {
                nearest = boundary;
                least = distance;
            }
        }
    }
    return nearest;
}

} // namespace pyro

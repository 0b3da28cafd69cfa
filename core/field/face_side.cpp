#include "core/field/face_side.h"

#include "core/field/face_lookup.h"
#include "core/field/straight_pieces.h"
#include "core/field/vector_algebra.h"

namespace pyro {

Point intoCell(const Mesh& mesh, std::size_t cell, std::span<const std::uint32_t> ring) {
    const auto* lattice = latticeOf(mesh, cell);
    if (lattice == nullptr)
        return minus(mesh.cellCentre(cell), centroid(mesh, ring));
    const auto ids = mesh.cell(cell);
    LocalPoint face{};
    for (const auto node : ring) {
        const auto at = lattice->place(static_cast<std::size_t>(std::ranges::find(ids, node) - ids.begin()));
        for (std::size_t axis = 0; axis < 3; ++axis)
            face[axis] += at[axis] / static_cast<double>(ring.size());
    }
    const auto inwards = minus(lattice->centre(), face);
    std::vector<double> values(ids.size());
    std::vector<LocalPoint> slopes(ids.size());
    lattice->shape(face, values, slopes);
    Point out{};
    for (std::size_t i = 0; i < ids.size(); ++i) {
        const double along = dot(slopes[i], inwards);
        const auto node = mesh.node(ids[i]);
        for (std::size_t axis = 0; axis < 3; ++axis)
            out[axis] += along * node[axis];
    }
    return out;
}

Point outOfCell(const Point& normal, const Mesh& mesh, std::size_t cell, std::span<const std::uint32_t> ring) {
    return dot(normal, intoCell(mesh, cell, ring)) > 0 ? Point{-normal[0], -normal[1], -normal[2]} : normal;
}

} // namespace pyro

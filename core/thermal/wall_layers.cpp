#include "core/thermal/wall_layers.h"

#include "core/field/vector_algebra.h"

namespace pyro {

std::optional<double> secondLayerHeat(const PartFields& fields, const ShellAreas& areas, std::size_t part,
                                      std::span<const std::uint32_t> faces) {
    const auto slope = fields.field(part, "temperature_gradient", Location::Cell);
    const auto conductivity = fields.field(part, "conductivity");
    if (!slope || !conductivity || slope->isConstant())
        return std::nullopt;
    const auto& mesh = fields.solved().parts[part].mesh;
    const auto& shell = fields.index().parts[part].shell;
    const auto& locator = fields.index().search->locator(part);
    double whole = 0;
    double told = 0;
    double heat = 0;
    for (const auto face : faces) {
        const auto& normal = areas.normal[face];
        const auto& centre = areas.centre[face];
        const double area = areas.face[face];
        whole += area;
        const double half = dot(minus(centre, mesh.cellCentre(shell.cell[face])), normal); // of the first cell
        Point inside = centre;
        for (std::size_t axis = 0; axis < 3; ++axis)
            inside[axis] -= 3 * half * normal[axis];
        const auto found = half > 0 ? locator.find(inside) : std::nullopt;
        if (!found || found->cell == shell.cell[face])
            continue;
        const auto place = slope->on == Location::Cell ? std::size_t{found->cell}
                                                       : std::size_t{mesh.cell(found->cell)[0]};
        const double along = slope->at(place, 0) * normal[0] + slope->at(place, 1) * normal[1] +
                             slope->at(place, 2) * normal[2];
        const auto where = conductivity->isConstant()           ? 0
                           : conductivity->on == Location::Cell ? std::size_t{found->cell}
                                                                : std::size_t{mesh.cell(found->cell)[0]};
        heat -= conductivity->along(where, normal) * along * area;
        told += area;
    }
    return told > 0.5 * whole && whole > 0 ? std::optional(heat * whole / told) : std::nullopt;
}

} // namespace pyro

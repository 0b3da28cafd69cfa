#include "core/thermal/stored_heat.h"

#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

// Mean of a field over a cell; over its nodes for one that is stored there.
double inCell(const PartField& field, const Mesh& mesh, std::size_t cell) {
    if (field.isConstant() || field.on == Location::Cell)
        return field.at(cell);
    const auto nodes = mesh.cell(cell);
    double sum = 0;
    for (const auto node : nodes)
        sum += field.at(node);
    return sum / static_cast<double>(nodes.size());
}

bool isOn(const PartField& field, Location on) { return field.isConstant() || field.on == on; }

} // namespace

Result<double> storedIn(const PartFields& fields, std::size_t part, const Transience& transience) {
    if (!transience.changes)
        return 0;
    const auto& region = fields.solved().parts[part];
    if (transience.before == nullptr || !(transience.seconds > 0))
        return fail(ErrorCode::NotSupported, "the field changes with time, and there is no step before", region.name);
    const auto on = fields.temperatureOn(part, Location::Cell) && transience.before->temperatureOn(part, Location::Cell)
                        ? Location::Cell
                        : Location::Node;
    const auto now = fields.temperatureOn(part, on);
    const auto before = transience.before->temperatureOn(part, on);
    if (!now || !before || now->values.size() != before->values.size())
        return fail(ErrorCode::NotSupported, "its temperature is not stored alike in the step before", region.name);
    const auto density = fields.field(part, "density");
    const auto capacity = fields.field(part, "heat_capacity");
    if (!density || !capacity)
        return tl::unexpected((density ? capacity : density).error());
    const auto& index = fields.index().parts[part];
    double sum = 0;
    if (on == Location::Node && isOn(*density, on) && isOn(*capacity, on)) {
        for (std::size_t node = 0; node < index.nodeShare.size(); ++node)
            sum += index.nodeShare[node] * density->at(node) * capacity->at(node) * (now->at(node) - before->at(node));
    } else {
        for (std::size_t cell = 0; cell < index.cellMeasure.size(); ++cell)
            sum += index.cellMeasure[cell] * inCell(*density, region.mesh, cell) *
                   inCell(*capacity, region.mesh, cell) *
                   (inCell(*now, region.mesh, cell) - inCell(*before, region.mesh, cell));
    }
    if (!std::isfinite(sum))
        return fail(ErrorCode::NotSupported,
                    "its temperature, density or heat capacity is not a finite number everywhere", region.name);
    return sum / transience.seconds;
}

} // namespace pyro

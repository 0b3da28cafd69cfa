// The heat through a wall as the second layer of cells behind it tells it: how much the plain gradient next to the wall
// is worth.
#pragma once

#include "core/thermal/shell_heat.h"

namespace pyro {

// W out of the part through some faces of its shell, by the temperature gradient three half cells inwards. Nothing
// where that cannot be told for most of their area; what is missing elsewhere is taken in proportion.
std::optional<double> secondLayerHeat(const PartFields& fields, const ShellAreas& areas, std::size_t part,
                                      std::span<const std::uint32_t> faces);

} // namespace pyro

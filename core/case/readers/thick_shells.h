// Parts of shells whose thickness the survey tells, made the solids that they stand for: half of the thickness to each
// side, mitred where faces meet at an angle.
#pragma once

#include "core/case/readers/intake.h"

#include <map>
#include <span>

namespace pyro {

struct ThickShells {
    // metres, of each grid; 0: it is none of shells with a thickness, and stays as it is
    std::vector<double> thickness;
    // edges at which three faces and more meet, or two that cannot have one side in common: they are apart there
    std::uint64_t torn = 0;
    std::uint64_t steps = 0; // places at which parts of different thickness meet
    std::uint64_t sharp = 0; // nodes at folds so sharp that the mitre is cut off
};

// Grids become those of solids, and lines along their edges those of faces; boundaries of faces on them come to lie on
// the side that they look to. `thickness` is by the name of the part. Errors: as madeDeep.
Result<ThickShells> thickenShells(std::span<NamedGrid> grids, const std::map<std::string, double>& thickness);

} // namespace pyro

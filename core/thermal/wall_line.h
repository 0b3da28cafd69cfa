// Wall heat flux and wall temperature at places on a boundary.
#pragma once

#include "core/thermal/case_heat.h"

namespace pyro {

struct WallLine {
    std::vector<double> flux;   // W/m2 out of the part, per point of the site; interpolated between the wall's nodes
    std::vector<double> kelvin; // of the wall there
    HeatMethod method = HeatMethod::Gradient;
};

// For a point or line with its boundaries beside it; each place is taken on the nearest face. Errors: as
// CaseHeat::through.
Result<WallLine> wallLine(const Site& site, const CaseHeat& heat, std::optional<HeatMethod> wanted);

// Out of the boundary's part at the face nearest to each place.
std::vector<Point> wallNormals(const Site& site, const CaseHeat& heat);

} // namespace pyro

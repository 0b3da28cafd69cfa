// Heat and mass balances of parts, and what passes each boundary.
#pragma once

#include "core/thermal/case_heat.h"
#include "core/thermal/readings.h"

#include <algorithm>
#include <cmath>

namespace pyro {

// The integral of the heat source over a part, W; nothing where it is not known.
std::optional<double> producedIn(const PartFields& fields, std::size_t part);

// Whether a source is known anywhere in a part.
bool producesHeat(const PartFields& fields, std::size_t part);

// Heat through all outer faces of a part against what it produces and stores. Faces on a boundary that has a flux of its own
// take that one, the others the best method at hand.
// `faces`: takes the heat through each outer face, W out of the part; empty where it is not known.
PartBalance partBalance(const CaseHeat& heat, std::size_t part, std::vector<double>* faces = nullptr);

// Temperature differences and resistances of links, from the parts' volume means and the environments.
void fillDifferences(Balances& balances, const std::vector<RegionReading>& parts, const std::vector<Environment>& environments);

// The heat of all parts together, W: what is produced and enters against what leaves and is stored.
struct WholeHeat {
    double in = 0;
    double out = 0;
    double open() const { return std::max(in, out) > 0 ? std::abs(in - out) / std::max(in, out) : 0; } // share left over
    std::string text() const; // "22.8 W in, 22.8 W out, 0.000 % open"
};
// From the readings, for the check, the status line and the report alike. What is not known of a part is not known of the whole, but where
// fluxes stored on all boundaries close it. Errors: NotSupported with the part or boundary that lacks something.
Result<WholeHeat> wholeHeat(const Readings& readings);

struct MassThrough {
    double in = 0; // kg/s, positive
    double out = 0;
};
// Through the boundaries of one part. Errors: no velocity, no density.
Result<MassThrough> massThrough(const PartFields& fields, std::size_t part);

BoundaryFlow boundaryFlow(const CaseHeat& heat, std::size_t boundary);

// Of all parts and boundaries. Errors: Cancelled.
Result<Balances> balancesOf(const CaseHeat& heat, Progress& progress);

} // namespace pyro

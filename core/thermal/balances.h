// Heat and mass balances of parts, and what passes each boundary.
#pragma once

#include "core/readings/readings.h"
#include "core/thermal/case_heat.h"

#include <algorithm>
#include <cmath>
#include <set>

namespace pyro {

// The integral of the heat source over a part, W; nothing where it is not known.
std::optional<double> producedIn(const PartFields& fields, std::size_t part);

// Whether a source is known anywhere in a part.
bool producesHeat(const PartFields& fields, std::size_t part);

// Heat through all outer faces of a part against what it produces and stores. Faces on a boundary that has a flux of
// its own take that one, the others the best method at hand. `faces`: takes the heat through each outer face, W out of
// the part; empty where it is not known.
PartBalance partBalance(const CaseHeat& heat, std::size_t part, std::vector<double>* faces = nullptr);

// Temperature differences and resistances of links, from the parts' volume means and the environments.
void fillDifferences(Balances& balances, const std::vector<RegionReading>& parts,
                     const std::vector<Environment>& environments);

struct MassThrough {
    double in = 0; // kg/s, positive
    double out = 0;
};
// Through the boundaries of one part. Errors: no velocity, no density.
Result<MassThrough> massThrough(const PartFields& fields, std::size_t part);

// W through the faces of a boundary that leads out of the parts of `from`: out of the case, or over to a part that is
// none of them. `walls`: takes the pairs of one of them and one that is none, between which faces lie.
double conductedOut(const CaseHeat& heat, std::size_t boundary, const FacetHeat& through, const std::vector<bool>& from,
                    std::set<std::pair<std::uint32_t, std::uint32_t>>* walls = nullptr);

// What leaves the case through all boundaries together: heat but for what goes from one part to another, mass, volume
// and area. What one of them does not tell is not told of all.
BoundaryFlow flowOfAll(const Balances& balances);

BoundaryFlow boundaryFlow(const CaseHeat& heat, std::size_t boundary);

// Of all parts and boundaries. Errors: Cancelled.
Result<Balances> balancesOf(const CaseHeat& heat, Progress& progress);

} // namespace pyro

// The way heat takes from a hot place to where it leaves the case, with what it loses in temperature on each leg.
#pragma once

#include "core/readings/readings.h"

namespace pyro {

enum class LegKind {
    Within,   // a part
    Across,   // an interface of two parts
    Outwards, // from a boundary's surface to its environment
};

struct PathLeg {
    LegKind kind = LegKind::Within;
    std::string from; // the part
    std::string to;   // the other part or the boundary; empty within a part
    double heat = 0;  // W that take this leg
    // of the heat that leaves the hot part, when every part passes it on in proportion
    double share = 0;
    std::optional<double> drop;       // K; nothing where a temperature is not known
    std::optional<double> resistance; // K/W, drop over heat
};

struct HeatPath {
    std::vector<PartLink> neighbours;       // links over which heat leaves the hot part, by falling share
    std::vector<PathLeg> legs;              // along the largest link of each part, as far as it goes
    std::optional<std::size_t> largestDrop; // the leg with the largest drop
};

// `hottest`: temperature at the hot place, K. Drops run from there to the mean temperature of the face where heat
// leaves the part, across the interface, and on from the mean of the face where it enters the next part. It ends at a
// boundary, or where a part would be passed twice. Errors: NotSupported without balances, or when no heat leaves the
// part.
Result<HeatPath> heatPath(const Readings& readings, const std::string& part, double hottest);

} // namespace pyro

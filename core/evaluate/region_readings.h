// The lowest, mean and highest value of any quantity in every part and on every boundary.
#pragma once

#include "core/evaluate/evaluate.h"

namespace pyro {

struct RegionValue {
    std::string name;
    bool boundary = false;
    std::optional<double> min;  // SI
    std::optional<double> mean; // weighted by volume or area
    std::optional<double> max;
    std::optional<Place> lowest;
    std::optional<Place> highest;
    std::string why; // set when there are no values
};

// Parts first, in the order of the case, then boundaries. `component`: Natural is the magnitude of a vector in parts,
// its normal part on boundaries. The case must be measured. Stops early, with what it has, when it is cancelled.
std::vector<RegionValue> readRegions(const OpenedCase& opened, const Quantity& quantity, Component component,
                                     Progress& progress);

// The size of a region as people read it: "12.1 cm3"; of a plane case the area of a part, the length of a boundary.
std::string extentText(const Case& solved, const Region& region, double size);

} // namespace pyro

// The quantities a gauge can be of, for lists to choose from: grouped, with the reason where one cannot be read at its
// place.
#pragma once

#include "core/case/quantity.h"
#include "core/gauge/gauge.h"

namespace pyro {

struct OfferedQuantity {
    std::string name;
    std::string group; // "stored in the case", "heat", "wall film", "flow", "extents", "transmittances"
    std::string why;   // empty: can be read
    int groupAt = 0;   // position of the group in the order above
};
// Within each group those that can be read first; the groups in the order above.
std::vector<OfferedQuantity> offeredQuantities(const Gauge& gauge, const QuantityList& stored);

} // namespace pyro

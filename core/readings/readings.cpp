#include "core/readings/readings.h"

#include "core/readings/estimate_reading.h"

namespace pyro {

Verdict Readings::verdict() const { return verdictOf(limits); }

std::vector<LimitReading> Estimate::readings() const {
    std::vector<LimitReading> all;
    for (const auto& one : limits)
        all.push_back(one.reading);
    return all;
}

Verdict Estimate::verdict() const { return verdictOf(readings()); }

} // namespace pyro

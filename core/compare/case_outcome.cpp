#include "core/compare/case_outcome.h"

#include <algorithm>

namespace pyro {

const GaugeReading* gaugeOf(const CaseOutcome& outcome, const std::string& id) {
    if (const auto over = std::ranges::find(outcome.overSteps, id, &GaugeReading::id); over != outcome.overSteps.end())
        return &*over;
    if (outcome.readings == nullptr)
        return nullptr;
    const auto found = std::ranges::find(outcome.readings->gauges, id, &GaugeReading::id);
    return found == outcome.readings->gauges.end() ? nullptr : &*found;
}

} // namespace pyro

// What one case of a survey has told, as comparisons of several take it.
#pragma once

#include "core/readings/readings.h"

#include <string>
#include <vector>

namespace pyro {

struct CaseOutcome {
    std::string name;
    const Readings* readings = nullptr;  // of the step that is compared; null: there are none
    std::vector<GaugeReading> overSteps; // of the gauges that run over all steps
    std::vector<LimitReading> limits;    // the worst over the steps, in the order of the survey
    std::string why;                     // set when the case could not be read
    double cells = 0;                    // of all parts, as in the file; 0: not known
    bool plane = false;                  // a case in two dimensions
};

// The gauge's reading, over all steps where there is one; null for a case that has none of this name.
const GaugeReading* gaugeOf(const CaseOutcome& outcome, const std::string& id);

} // namespace pyro

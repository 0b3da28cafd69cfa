// What drives the temperatures of a linear case: the temperatures beyond its boundaries and the heat put into it.
#pragma once

#include "core/case/quantity.h"
#include "core/readings/readings.h"

#include <map>

namespace pyro {

struct HeatCauses {
    std::map<std::string, double> temperatures; // K, by boundary: its environment, or what flows in there
    std::map<std::string, double> produced;     // W, by part
    std::map<std::string, double> imposed;      // W into the case, by boundary: an even flux
    double accuracy = 0.01;                     // K, of the temperatures
    std::string lacking;                        // set when there is more that is not known

    bool haveOneTemperature() const; // within `accuracy`; so have none at all
};

// From readings with their balances; without them everything is lacking.
HeatCauses causesOf(const Case& solved, const QuantityList& quantities, const Readings& readings);

} // namespace pyro

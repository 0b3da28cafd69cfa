// The survey's materials as layers name them.
#pragma once

#include "core/envelope/transmittance.h"
#include "core/survey/survey.h"

namespace pyro {

// Those that have a conductivity.
inline std::vector<NamedConductivity> conductivitiesOf(const Survey& survey) {
    std::vector<NamedConductivity> all;
    for (const auto& [name, material] : survey.materials)
        if (material.conductivity)
            all.push_back({name, material.conductivity->si});
    return all;
}

} // namespace pyro

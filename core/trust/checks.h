// The questions that are put to a case before anyone believes it. Each is cheap against the balances, on which several
// rest.
#pragma once

#include "core/thermal/case_heat.h"
#include "core/readings/readings.h"
#include "core/readings/check.h"
#include "core/case/solver_history.h"

#include <map>

namespace pyro {

struct TrustInput {
    const CaseHeat& heat;
    const Readings& readings;                       // with their balances, environments and limits
    std::map<std::string, double> powers;           // W, that the survey gives parts
    std::map<std::string, std::string> labels = {}; // of parts, for people
    std::optional<double> symmetry = {};            // factor that the survey states
    std::vector<std::string> symmetric = {};        // boundaries that are noted as planes of symmetry
    const SolverHistory* history = nullptr;         // null: none is known
    const std::vector<Limit>* limits = nullptr;     // of the survey

    const std::string& shown(const std::string& part) const {
        const auto label = labels.find(part);
        return label == labels.end() ? part : label->second;
    }
};

// All of them, the broken ones first, then those worth a look, those unknown, those that held; otherwise in the order
// in which one asks. Errors: Cancelled.
Result<std::vector<Check>> checksOf(const TrustInput& input, Progress& progress);

// Plausible values: everything finite; a range that fits its unit; no extreme within a part that has no source (maximum
// principle of steady conduction); powers that agree with the sources and with the heat that leaves.
std::vector<Check> valueChecks(const TrustInput& input);
// Conservation: heat of every part and of the whole, mass of every fluid, adiabatic faces that leak.
std::vector<Check> conservationChecks(const TrustInput& input);
// Contacts: parts that nearly touch, that touch without passing heat, whose temperature jumps; parts that are alone.
std::vector<Check> contactChecks(const TrustInput& input);
// Convergence: whether every column of the solver's history has settled.
std::vector<Check> convergenceChecks(const TrustInput& input);
// Resolution: cells across which the temperature changes by a large share of its range, distorted ones, thin regions.
std::vector<Check> meshChecks(const TrustInput& input);
// Whether the case is cut by planes of symmetry, and the whole is told.
Check symmetryCheck(const TrustInput& input);
// Coverage: conductivities, names, faces without a boundary, limits.
std::vector<Check> coverageChecks(const TrustInput& input);

} // namespace pyro

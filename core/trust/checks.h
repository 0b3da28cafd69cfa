// The questions that are put to a case before anyone believes it. Each is cheap against the balances, on which several
// rest.
#pragma once

#include "core/case/solver_history.h"
#include "core/limits/limit.h"
#include "core/readings/readings.h"
#include "core/thermal/case_heat.h"

#include <map>
#include <memory>
#include <span>

namespace pyro {

class Contacts;

struct TrustInput {
    const CaseHeat& heat;
    const Readings& readings;                              // with their balances, environments and limits
    std::map<std::string, double> powers;                  // W, that the survey gives parts
    std::map<std::string, std::string> labels = {};        // of parts, for people
    std::optional<double> symmetry = {};                   // factor that the survey states
    std::vector<std::string> symmetric = {};               // boundaries that are noted as planes of symmetry
    const SolverHistory* history = nullptr;                // null: none is known
    const std::vector<Limit>* limits = nullptr;            // of the survey
    std::size_t meshes = 1;                                // of this case, that the survey holds against each other
    mutable std::shared_ptr<const Contacts> contacts = {}; // found when first asked for

    const std::string& shown(const std::string& part) const {
        const auto label = labels.find(part);
        return label == labels.end() ? part : label->second;
    }
};

// One question. Each is described in one file here, with a line in list.inc.
struct CheckKind {
    std::string_view key;                               // stable, in files: "part-balance"
    std::string_view title;                             // for people: "Heat balance of every part"
    std::string_view figure = {};                       // what is told when nothing was found
    std::string_view threshold;                         // "below 1 %"
    std::string_view meaning;                           // one sentence: what it means
    bool (*applies)(const TrustInput& input) = nullptr; // null: always; what does not apply is not listed
    // Fills state and figure of a check that has passed so far.
    void (*answer)(const TrustInput& input, Check& check) = nullptr;
    // Instead, where it is asked several times, as of every fluid.
    std::vector<Check> (*answers)(const TrustInput& input, const Check& unanswered) = nullptr;
};

#define CHECK(name) extern const CheckKind name##Check;
#include "core/trust/list.inc"
#undef CHECK

std::span<const CheckKind* const> checkKinds();

// Broken ones first, then those worth a look, those unknown, those that held; otherwise as they were.
void sortChecks(std::vector<Check>& checks);

// All of them in the order of sortChecks, otherwise in that in which one asks. Errors: Cancelled.
Result<std::vector<Check>> checksOf(const TrustInput& input, Progress& progress);

} // namespace pyro

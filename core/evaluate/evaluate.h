// evaluate: the one evaluation behind window, command line and report.
#pragma once

#include "core/case/solver_history.h"
#include "core/field/opened_case.h"
#include "core/readings/readings.h"
#include "core/survey/survey.h"

#include <functional>

namespace pyro {

// What an evaluation may know beyond the step itself.
struct StepContext {
    bool changes = false;                             // the case has several times: heat is stored between them
    const OpenedCase* before = nullptr;               // the step before, on the same mesh
    double sinceBefore = 0;                           // s
    bool balances = false;                            // whether the balances of all parts and boundaries are wanted
    std::shared_ptr<const SolverHistory> solver = {}; // what the solver told on its way, for the checks
    bool checks = true;                               // with the balances
    // Another case of the survey, for estimates; empty: none can be had. Called from the working thread.
    std::function<Result<OpenedCase>(const CaseEntry&, Progress&)> otherCase = {};
    // The same at a time (nothing: the last step), for gauges that subtract its field.
    std::function<Result<CaseAtTime>(const CaseEntry&, std::optional<double> time, Progress&)> otherAtTime = {};
    // Measured data of the case; nothing: they are read from their files.
    std::optional<std::vector<std::shared_ptr<const MeasuredTable>>> measured = {};
    std::filesystem::path folder = {}; // of the survey: surfaces from files are looked for there
    OpenOptions open = {};
};

// Pure: the same survey, case and step give the same readings. `entry` is the survey's entry for this case.
// What cannot be read says why in its row. Errors: WrongUnit for a quantity choice that does not fit; Cancelled.
Result<Readings> evaluate(const Survey& survey, const CaseEntry& entry, const OpenedCase& opened, const Step& step,
                          Progress& progress, const StepContext& context = {});

} // namespace pyro

// evaluate: the one evaluation behind window, command line and report.
#pragma once

#include "core/case/series.h"
#include "core/survey/survey.h"
#include "core/thermal/readings.h"
#include "core/trust/solver_history.h"

#include <functional>

namespace pyro {

// A solved case ready to be evaluated. Shared and immutable.
struct OpenedCase {
    std::shared_ptr<const Case> solved;
    std::shared_ptr<const CaseIndex> index;
};

// Opens a step with its outer faces only: enough for a first picture, not for an evaluation. Errors: as openCase.
Result<OpenedCase> openForPicture(const StepFile& step, const OpenOptions& options, Progress& progress);

// The same case with all that is derived from its mesh. Errors: as indexOf.
Result<OpenedCase> measured(const OpenedCase& opened, Progress& progress);

// Opens a case and its index. Errors: as openCase and indexOf.
Result<OpenedCase> openForEvaluation(const std::filesystem::path& file, const OpenOptions& options, Progress& progress);

// One step of a series. Where its mesh is that of `like` (which may be null), the index of `like` serves for both.
// Errors: as openForEvaluation.
Result<OpenedCase> openStep(const StepFile& step, const OpenedCase* like, const OpenOptions& options,
                            Progress& progress);

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
    std::filesystem::path folder = {}; // of the survey: surfaces from files are looked for there
    OpenOptions open = {};
};

// Pure: the same survey, case and step give the same readings. `entry` is the survey's entry for this case.
// What cannot be read says why in its row. Errors: WrongUnit for a quantity choice that does not fit; Cancelled.
Result<Readings> evaluate(const Survey& survey, const CaseEntry& entry, const OpenedCase& opened, const Step& step,
                          Progress& progress, const StepContext& context = {});

} // namespace pyro

// A solved case with what is derived from its mesh, opened in steps: for a picture, then for evaluation.
#pragma once

#include "core/case/series.h"
#include "core/field/case_index.h"

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

// A case at an instant: one step, or `share` of the way from one to the next.
struct CaseAtTime {
    OpenedCase before;
    std::optional<OpenedCase> after = {};
    double share = 0;
    std::string when = {}; // "between 20 s and 40 s"; empty: of one step
};

// `time`: nothing is the last step; a case of one step is that at any time. Errors: as openStep; NotSupported for a
// time that its steps do not reach.
Result<CaseAtTime> openAtTime(const Series& series, std::optional<double> time, const OpenOptions& options,
                              Progress& progress);

} // namespace pyro

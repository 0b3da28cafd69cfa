// Fields of other cases of the survey at the time of the one that is evaluated, opened when they are first asked for.
#pragma once

#include "core/compare/case_placement.h"
#include "core/evaluate/evaluate.h"
#include "core/thermal/measure_request.h"

namespace pyro {

class OtherCases {
public:
    // Everything given must outlive it. `own`: the case that others are read for.
    OtherCases(const Survey& survey, const StepContext& context, const PlacedCase& own, std::optional<double> time,
               Progress& progress);
    ~OtherCases();

    // Errors: NameUnknown for a case that the survey has not; as StepContext::otherAtTime.
    Result<OtherFields> fields(const std::string& caseName);

private:
    struct Held;
    Result<OtherFields> open(const std::string& caseName);

    const Survey& m_survey;
    const StepContext& m_context;
    PlacedCase m_own;
    std::optional<double> m_time;
    Progress& m_progress;
    std::map<std::string, std::unique_ptr<Held>> m_held;
};

} // namespace pyro

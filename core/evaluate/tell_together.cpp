#include "core/evaluate/survey_run.h"

namespace pyro {
namespace {

CaseOutcome outcomeOf(const CaseRun& run) {
    CaseOutcome out{.name = run.name, .readings = nullptr, .overSteps = run.overSteps, .limits = {}, .why = {}};
    out.limits = run.worstLimits();
    if (run.error)
        out.why = run.error->what;
    if (run.steps.empty())
        return out;
    out.readings = &run.steps.back();
    out.plane = out.readings->plane.has_value();
    for (const auto& part : out.readings->parts)
        out.cells += static_cast<double>(part.cells);
    return out;
}

std::vector<CaseOutcome> outcomesOf(const SurveyRun& run) {
    std::vector<CaseOutcome> outcomes;
    for (const auto& one : run.cases)
        outcomes.push_back(outcomeOf(one));
    return outcomes;
}

} // namespace

void tellTogether(const Survey& survey, SurveyRun& run) {
    const auto outcomes = outcomesOf(run);
    for (const auto& wish : survey.grids)
        run.grids.push_back(studyGrids(survey, wish, outcomes));
    for (auto& one : run.cases)
        for (auto& step : one.steps)
            addUncertainties(step.limits, run.grids, one.name);
    // with the verdicts as the meshes leave them
    run.compare = compareCases(survey, outcomesOf(run));
}

} // namespace pyro

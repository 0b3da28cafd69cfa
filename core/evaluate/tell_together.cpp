#include "core/evaluate/survey_run.h"
#include "core/trust/checks.h"

#include <algorithm>

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

void answerMeshConvergence(std::vector<Check>& checks, std::span<const GridStudy> studies,
                           const std::string& caseName) {
    const auto check = std::ranges::find(checks, "mesh-convergence", &Check::key);
    const auto answer = meshAnswerOf(studies, caseName);
    if (check == checks.end() || !answer)
        return;
    check->state = !answer->finest     ? CheckState::NotCheckable
                   : answer->converges ? CheckState::Passed
                                       : CheckState::Review;
    check->figure = answer->finest ? answer->figure : "a coarser mesh of a study; " + answer->figure;
    check->meaning = answer->meaning;
    sortChecks(checks);
}

// What was measured on a case held against all of its steps that were evaluated.
std::vector<MeasuredReading> measuredOf(const Survey& survey, const CaseRun& run, std::span<const GridStudy> grids) {
    std::vector<MeasuredReading> out;
    if (run.measuredSteps.empty())
        return out;
    const auto& last = run.measuredSteps.back();
    for (std::size_t at = 0; at < last.probes.size(); ++at) {
        std::vector<ProbedStep> probed;
        for (const auto& step : run.measuredSteps)
            if (at < step.probes.size())
                probed.push_back({step.time, &step.probes[at]});
        const auto& table = *last.probes[at].table;
        const auto wish = std::ranges::find(survey.measured, table.id, &MeasuredWish::id);
        double shift = 0;
        std::string note;
        if (wish != survey.measured.end() && wish->ambient && table.isTemperature) {
            if (!last.ambient)
                note = "the ambient of the case is not known, so that nothing is shifted to it";
            else if (!last.nonlinear.empty())
                note = "the ambients differ, but the case is not linear: " + last.nonlinear.front();
            else
                shift = *last.ambient - wish->ambient->si;
        }
        out.push_back(deviationsOf(table, probed, shift, run.name, grids));
        if (!note.empty())
            out.back().notes.push_back(note);
    }
    return out;
}

} // namespace

std::vector<MeasuredStep> measuredSteps(std::span<const Readings> steps) {
    std::vector<MeasuredStep> out;
    for (const auto& step : steps)
        if (!step.probes.empty())
            out.push_back({step.time, step.probes, step.ambient, step.nonlinear});
    return out;
}

void tellTogether(const Survey& survey, SurveyRun& run) {
    const auto outcomes = outcomesOf(run);
    for (const auto& wish : survey.grids)
        run.grids.push_back(studyGrids(survey, wish, outcomes));
    for (auto& one : run.cases)
        for (auto& step : one.steps) {
            addUncertainties(step.limits, run.grids, one.name);
            answerMeshConvergence(step.checks, run.grids, one.name);
        }
    for (auto& one : run.cases)
        one.measured = measuredOf(survey, one, run.grids);
    // with the verdicts as the meshes leave them
    run.compare = compareCases(survey, outcomesOf(run));
}

} // namespace pyro

#include "core/evaluate/survey_run.h"

#include "core/survey/survey_file.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

Result<std::vector<int>> wantedSteps(const Case& solved, const std::optional<int>& step) {
    const int count = static_cast<int>(solved.steps.size());
    if (!step)
        return std::vector<int>{count - 1};
    if (*step >= count)
        return fail(ErrorCode::NameUnknown, fmt::format("there is no step {}; the last one is {}", *step, count - 1),
                    solved.file, "Steps count from 0");
    if (*step >= 0)
        return std::vector<int>{*step};
    std::vector<int> all;
    for (int i = 0; i < count; ++i)
        all.push_back(i);
    return all;
}

Result<CaseRun> runCase(const Survey& survey, const CaseEntry& entry, const std::filesystem::path& surveyFile,
                        const RunOptions& options, Progress& progress) {
    CaseRun run{entry.name, caseFile(entry, surveyFile).string(), {}, {}};
    const auto opened = openForEvaluation(run.file, options.open, progress);
    if (!opened) {
        if (opened.error().cancelled())
            return tl::unexpected(opened.error());
        run.error = opened.error();
        return run;
    }
    const auto steps = wantedSteps(*opened->solved, options.step);
    if (!steps)
        return tl::unexpected(steps.error());
    for (const int step : *steps) {
        auto readings = evaluate(survey, entry, *opened, step, progress);
        if (!readings && readings.error().cancelled())
            return tl::unexpected(readings.error());
        if (!readings) {
            run.error = readings.error();
            return run;
        }
        run.steps.push_back(std::move(*readings));
    }
    return run;
}

bool isWorse(const LimitReading& a, const LimitReading& b) {
    if (a.verdict != b.verdict)
        return worse(a.verdict, b.verdict) == a.verdict;
    return a.margin.value_or(0) < b.margin.value_or(0);
}

} // namespace

std::vector<LimitReading> CaseRun::worstLimits() const {
    std::vector<LimitReading> worst;
    for (const auto& step : steps)
        for (std::size_t i = 0; i < step.limits.size(); ++i) {
            if (i >= worst.size())
                worst.push_back(step.limits[i]);
            else if (isWorse(step.limits[i], worst[i]))
                worst[i] = step.limits[i];
        }
    return worst;
}

Remarks CaseRun::remarks() const {
    Remarks all;
    for (const auto& step : steps)
        for (const auto& remark : step.remarks)
            if (std::ranges::none_of(all, [&](const Remark& known) {
                    return known.code == remark.code && known.text == remark.text && known.where == remark.where;
                }))
                all.push_back(remark);
    return all;
}

Verdict SurveyRun::verdict() const {
    std::optional<Verdict> together;
    const auto add = [&](Verdict verdict) { together = together ? worse(*together, verdict) : verdict; };
    for (const auto& run : cases) {
        if (run.error)
            add(Verdict::Unknown);
        for (const auto& limit : run.worstLimits())
            add(limit.verdict);
    }
    return together.value_or(Verdict::Unknown);
}

int SurveyRun::exitStatus() const {
    if (std::ranges::any_of(cases, [](const CaseRun& run) { return run.error.has_value(); }))
        return 2;
    bool unknown = false;
    for (const auto& run : cases)
        for (const auto& limit : run.worstLimits()) {
            if (limit.verdict == Verdict::Over)
                return 1;
            unknown = unknown || limit.verdict == Verdict::Unknown;
        }
    return unknown ? 4 : 0;
}

Result<SurveyRun> runSurvey(const Survey& survey, const std::filesystem::path& surveyFile, const RunOptions& options,
                            Progress& progress) {
    if (!options.onlyCase.empty() && survey.caseNamed(options.onlyCase) == nullptr)
        return fail(ErrorCode::NameUnknown, fmt::format("the survey has no case \"{}\"", options.onlyCase),
                    surveyFile.string(), "Check the name given with --case");
    SurveyRun run{surveyFile.string(), {}};
    for (const auto& entry : survey.cases) {
        if (!options.onlyCase.empty() && entry.name != options.onlyCase)
            continue;
        auto one = runCase(survey, entry, surveyFile, options, progress);
        if (!one)
            return tl::unexpected(one.error());
        run.cases.push_back(std::move(*one));
    }
    return run;
}

} // namespace pyro

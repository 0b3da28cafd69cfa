#include "core/evaluate/survey_run.h"

#include "core/survey/survey_file.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

Result<std::vector<StepFile>> wantedSteps(const Series& series, const std::optional<int>& step) {
    const int count = static_cast<int>(series.steps.size());
    if (!step)
        return std::vector<StepFile>{series.steps.back()};
    if (*step >= count)
        return fail(ErrorCode::NameUnknown, fmt::format("there is no step {}; the last one is {}", *step, count - 1),
                    series.steps.back().file.string(), "Steps count from 0");
    if (*step >= 0)
        return std::vector<StepFile>{series.steps[static_cast<std::size_t>(*step)]};
    return series.steps;
}

// Every step is read, evaluated and let go again, so that a long series needs no more room than two of its steps. A
// step that cannot be read does not keep the others from being evaluated; the first error is told.
Done runSteps(const Survey& survey, const CaseEntry& entry, const std::vector<StepFile>& steps, const RunOptions& options,
              CaseRun& run, Progress& progress) {
    std::optional<OpenedCase> last;
    Done done;
    for (std::size_t i = 0; i < steps.size(); ++i) {
        SubProgress one(progress, static_cast<double>(i) / static_cast<double>(steps.size()),
                        static_cast<double>(i + 1) / static_cast<double>(steps.size()));
        auto opened = openStep(steps[i], last ? &*last : nullptr, options.open, one);
        auto readings = opened ? evaluate(survey, entry, *opened, steps[i].step, one) : tl::unexpected(opened.error());
        if (!readings && readings.error().cancelled())
            return tl::unexpected(readings.error());
        if (readings)
            run.steps.push_back(std::move(*readings));
        else if (done)
            done = tl::unexpected(readings.error());
        if (opened)
            last = std::move(*opened);
    }
    return done;
}

Result<CaseRun> runCase(const Survey& survey, const CaseEntry& entry, const std::filesystem::path& surveyFile,
                        const RunOptions& options, Progress& progress) {
    CaseRun run{entry.name, caseFile(entry, surveyFile).string(), {}, {}};
    const auto series = seriesOf(run.file, entry.series, options.open, progress);
    Done done;
    if (series) {
        run.seriesRemarks = series->remarks;
        const auto steps = wantedSteps(*series, options.step);
        if (!steps)
            return tl::unexpected(steps.error());
        done = runSteps(survey, entry, *steps, options, run, progress);
    } else {
        done = tl::unexpected(series.error());
    }
    if (!done && done.error().cancelled())
        return tl::unexpected(done.error());
    if (!done)
        run.error = done.error();
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
    Remarks all = seriesRemarks;
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

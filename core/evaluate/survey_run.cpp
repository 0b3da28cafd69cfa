#include "core/evaluate/survey_run.h"

#include "core/evaluate/known_history.h"
#include "core/evaluate/over_steps.h"
#include "core/evaluate/probe_places.h"
#include "core/evaluate/sweep_run.h"
#include "core/limits/judge.h"
#include "core/quantities/gauge_keys.h"
#include "core/survey/survey_file.h"
#include "core/trust/settling_fit.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

OpenOptions opening(const CaseEntry& entry, OpenOptions options) {
    options.split = entry.wholeSplit();
    return options;
}

// First and last of the steps wanted, both included.
Result<std::array<std::size_t, 2>> wantedSteps(const Series& series, const std::optional<int>& step) {
    const auto last = series.steps.size() - 1;
    if (!step)
        return std::array{last, last};
    if (*step >= static_cast<int>(series.steps.size()))
        return fail(ErrorCode::Usage, fmt::format("there is no step {}; the last one is {}", *step, last),
                    series.steps.back().file.string(), "Steps count from 0");
    if (*step >= 0)
        return std::array{static_cast<std::size_t>(*step), static_cast<std::size_t>(*step)};
    return std::array{std::size_t{0}, last};
}

// Every step is read, evaluated and let go again, so that a long series needs no more room than two of its steps. A
// step that cannot be read does not keep the others from being evaluated; the first error is told.
class StepRunner {
public:
    StepRunner(const Survey& survey, const CaseEntry& entry, const Series& series, std::filesystem::path folder,
               const RunOptions& options)
        : m_survey(survey), m_entry(entry), m_series(series), m_options(options) {
        m_context.changes = changesWithTime(series);
        m_context.balances = options.balances;
        m_context.otherCase = [this](const CaseEntry& other, Progress& progress) {
            return openSteady(other, progress);
        };
        m_context.otherAtTime = [this](const CaseEntry& other, std::optional<double> time, Progress& progress) {
            return openOther(other, time, progress);
        };
        m_context.folder = std::move(folder);
        if (!survey.measured.empty())
            m_context.measured = measuredTablesOf(survey, entry, m_context.folder);
        m_context.open = options.open;
        if (options.balances)
            m_context.solver = knownHistory(entry, m_context.folder, series.steps.front().file, nullptr, m_remarks);
    }
    const Remarks& remarks() const { return m_remarks; }

    Done run(std::size_t from, std::size_t to, std::vector<Readings>& out, Progress& progress) {
        Done done;
        for (auto i = from; i <= to; ++i) {
            if (const auto* known = knownAt(m_series.steps[i])) {
                out.push_back(*known);
                out.back().step = m_series.steps[i].step.index;
                m_last.reset();
                continue;
            }
            if (i > 0 && m_context.changes && !m_last) { // what the step stores is told against the one before
                NoProgress quiet;
                take(m_series.steps[i - 1], openStep(m_series.steps[i - 1], nullptr, m_options.open, quiet));
            }
            const auto count = static_cast<double>(to - from + 1);
            SubProgress one(progress, static_cast<double>(i - from) / count, static_cast<double>(i - from + 1) / count);
            auto readings = runOne(m_series.steps[i], one);
            if (!readings && readings.error().cancelled())
                return tl::unexpected(readings.error());
            if (readings)
                out.push_back(std::move(*readings));
            else if (done)
                done = tl::unexpected(readings.error());
        }
        return done;
    }

private:
    // A case with one step only: of others it is not said which one belongs to this one's.
    Result<OpenedCase> openSteady(const CaseEntry& other, Progress& progress) const {
        const auto series = seriesOf(besideSurvey(other.file, m_context.folder), other.series,
                                     opening(other, m_options.open), progress);
        if (!series)
            return tl::unexpected(series.error());
        if (changesWithTime(*series))
            return fail(ErrorCode::NotSupported, "it changes with time", other.file);
        return openStep(series->steps.back(), m_last ? &*m_last : nullptr, m_options.open, progress);
    }
    Result<CaseAtTime> openOther(const CaseEntry& other, std::optional<double> time, Progress& progress) const {
        const auto series = seriesOf(besideSurvey(other.file, m_context.folder), other.series,
                                     opening(other, m_options.open), progress);
        if (!series)
            return tl::unexpected(series.error());
        return openAtTime(*series, changesWithTime(m_series) ? time : std::nullopt, opening(other, m_options.open),
                          progress);
    }
    const Readings* knownAt(const StepFile& step) const {
        if (!m_options.known || !step.step.time)
            return nullptr;
        const auto found = std::ranges::find(*m_options.known, step.step.time, &Readings::time);
        return found == m_options.known->end() ? nullptr : &*found;
    }
    Result<Readings> runOne(const StepFile& step, Progress& progress) {
        auto opened = openStep(step, m_last ? &*m_last : nullptr, m_options.open, progress);
        if (!opened)
            return tl::unexpected(opened.error());
        auto context = m_context;
        if (m_last && m_lastTime && step.step.time) {
            context.before = &*m_last;
            context.sinceBefore = *step.step.time - *m_lastTime;
        }
        auto readings = evaluate(m_survey, m_entry, *opened, step.step, progress, context);
        take(step, std::move(opened));
        return readings;
    }
    void take(const StepFile& step, Result<OpenedCase> opened) {
        m_lastTime = opened ? step.step.time : std::nullopt;
        if (!opened)
            return;
        m_last = std::move(*opened);
        if (m_options.balances && !m_context.solver && m_last->solved->monitored)
            m_context.solver = knownHistory(m_entry, m_context.folder, m_series.steps.front().file,
                                            m_last->solved.get(), m_remarks);
    }

    const Survey& m_survey;
    const CaseEntry& m_entry;
    const Series& m_series;
    const RunOptions& m_options;
    StepContext m_context;
    Remarks m_remarks; // on the history
    std::optional<OpenedCase> m_last;
    std::optional<double> m_lastTime;
};

// Gauges over time need every step, also when only some of them are wanted.
Done runSeries(const Survey& survey, const CaseEntry& entry, const Series& series, const std::filesystem::path& folder,
               const RunOptions& options, CaseRun& run, Progress& progress) {
    const auto wanted = wantedSteps(series, options.step);
    if (!wanted)
        return tl::unexpected(wanted.error());
    const auto [from, to] = *wanted;
    const bool measured = std::ranges::any_of(survey.measured, [&](const MeasuredWish& wish) {
        return wish.caseName == entry.name || (wish.caseName.empty() && &entry == &survey.cases.front());
    });
    const bool all = measured ||
                     std::ranges::any_of(survey.gauges, [](const Gauge& gauge) { return readsOverSteps(gauge); }) ||
                     std::ranges::any_of(survey.limits,
                                         [](const Limit& limit) { return limit.form->judgeHistory != nullptr; });
    StepRunner runner(survey, entry, series, folder, options);
    run.seriesRemarks.insert(run.seriesRemarks.end(), runner.remarks().begin(), runner.remarks().end());
    auto done = all ? runner.run(0, series.steps.size() - 1, run.steps, progress)
                    : runner.run(from, to, run.steps, progress);
    if (all) {
        run.overSteps = readOverSteps(survey.gauges, run.steps);
        judgeTogether(survey, run.overSteps, run.steps);
    }
    run.measuredSteps = measuredSteps(run.steps);
    std::erase_if(run.steps, [&](const Readings& readings) {
        return readings.step < static_cast<int>(from) || readings.step > static_cast<int>(to);
    });
    return done;
}

} // namespace

Result<CaseRun> runCase(const Survey& survey, const CaseEntry& entry, const std::filesystem::path& surveyFile,
                        const RunOptions& options, Progress& progress) {
    CaseRun run{entry.name, caseFile(entry, surveyFile).string(), {}, {}};
    auto series = seriesOf(run.file, entry.series, opening(entry, options.open), progress);
    Done done;
    if (series) {
        if (!options.lonePart.empty())
            for (auto& step : series->steps)
                step.partName = options.lonePart;
        run.seriesRemarks = series->remarks;
        done = runSeries(survey, entry, *series, surveyFile.parent_path(), options, run, progress);
    } else {
        done = tl::unexpected(series.error());
    }
    if (!done && (done.error().cancelled() || done.error().code == ErrorCode::Usage))
        return tl::unexpected(done.error());
    if (!done)
        run.error = done.error();
    return run;
}

std::vector<LimitReading> CaseRun::worstLimits() const { return pyro::worstLimits(steps); }

std::vector<MonitoredValue> CaseRun::settledOverSteps() const {
    return steps.size() < 2 ? std::vector<MonitoredValue>() : monitoredIn(historyOfSteps(steps));
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

std::vector<CaseVerdicts> SurveyRun::verdicts() const {
    std::vector<CaseVerdicts> all;
    for (const auto& run : cases)
        all.push_back({run.name, run.worstLimits(), run.error ? run.error->what : std::string()});
    return all;
}

Verdict SurveyRun::verdict() const { return verdictOfCases(verdicts()); }

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
    tellTogether(survey, run);
    if (options.onlyCase.empty()) {
        auto sweep = runSweep(survey, surveyFile, run, options, progress);
        if (!sweep)
            return tl::unexpected(sweep.error());
        run.sweep = std::move(*sweep);
    }
    return run;
}

} // namespace pyro

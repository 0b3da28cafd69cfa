#include "core/evaluate/sweep_run.h"

#include "core/evaluate/kept_case.h"

#include <atomic>
#include <fmt/format.h>
#include <mutex>
#include <thread>

namespace pyro {
namespace {

// One progress that several threads tell.
class CountedProgress final : public Progress {
public:
    CountedProgress(Progress& whole, std::size_t count) : m_whole(whole), m_count(count) {}
    void report(double, std::string_view) override {} // of one case: told when it is done
    bool cancelled() const override { return m_whole.cancelled(); }
    void done(const std::string& name) {
        const std::scoped_lock hold(m_lock);
        ++m_done;
        m_whole.report(static_cast<double>(m_done) / static_cast<double>(m_count),
                       fmt::format("{}, {} of {} cases", name, m_done, m_count));
    }

private:
    Progress& m_whole;
    std::size_t m_count;
    std::mutex m_lock;
    std::size_t m_done = 0;
};

SweepCase evaluated(const SweepPlan::Item& item, const Survey& survey, const std::filesystem::path& surveyFile,
                    const RunOptions& options, Progress& progress) {
    const KeptCase kept(survey, item.entry, surveyFile, options, item.lonePart);
    if (auto known = kept.load()) {
        known->name = item.entry.name;
        known->parameters = item.parameters;
        return std::move(*known);
    }
    auto own = options;
    own.lonePart = item.lonePart;
    auto run = runCase(survey, item.entry, surveyFile, own, progress);
    if (!run)
        return sweepCaseOf(item, CaseRun{item.entry.name, item.entry.file, run.error(), {}});
    auto out = sweepCaseOf(item, *run);
    if (out.why.empty())
        kept.store(out);
    return out;
}

} // namespace

SweepCase sweepCaseOf(const SweepPlan::Item& item, const CaseRun& run) {
    SweepCase out{item.entry.name, item.entry.file, item.parameters, {}, {}, {}};
    if (run.error)
        out.why = run.error->what;
    out.limits = run.worstLimits();
    if (run.steps.empty())
        return out;
    for (const auto* gauges : {&run.steps.back().gauges, &run.overSteps}) // those over all steps replace their own
        for (const auto& gauge : *gauges)
            if (!gauge.profile)
                out.gauges[gauge.id] = {gauge.value, gauge.unit, gauge.isTemperature};
    return out;
}

Result<std::optional<SweepReading>> runSweep(const Survey& survey, const std::filesystem::path& surveyFile,
                                             const SurveyRun& run, const RunOptions& options, Progress& progress) {
    auto plan = planSweep(survey, surveyFile.parent_path());
    if (!plan)
        return std::optional<SweepReading>();
    std::vector<SweepCase> cases(plan->items.size());
    CountedProgress counted(progress, cases.size());
    std::atomic<std::size_t> next = 0;
    const auto work = [&] {
        for (std::size_t at = next++; at < cases.size() && !counted.cancelled(); at = next++) {
            const auto& item = plan->items[at];
            const auto known = std::ranges::find(run.cases, item.entry.name, &CaseRun::name);
            if (!item.why.empty())
                cases[at] = {item.entry.name, item.entry.file, item.parameters, {}, {}, item.why};
            else if (known != run.cases.end())
                cases[at] = sweepCaseOf(item, *known);
            else
                cases[at] = evaluated(item, survey, surveyFile, options, counted);
            counted.done(item.entry.name);
        }
    };
    std::thread second(work); // two cases at a time: what they need stays below what three would
    work();
    second.join();
    if (counted.cancelled())
        return fail(ErrorCode::Cancelled, "the sweep was cancelled", surveyFile.string());
    return std::optional(analyse(survey, std::move(*plan), std::move(cases)));
}

} // namespace pyro

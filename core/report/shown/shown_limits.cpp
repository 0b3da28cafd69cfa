#include "core/limits/judge.h"
#include "core/report/estimate_text.h"
#include "core/report/limit_text.h"
#include "core/report/shown/shown_table.h"

#include <fmt/format.h>

namespace pyro {
namespace {

// What is judged, on what ground, or why it cannot be; when it is first over.
std::string aboutLimit(const Limit& limit, const LimitReading& reading) {
    std::vector<std::string> told;
    for (const auto& one : {limitWords(limit), reading.kind, reading.why.empty() ? reading.source : reading.why,
                            overTimeText(reading), meshText(reading)})
        if (!one.empty())
            told.push_back(one);
    return fmt::format("{}", fmt::join(told, "; "));
}

} // namespace

ShownTable shownLimits(const Survey& survey, const CaseEntry& entry, const std::vector<LimitReading>& limits,
                       const ReaderUnits& unit) {
    ShownTable table{
        {{"Verdict"}, {"Name"}, {"Value", true}, {"Allowed", true}, {"Margin", true}, {"Required", true}, {"Source"}},
        {}};
    for (const auto at : byMargin(limits)) {
        const auto& limit = limits[at];
        table.rows.push_back({std::string(verdictName(limit.verdict)), targetName(entry, limit.target),
                              limitLevel(limit, limit.value, unit), limitLevel(limit, limit.limit, unit),
                              marginText(limit, unit), limitDifference(limit, limit.required, unit),
                              at < survey.limits.size() ? aboutLimit(survey.limits[at], limit) : limit.source});
    }
    return table;
}

ShownTable shownEstimate(const Survey& survey, const CaseEntry& entry, const Estimate& estimate,
                         const ReaderUnits& unit) {
    ShownTable table{{{"Verdict"},
                      {"Name"},
                      {"Value", true},
                      {"Allowed", true},
                      {"Margin", true},
                      {"Ambient at limit", true},
                      {"Power at limit", true},
                      {""}},
                     {}};
    const auto readings = estimate.readings();
    for (const auto at : byMargin(readings)) {
        const auto& one = readings[at];
        table.rows.push_back({std::string(verdictName(one.verdict)), targetName(entry, one.target),
                              limitLevel(one, one.value, unit), limitLevel(one, one.limit, unit),
                              limitDifference(one, one.margin, unit), ambientAtLimit(estimate.limits[at], unit),
                              powerAtLimit(estimate.limits[at]),
                              one.verdict == Verdict::Unknown ? one.why : limitWords(survey.limits[at])});
    }
    return table;
}

} // namespace pyro

#include "core/report/estimate_text.h"

#include "core/limits/judge.h"
#include "core/report/limit_text.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

// Rounded down: what is told as allowed is allowed.
std::string percent(double share) { return fmt::format("{:.1f} %", std::floor(1000 * share + 1e-6) / 10); }

std::string joined(const std::vector<std::string>& words) { return fmt::format("{}", fmt::join(words, ", ")); }

std::string environmentsText(const Estimate& estimate, const ReaderUnits& unit) {
    std::vector<std::string> words;
    for (const auto& one : estimate.environments)
        words.push_back(fmt::format("{}{} {} to {}", one.boundary, one.isAmbient ? " (the ambient)" : "",
                                    formatTemperature({one.from}, unit), formatTemperature({one.to}, unit)));
    return words.empty() ? std::string() : "Moved alike: " + joined(words) + ".";
}

} // namespace

std::string estimateAt(const Estimate& estimate, const ReaderUnits& unit) {
    const auto power = estimate.power == 1 ? std::string() : percent(estimate.power) + " of the power";
    if (!estimate.ambient)
        return "at " + power;
    return fmt::format("at {}{}", formatTemperature({*estimate.ambient}, unit), power.empty() ? "" : " and " + power);
}

std::vector<std::string> estimateSentences(const Survey& survey, const CaseEntry& entry, const Estimate& estimate,
                                           const ReaderUnits& unit) {
    if (!estimate.why.empty())
        return {fmt::format("Not to be estimated: {}.", estimate.why)};
    std::vector<std::string> out;
    const auto over = std::ranges::count_if(
        estimate.limits, [](const EstimatedLimit& one) { return one.reading.verdict == Verdict::Over; });
    const auto unknown = std::ranges::count_if(
        estimate.limits, [](const EstimatedLimit& one) { return one.reading.verdict == Verdict::Unknown; });
    out.push_back(fmt::format("Estimated {}: {} of {} limits over{}.", estimateAt(estimate, unit), over,
                              estimate.limits.size(), unknown > 0 ? fmt::format(", {} unknown", unknown) : ""));
    if (estimate.firstByAmbient)
        out.push_back(fmt::format("{} meets its limit at an ambient of {}.",
                                  targetName(entry, survey.limits[*estimate.firstByAmbient].target),
                                  ambientAtLimit(estimate.limits[*estimate.firstByAmbient], unit)));
    if (estimate.firstByPower)
        out.push_back(fmt::format("{} of the power is allowed ({}).",
                                  powerAtLimit(estimate.limits[*estimate.firstByPower]),
                                  targetName(entry, survey.limits[*estimate.firstByPower].target)));
    else if (!estimate.whyNoPower.empty())
        out.push_back(fmt::format("Allowed power: {}.", estimate.whyNoPower));
    if (estimate.environments.size() > 1)
        out.push_back(environmentsText(estimate, unit));
    if (estimate.basis.size() > 1)
        out.push_back(fmt::format("Superposed from the cases {}.", joined(estimate.basis)));
    return out;
}

std::string ambientAtLimit(const EstimatedLimit& limit, const ReaderUnits& unit) {
    return limit.ambient.value ? formatTemperature({*limit.ambient.value}, unit) : "\u2013";
}

std::string powerAtLimit(const EstimatedLimit& limit) {
    return limit.power.value ? percent(*limit.power.value) : "\u2013";
}

} // namespace pyro

#include "core/evaluate/case_verdicts.h"

#include <optional>

namespace pyro {
Verdict verdictOfCases(const std::vector<CaseVerdicts>& cases) {
    std::optional<Verdict> together;
    const auto add = [&](Verdict verdict) { together = together ? worse(*together, verdict) : verdict; };
    for (const auto& one : cases) {
        if (!one.why.empty())
            add(Verdict::Unknown);
        for (const auto& limit : one.limits)
            add(limit.verdict);
    }
    return together.value_or(Verdict::Unknown);
}

std::map<Verdict, int> countOfCases(const std::vector<CaseVerdicts>& cases) {
    std::map<Verdict, int> count;
    for (const auto& one : cases) {
        if (!one.why.empty())
            ++count[Verdict::Unknown];
        for (const auto& limit : one.limits)
            ++count[limit.verdict];
    }
    return count;
}

std::vector<LimitReading> unreadLimits(const Survey& survey, const std::string& why) {
    std::vector<LimitReading> all;
    for (const auto& limit : survey.limits) {
        all.push_back(judgeLimit(limit, Readings{}));
        all.back().why = why;
    }
    return all;
}

std::vector<WorstOfCases> worstOfCases(const std::vector<CaseVerdicts>& cases) {
    std::vector<WorstOfCases> worst;
    for (std::size_t at = 0; at < cases.size(); ++at)
        for (std::size_t i = 0; i < cases[at].limits.size(); ++i) {
            const auto& limit = cases[at].limits[i];
            if (i >= worst.size())
                worst.push_back({at, limit});
            else if (isWorse(limit, worst[i].reading))
                worst[i] = {at, limit};
        }
    return worst;
}

} // namespace pyro

#include "core/trust/checks.h"

#include <algorithm>

namespace pyro {

std::string_view checkStateName(CheckState state) {
    switch (state) {
    case CheckState::Held:
        return "held";
    case CheckState::Look:
        return "look";
    case CheckState::Broken:
        return "broken";
    default:
        return "unknown";
    }
}

Result<std::vector<Check>> checksOf(const TrustInput& input, Progress& progress) {
    std::vector<Check> all;
    double share = 0;
    for (const auto& ask : {valueChecks, conservationChecks, convergenceChecks, contactChecks, meshChecks, coverageChecks}) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "checking was cancelled", input.heat.fields().solved().file);
        progress.report(share, "checking whether to trust the case");
        share += 1.0 / 6;
        const auto some = ask(input);
        all.insert(all.end(), some.begin(), some.end());
    }
    const auto rank = [](const Check& check) {
        switch (check.state) {
        case CheckState::Broken:
            return 0;
        case CheckState::Look:
            return 1;
        case CheckState::Unknown:
            return 2;
        default:
            return 3;
        }
    };
    std::ranges::stable_sort(all, {}, rank);
    return all;
}

} // namespace pyro

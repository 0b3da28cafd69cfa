#include "core/trust/checks.h"

#include <algorithm>

namespace pyro {

Result<std::vector<Check>> checksOf(const TrustInput& input, Progress& progress) {
    std::vector<Check> all;
    double share = 0;
    for (const auto& ask :
         {valueChecks, conservationChecks, convergenceChecks, contactChecks, meshChecks, coverageChecks}) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "checking was cancelled", input.heat.fields().solved().file);
        progress.report(share, "checking whether to trust the case");
        share += 1.0 / 6;
        const auto some = ask(input);
        all.insert(all.end(), some.begin(), some.end());
    }
    const auto rank = [](const Check& check) {
        switch (check.state) {
        case CheckState::Failed:
            return 0;
        case CheckState::Review:
            return 1;
        case CheckState::NotCheckable:
            return 2;
        default:
            return 3;
        }
    };
    std::ranges::stable_sort(all, {}, rank);
    return all;
}

} // namespace pyro

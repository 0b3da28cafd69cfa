#include "core/trust/checks.h"

#include <algorithm>

namespace pyro {
namespace {

constexpr const CheckKind* all[]{
#define CHECK(name) &name##Check,
#include "core/trust/list.inc"
#undef CHECK
};

Check unanswered(const CheckKind& kind) {
    Check check;
    check.key = kind.key;
    check.title = kind.title;
    check.figure = kind.figure;
    check.threshold = kind.threshold;
    check.meaning = kind.meaning;
    return check;
}

} // namespace

std::span<const CheckKind* const> checkKinds() { return all; }

void sortChecks(std::vector<Check>& checks) {
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
    std::ranges::stable_sort(checks, {}, rank);
}

Result<std::vector<Check>> checksOf(const TrustInput& input, Progress& progress) {
    std::vector<Check> answered;
    double share = 0;
    for (const auto* kind : all) {
        if (progress.cancelled())
            return fail(ErrorCode::Cancelled, "checking was cancelled", input.heat.fields().solved().file);
        progress.report(share, "checking whether to trust the case");
        share += 1.0 / static_cast<double>(std::size(all));
        if (kind->applies != nullptr && !kind->applies(input))
            continue;
        auto check = unanswered(*kind);
        if (kind->answers != nullptr) {
            std::ranges::move(kind->answers(input, check), std::back_inserter(answered));
            continue;
        }
        kind->answer(input, check);
        answered.push_back(std::move(check));
    }
    sortChecks(answered);
    return answered;
}

} // namespace pyro

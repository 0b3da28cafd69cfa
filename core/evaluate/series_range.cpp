#include "core/evaluate/series_range.h"

#include <cmath>

namespace pyro {

Result<std::array<double, 2>> rangeOverSteps(const Series& series, const QuantityChoices& choices,
                                             const std::string& quantity, const std::vector<std::string>& parts,
                                             Progress& progress) {
    double low = std::nan("");
    double high = std::nan("");
    for (std::size_t i = 0; i < series.steps.size(); ++i) {
        SubProgress one(progress, static_cast<double>(i) / static_cast<double>(series.steps.size()),
                        static_cast<double>(i + 1) / static_cast<double>(series.steps.size()));
        const auto solved = openCase(series.steps[i], {}, one);
        if (!solved)
            return tl::unexpected(solved.error());
        const auto quantities = recognise(**solved, choices);
        if (!quantities)
            return tl::unexpected(quantities.error());
        const auto* wanted = quantities->named(quantity);
        if (wanted == nullptr)
            continue;
        std::vector<std::size_t> here;
        for (const auto& name : parts)
            if (const auto part = (*solved)->partNamed(name))
                here.push_back(*part);
        const auto range = storedRange(**solved, here, *wanted);
        low = std::fmin(low, range[0]);
        high = std::fmax(high, range[1]);
    }
    if (std::isnan(low))
        return fail(ErrorCode::NameUnknown, "no step has " + quantity + " on a visible part",
                    series.steps.front().file.string(), "Show another part or choose another quantity");
    return std::array<double, 2>{low, high};
}

} // namespace pyro

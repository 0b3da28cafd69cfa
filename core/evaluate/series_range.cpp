#include "core/evaluate/series_range.h"

#include "core/evaluate/evaluate.h"

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
        const auto opened = openForPicture(series.steps[i], {}, one);
        if (!opened)
            return tl::unexpected(opened.error());
        const auto quantities = recognise(*opened->solved, choices);
        if (!quantities)
            return tl::unexpected(quantities.error());
        const auto* wanted = quantities->named(quantity);
        if (wanted == nullptr)
            continue;
        for (const auto& name : parts) {
            const auto part = opened->solved->partNamed(name);
            const auto* array = part ? opened->solved->parts[*part].find(wanted->array, wanted->on) : nullptr;
            if (array == nullptr)
                continue;
            low = std::fmin(low, wanted->toSi(array->min));
            high = std::fmax(high, wanted->toSi(array->max));
        }
    }
    if (std::isnan(low))
        return fail(ErrorCode::NameUnknown, "no step has " + quantity + " on a visible part",
                    series.steps.front().file.string(), "Show another part or choose another quantity");
    return std::array<double, 2>{low, high};
}

} // namespace pyro

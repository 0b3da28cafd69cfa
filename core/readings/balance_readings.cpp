#include "core/readings/balance_readings.h"

#include <cmath>

namespace pyro {

std::optional<double> PartBalance::remainder() const {
    if (!in || !out || !produced || !stored || !carried)
        return std::nullopt;
    return *in + *produced - *out - *stored - *carried;
}

std::optional<double> PartBalance::share() const {
    const auto rest = remainder();
    if (!rest)
        return std::nullopt;
    const double turnover = std::max({*in + std::max(*produced, 0.0), *out, std::abs(*stored), std::abs(*carried)});
    return turnover > 0 ? std::abs(*rest) / turnover : 0;
}

} // namespace pyro

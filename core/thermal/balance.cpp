#include "core/thermal/balance.h"

#include <numeric>

namespace pyro {
namespace {

Support everything(bool boundaries, std::size_t count) {
    Support support{boundaries, std::vector<std::size_t>(count)};
    std::iota(support.regions.begin(), support.regions.end(), std::size_t{0});
    return support;
}

std::optional<double> integral(const Case& solved, const CaseIndex& index, const Support& support,
                               const Quantity* quantity) {
    if (quantity == nullptr || support.regions.empty())
        return std::nullopt;
    const auto reading = read(solved, index, support, *quantity);
    if (!reading || reading->sums.notFinite() > 0)
        return std::nullopt;
    return reading->integral();
}

std::optional<double> sumOf(const std::map<std::string, double>& powers, const Case& solved) {
    std::optional<double> sum;
    for (const auto& [part, power] : powers)
        if (solved.partNamed(part))
            sum = sum.value_or(0.0) + power;
    return sum;
}

} // namespace

std::optional<BalanceReading> balance(const std::map<std::string, double>& powers, const Case& solved,
                                      const CaseIndex& index, const QuantityList& quantities) {
    const auto leaving =
        integral(solved, index, everything(true, solved.boundaries.size()), quantities.named("heat_flux"));
    auto produced = integral(solved, index, everything(false, solved.parts.size()), quantities.named("heat_source"));
    if (!produced)
        produced = sumOf(powers, solved);
    if (!leaving || !produced)
        return std::nullopt;
    return BalanceReading{*produced, *leaving};
}

} // namespace pyro

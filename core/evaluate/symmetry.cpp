#include "core/evaluate/symmetry.h"

#include "core/quantities/gauge_quantity.h"
#include "core/statistics/statistic_kind.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

bool addsUp(const Measured& measured, const Gauge& gauge, std::optional<SiteKind> site) {
    // thermal_resistance has the power of the whole already, transmission_coefficient sums up readings that are told
    // for the whole.
    const auto* quantity = gaugeQuantity(gauge.quantity);
    if (quantity != nullptr && quantity->addsUp)
        return site || measured.siUnit == "W/K";
    const auto* statistic = statisticKind(gauge.statistic);
    return site && (*site == SiteKind::Surface || *site == SiteKind::Volume) && statistic != nullptr &&
           statistic->addsUp;
}

// Terms that enter a sum in W/K; the others tell how they came about.
Derivation ofWhole(Derivation derivation, double factor) {
    for (auto& term : derivation.terms)
        if (term.unit == "W/K") {
            term.value *= factor;
            // Before the layers, which follow a colon.
            term.origin.insert(std::min(term.origin.find(": "), term.origin.size()),
                               fmt::format("{}times {:g} by symmetry", term.origin.empty() ? "" : ", ", factor));
        }
    return derivation;
}

void times(std::optional<double>& value, double factor) {
    if (value)
        *value *= factor;
}

} // namespace

void toWhole(Measured& measured, const Gauge& gauge, std::optional<SiteKind> site, double factor) {
    if (factor == 1 || measured.profile || !addsUp(measured, gauge, site))
        return;
    measured.value *= factor;
    times(measured.gradientValue, factor);
    times(measured.spread, factor);
    if (measured.derivation)
        measured.derivation = std::make_shared<const Derivation>(ofWhole(*measured.derivation, factor));
}

void toWhole(Balances& balances, double factor) {
    for (auto& part : balances.parts)
        for (auto* value : {&part.in, &part.out, &part.produced, &part.stored, &part.carried})
            times(*value, factor);
    for (auto& flow : balances.boundaries)
        for (auto* value : {&flow.heat, &flow.outer, &flow.gradientHeat, &flow.mass, &flow.volume, &flow.enthalpy})
            times(*value, factor);
    for (auto& link : balances.links) {
        link.heat *= factor;
        link.area *= factor;
        times(link.carried, factor);
    }
}

void toWhole(BalanceReading& balance, double factor) {
    for (auto* value : {&balance.produced, &balance.leaving, &balance.entering})
        *value *= factor;
    times(balance.stored, factor);
}

} // namespace pyro

#include "core/estimate/causes.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr double even = 0.02;    // spread of a flux that is taken as imposed, of its largest value
constexpr double noticed = 1e-3; // share of all heat below which a boundary is left out
// of the span of temperatures: how well an environment is recognised from the field, see environments.cpp
constexpr double fittedShare = 0.02;

struct Span {
    double low = std::nan("");
    double high = std::nan("");
    bool isEven() const { return high - low <= even * std::max(std::abs(low), std::abs(high)); }
};

std::optional<Span> storedOn(const Region& boundary, const QuantityList& quantities, const char* name) {
    const auto* quantity = quantities.named(name);
    const auto* array = quantity == nullptr ? nullptr : boundary.find(quantity->array, Location::Cell);
    if (array == nullptr)
        return std::nullopt;
    return Span{quantity->toSi(array->min), quantity->toSi(array->max)};
}

double spanOf(const Readings& readings) {
    double low = 1e300;
    double high = -1e300;
    for (const auto& part : readings.parts) {
        low = part.min ? std::min(low, part.min->kelvin) : low;
        high = part.max ? std::max(high, part.max->kelvin) : high;
    }
    return std::max(high - low, 0.0);
}

// The temperature with which something flows in: of the faces when it is one there, else the mean by mass flow.
std::optional<double> fedWith(const Region& boundary, const QuantityList& quantities, const BoundaryFlow& flow) {
    if (const auto faces = storedOn(boundary, quantities, "temperature"); faces && faces->high - faces->low < 0.01)
        return faces->high;
    return flow.bulk ? std::optional(flow.bulk->kelvin) : std::nullopt;
}

} // namespace

bool HeatCauses::haveOneTemperature() const {
    if (temperatures.empty())
        return true;
    const auto [low, high] = std::ranges::minmax_element(temperatures, {}, [](const auto& one) { return one.second; });
    return high->second - low->second <= accuracy;
}

HeatCauses causesOf(const Case& solved, const QuantityList& quantities, const Readings& readings) {
    HeatCauses causes;
    if (!readings.balances) {
        causes.lacking = "its balances are not known";
        return causes;
    }
    for (const auto& one : readings.environments) {
        causes.temperatures[one.name] = one.temperature;
        if (one.origin == "field")
            causes.accuracy = std::max(causes.accuracy, fittedShare * spanOf(readings));
    }
    std::map<std::string, bool> opening;
    for (const auto& flow : readings.balances->boundaries) {
        const auto at = solved.boundaryNamed(flow.boundary);
        if (!flow.mass && !flow.volume)
            continue;
        opening[flow.boundary] = true;
        if (flow.mass.value_or(flow.volume.value_or(0)) >= 0 || !at)
            continue;
        if (const auto fed = fedWith(solved.boundaries[*at], quantities, flow))
            causes.temperatures[flow.boundary] = *fed;
        else
            causes.lacking = fmt::format("the temperature of what flows in at \"{}\" is not known", flow.boundary);
    }
    double all = 0;
    for (const auto& power : readings.powers) {
        causes.produced[power.part] = power.found ? *power.found : *power.given;
        all += std::abs(causes.produced[power.part]);
    }
    for (const auto& link : readings.balances->links)
        all = std::max(all, std::abs(link.heat));
    for (const auto& flow : readings.balances->boundaries) {
        const auto at = solved.boundaryNamed(flow.boundary);
        const bool outer = std::ranges::any_of(readings.balances->links, [&](const PartLink& link) {
            return link.toBoundary && (link.to == flow.boundary || link.from == flow.boundary);
        });
        if (!at || !outer || !flow.heat || opening.contains(flow.boundary) ||
            causes.temperatures.contains(flow.boundary) || std::abs(*flow.heat) <= noticed * all)
            continue;
        if (const auto flux = storedOn(solved.boundaries[*at], quantities, "heat_flux"); flux && flux->isEven())
            causes.imposed[flow.boundary] = -*flow.heat;
        else
            causes.lacking = fmt::format("what lies beyond \"{}\" is not known", flow.boundary);
    }
    return causes;
}

} // namespace pyro

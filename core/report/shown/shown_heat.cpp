// Balances of parts, what passes boundaries, and the heat from part to part.
#include "core/report/shown/shown_table.h"
#include "core/thermal/balances.h"
#include "core/thermal/whole_heat.h"

#include <fmt/format.h>

namespace pyro {
namespace {

std::string figure(double value) { return fmt::format("{:.4g}", value); }
std::string figure(const std::optional<double>& value) { return value ? figure(*value) : std::string(); }
std::string orUnknown(const std::optional<double>& value) { return value ? figure(*value) : "unknown"; }

} // namespace

ShownTable shownBalances(const CaseEntry& entry, const Readings& readings) {
    ShownTable table{{{"Part"},
                      {"Heat in, W", true},
                      {"Out, W", true},
                      {"Produced, W", true},
                      {"Stored, W", true},
                      {"Carried, W", true},
                      {"Remainder, W", true},
                      {"Share of heat passing", true},
                      {"Method"}},
                     {}};
    if (!readings.balances)
        return table;
    auto parts = readings.balances->parts;
    if (const auto whole = balanceOfAll(readings); whole && parts.size() > 1)
        parts.push_back(*whole);
    for (const auto& part : parts)
        table.rows.push_back({shownName(entry, part.part), orUnknown(part.in), orUnknown(part.out),
                              orUnknown(part.produced), orUnknown(part.stored), orUnknown(part.carried),
                              orUnknown(part.remainder()), part.share() ? formatShare(*part.share()) : "unknown",
                              part.why.empty() ? part.method : part.why});
    return table;
}

ShownTable shownFlows(const Readings& readings, TemperatureUnit unit) {
    const std::string per = readings.plane && !readings.plane->given ? "/m" : ""; // of depth
    const std::string symbol(unitSymbol(unit));
    ShownTable table{{{"Boundary"},
                      {"Heat out, W" + per, true},
                      {"Mean " + symbol, true},
                      {readings.plane ? "Length" : "Area", true},
                      {"By gradient, W" + per, true},
                      {"Mass out, kg/s" + per, true},
                      {"Volume out, L/min" + per, true},
                      {"Bulk " + symbol, true},
                      {"Enthalpy, W" + per, true},
                      {"Method"}},
                     {}};
    if (!readings.balances)
        return table;
    auto flows = readings.balances->boundaries;
    if (flows.size() > 1)
        flows.push_back(flowOfAll(*readings.balances));
    for (std::size_t at = 0; at < flows.size(); ++at) {
        const auto& flow = flows[at];
        const auto* region = at < readings.boundaries.size() ? &readings.boundaries[at] : nullptr;
        table.rows.push_back(
            {flow.boundary, orUnknown(flow.heat),
             region != nullptr && region->mean ? formatNumber(toDisplay(*region->mean, unit)) : std::string(),
             region != nullptr ? formatExtent(region->size, region->dimension) : std::string(),
             figure(flow.gradientHeat), figure(flow.mass),
             figure(flow.volume ? std::optional(6e4 * *flow.volume) : std::nullopt),
             flow.bulk ? formatNumber(toDisplay(*flow.bulk, unit)) : std::string(), figure(flow.enthalpy),
             flow.why.empty() ? flow.method : flow.why});
    }
    return table;
}

ShownTable shownLinks(const CaseEntry& entry, const Readings& readings) {
    ShownTable table{{{"Heat from"},
                      {"To"},
                      {"Conducted, W", true},
                      {"Carried, W", true},
                      {"Share of heat leaving", true},
                      {"Difference of means, K", true},
                      {"Resistance, K/W", true},
                      {"Contact area", true}},
                     {}};
    if (readings.balances)
        for (const auto& link : readings.balances->links)
            table.rows.push_back(
                {shownName(entry, link.from), link.toBoundary ? link.to + " (boundary)" : shownName(entry, link.to),
                 figure(link.heat), figure(link.carried), link.share ? formatShare(*link.share) : std::string(),
                 figure(link.difference), figure(link.resistance), formatExtent(link.area, 2)});
    return table;
}

} // namespace pyro

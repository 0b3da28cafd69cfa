// Balances of parts, what passes boundaries, and the heat from part to part.
#include "core/report/shown/shown_table.h"
#include "core/thermal/balances.h"
#include "core/thermal/whole_heat.h"

#include <fmt/format.h>

namespace pyro {
namespace {

std::string orUnknown(const ColumnUnit& unit, const std::optional<double>& value) {
    return value ? unit.text(*value) : "unknown";
}

} // namespace

ShownTable shownBalances(const CaseEntry& entry, const Readings& readings, const ReaderUnits& unit) {
    const ColumnUnit watts("W", unit);
    ShownTable table{{{"Part"},
                      {watts.title("Heat in"), true},
                      {watts.title("Out"), true},
                      {watts.title("Produced"), true},
                      {watts.title("Stored"), true},
                      {watts.title("Carried"), true},
                      {watts.title("Remainder"), true},
                      {"Share of heat passing", true},
                      {"Method"}},
                     {}};
    if (!readings.balances)
        return table;
    auto parts = readings.balances->parts;
    if (const auto whole = balanceOfAll(readings); whole && parts.size() > 1)
        parts.push_back(*whole);
    for (const auto& part : parts)
        table.rows.push_back({shownName(entry, part.part), orUnknown(watts, part.in), orUnknown(watts, part.out),
                              orUnknown(watts, part.produced), orUnknown(watts, part.stored),
                              orUnknown(watts, part.carried), orUnknown(watts, part.remainder()),
                              part.share() ? formatShare(*part.share()) : "unknown",
                              part.why.empty() ? part.method : part.why});
    return table;
}

ShownTable shownFlows(const Readings& readings, const ReaderUnits& unit) {
    const std::string per = readings.plane && !readings.plane->given ? "/m" : ""; // of depth
    const std::string symbol(unitSymbol(unit.temperature));
    const ColumnUnit watts("W", unit, per);
    const ColumnUnit mass("kg/s", unit, per);
    const ColumnUnit litres("L/min", unit, per);
    const auto degrees = [&](const std::optional<Temperature>& one) {
        return one ? formatNumber(toDisplay(*one, unit.temperature), unit.decimals.value_or(1)) : std::string();
    };
    ShownTable table{{{"Boundary"},
                      {watts.title("Heat out"), true},
                      {"Mean " + symbol, true},
                      {readings.plane ? "Length" : "Area", true},
                      {watts.title("By gradient"), true},
                      {mass.title("Mass out"), true},
                      {litres.title("Volume out"), true},
                      {"Bulk " + symbol, true},
                      {watts.title("Enthalpy"), true},
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
            {flow.boundary, orUnknown(watts, flow.heat), degrees(region != nullptr ? region->mean : std::nullopt),
             region != nullptr ? formatExtent(region->size, region->dimension) : std::string(),
             watts.text(flow.gradientHeat), mass.text(flow.mass),
             litres.text(flow.volume ? std::optional(6e4 * *flow.volume) : std::nullopt), degrees(flow.bulk),
             watts.text(flow.enthalpy), flow.why.empty() ? flow.method : flow.why});
    }
    return table;
}

ShownTable shownLinks(const CaseEntry& entry, const Readings& readings, const ReaderUnits& unit) {
    const ColumnUnit watts("W", unit);
    const ColumnUnit kelvin("K", unit);
    const ColumnUnit resistance("K/W", unit);
    ShownTable table{{{"Heat from"},
                      {"To"},
                      {watts.title("Conducted"), true},
                      {watts.title("Carried"), true},
                      {"Share of heat leaving", true},
                      {kelvin.title("Difference of means"), true},
                      {resistance.title("Resistance"), true},
                      {"Contact area", true}},
                     {}};
    if (readings.balances)
        for (const auto& link : readings.balances->links)
            table.rows.push_back(
                {shownName(entry, link.from), link.toBoundary ? link.to + " (boundary)" : shownName(entry, link.to),
                 watts.text(link.heat), watts.text(link.carried), link.share ? formatShare(*link.share) : std::string(),
                 kelvin.text(link.difference), resistance.text(link.resistance), formatExtent(link.area, 2)});
    return table;
}

} // namespace pyro

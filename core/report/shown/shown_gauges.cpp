#include "core/report/shown/shown_table.h"
#include "core/units/millimetres.h"
#include "core/units/unit.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

// In the unit of the trade unless the reader has one of their own.
std::string inUnit(const std::optional<double>& si, const char* siUnit, double scale, const char* symbol,
                   const ReaderUnits& unit) {
    if (!si)
        return {};
    const bool own = std::ranges::any_of(unit.units, [&](const auto& wanted) { return sameDimension(siUnit, wanted); });
    return own ? formatSi(*si, siUnit, unit) : fmt::format("{:.3g} {}", scale * *si, symbol);
}

} // namespace

ShownTable shownTerms(const GaugeReading& gauge, const ReaderUnits& unit) {
    ShownTable table{{{"Term"}, {"Value", true}, {"Origin"}}, {}};
    if (gauge.derivation)
        for (const auto& term : gauge.derivation->terms) {
            const bool plain = unit.units.empty() && !unit.decimals; // terms keep six digits: they are added up
            const auto symbol = term.unit == "1" ? std::string() : fmt::format(" {}", unitText(term.unit));
            table.rows.push_back(
                {term.name, plain ? fmt::format("{:.6g}{}", term.value, symbol) : formatSi(term.value, term.unit, unit),
                 term.origin});
        }
    return table;
}

ShownTable shownSpots(const CaseEntry& entry, const Readings& readings, const GaugeReading& gauge,
                      const ReaderUnits& unit) {
    ShownTable table{{{"No.", true},
                      {unitText(gauge.unit), true},
                      {"Prominence", true},
                      {"Part"},
                      {"Extent", true},
                      {"Source", true},
                      {"Flux nearby", true},
                      {"Nearest", true},
                      {"At, mm"}},
                     {}};
    if (!gauge.derivation)
        return table;
    for (const auto& spot : gauge.derivation->spots)
        table.rows.push_back({std::to_string(table.rows.size() + 1), fmt::format("{:.4g}", spot.value),
                              fmt::format("{:.3g}", spot.prominence), shownName(entry, readings.parts[spot.part].name),
                              formatExtent(spot.size, 3), inUnit(spot.source, "W/m3", 1e-6, "W/cm\u00b3", unit),
                              inUnit(spot.flux, "W/m2", 1e-4, "W/cm\u00b2", unit),
                              inUnit(spot.nearest, "m", 1e3, "mm", unit), placeInMillimetres(spot.at)});
    return table;
}

} // namespace pyro

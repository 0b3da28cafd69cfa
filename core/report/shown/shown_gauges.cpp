#include "core/report/shown/shown_table.h"
#include "core/units/millimetres.h"

#include <fmt/format.h>

namespace pyro {
namespace {

std::string inUnit(const std::optional<double>& si, double scale, const char* symbol) {
    return si ? fmt::format("{:.3g} {}", scale * *si, symbol) : std::string();
}

} // namespace

ShownTable shownTerms(const GaugeReading& gauge) {
    ShownTable table{{{"Term"}, {"Value", true}, {"Origin"}}, {}};
    if (gauge.derivation)
        for (const auto& term : gauge.derivation->terms) {
            const auto unit = term.unit == "1" ? std::string() : unitText(term.unit);
            table.rows.push_back(
                {term.name, fmt::format("{:.6g}{}{}", term.value, unit.empty() ? "" : " ", unit), term.origin});
        }
    return table;
}

ShownTable shownSpots(const CaseEntry& entry, const Readings& readings, const GaugeReading& gauge) {
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
                              formatExtent(spot.size, 3), inUnit(spot.source, 1e-6, "W/cm\u00b3"),
                              inUnit(spot.flux, 1e-4, "W/cm\u00b2"), inUnit(spot.nearest, 1e3, "mm"),
                              placeInMillimetres(spot.at)});
    return table;
}

} // namespace pyro

#include "core/report/tables/table.h"

namespace pyro {
namespace {

// Of the gauges that list them, one row each, in the gauge's unit.
Table makeHotspots(const TableInput& input) {
    Table table{{"case", "step", "gauge", "number", "value", "unit", "part", "x_m", "y_m", "z_m", "on", "prominence",
                 "size", "nearest_m", "heat_source_W_per_m3", "heat_flux_W_per_m2"},
                {}};
    for (const auto& one : input.run.cases)
        for (const auto& step : one.steps)
            for (const auto& gauge : step.gauges)
                for (std::size_t i = 0; gauge.derivation && i < gauge.derivation->spots.size(); ++i) {
                    const auto& spot = gauge.derivation->spots[i];
                    auto& row = table.row();
                    row = {one.name,
                           step.step,
                           gauge.id,
                           static_cast<int>(i + 1),
                           spot.value,
                           gauge.unit,
                           step.parts[spot.part].name};
                    addPlace(row, spot.at);
                    row.insert(row.end(), {locationName(spot.on), spot.prominence, spot.size, spot.nearest, spot.source,
                                           spot.flux});
                }
    return table;
}

} // namespace

constexpr TableKind hotspotsTable{.name = "hotspots", .title = "Hotspots", .make = makeHotspots};

} // namespace pyro

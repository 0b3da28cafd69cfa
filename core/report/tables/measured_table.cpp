#include "core/report/tables/table.h"

namespace pyro {
namespace {

// One row for each measured value; values in the unit of the data, deviations as differences.
Table makeMeasured(const TableInput& input) {
    Table table{{"case", "id", "name", "x_m", "y_m", "z_m", "time_s", "measured", "simulated", "unit", "deviation",
                 "uncertainty", "difference_unit", "normalised", "distance_m", "why"},
                {}};
    for (const auto& one : input.run.cases)
        for (const auto& reading : one.measured)
            for (const auto& point : reading.points) {
                auto& row = table.row();
                row = {one.name, reading.id, point.name};
                addPlace(row, point.at);
                row.insert(row.end(),
                           {point.time, point.measured, point.simulated, reading.unit, point.deviation,
                            point.uncertainty, reading.differenceUnit, point.normalised, point.distance, point.why});
            }
    return table;
}

} // namespace

constexpr TableKind measuredTable{.name = "measured", .title = "Measured", .make = makeMeasured, .onlyWithRows = true};

} // namespace pyro

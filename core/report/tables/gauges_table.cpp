#include "core/report/tables/table.h"

namespace pyro {
namespace {

void addGauge(Table& table, const std::string& name, const Cell& step, const Cell& time, const GaugeReading& gauge) {
    auto& row = table.row();
    row = {name, step, time, gauge.id, gauge.value, gauge.unit};
    addPlace(row, gauge.place ? std::optional(gauge.place->at) : std::nullopt);
    row.insert(row.end(), {gauge.method, gauge.gradientValue, gauge.outside, gauge.reference, gauge.spread, gauge.why});
}

// One row for each case, step and gauge; those over all steps have "all" as their step.
Table makeGauges(const TableInput& input) {
    Table table{{"case", "step", "time_s", "gauge", "value", "unit", "x_m", "y_m", "z_m", "method", "gradient_value",
                 "outside", "reference", "spread", "why"},
                {}};
    for (const auto& one : input.run.cases) {
        for (const auto& step : one.steps)
            for (const auto& gauge : step.gauges)
                if (!gauge.profile)
                    addGauge(table, one.name, step.step, step.time, gauge);
        for (const auto& gauge : one.overSteps)
            addGauge(table, one.name, "all", {}, gauge);
    }
    return table;
}

} // namespace

constexpr TableKind gaugesTable{.name = "gauges", .title = "Gauges", .make = makeGauges};

} // namespace pyro

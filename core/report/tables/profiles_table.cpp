#include "core/report/tables/table.h"

namespace pyro {
namespace {

// Gauges along lines, one row for each point; gaps have no value.
Table makeProfiles(const TableInput& input) {
    Table table{{"case", "step", "gauge", "s_m", "x_m", "y_m", "z_m", "value", "unit"}, {}};
    for (const auto& one : input.run.cases)
        for (const auto& step : one.steps)
            for (const auto& gauge : step.gauges)
                for (std::size_t i = 0; gauge.profile && i < gauge.profile->s.size(); ++i) {
                    auto& row = table.row();
                    row = {one.name, step.step, gauge.id, gauge.profile->s[i]};
                    addPlace(row, gauge.profile->at[i]);
                    row.insert(row.end(), {gauge.profile->value[i], gauge.unit});
                }
    return table;
}

} // namespace

constexpr TableKind profilesTable{.name = "profiles", .title = "Profiles", .make = makeProfiles};

} // namespace pyro

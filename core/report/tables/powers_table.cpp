#include "core/report/tables/table.h"

namespace pyro {
namespace {

// Powers given and found, with thermal resistances.
Table makePowers(const TableInput& input) {
    Table table{{"case", "step", "part", "given_W", "found_W", "thermal_resistance_K_per_W", "ambient_K"}, {}};
    for (const auto& one : input.run.cases)
        for (const auto& step : one.steps)
            for (const auto& power : step.powers)
                table.row() = {one.name,    step.step,        power.part,  power.given,
                               power.found, power.resistance, step.ambient};
    return table;
}

} // namespace

constexpr TableKind powersTable{.name = "powers", .title = "Powers", .make = makePowers};

} // namespace pyro

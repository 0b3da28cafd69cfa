#include "core/report/tables/table.h"

namespace pyro {
namespace {

// Of parts, one row for each case, step and part, and what passes each boundary.
Table makeBalances(const TableInput& input) {
    Table table{{"case", "step", "part", "boundary", "in_W", "out_W", "produced_W", "stored_W", "carried_W",
                 "remainder_W", "method", "gradient_out_W", "mass_flow_kg_per_s", "volume_flow_m3_per_s",
                 "bulk_temperature_K", "enthalpy_flow_W", "why"},
                {}};
    const Cell none;
    for (const auto& one : input.run.cases)
        for (const auto& step : one.steps) {
            if (!step.balances)
                continue;
            for (const auto& part : step.balances->parts)
                table.row() = {one.name,    step.step,     part.part,   none,         part.in,
                               part.out,    part.produced, part.stored, part.carried, part.remainder(),
                               part.method, none,          none,        none,         none,
                               none,        part.why};
            for (const auto& flow : step.balances->boundaries)
                table.row() = {one.name,      step.step,   none,
                               flow.boundary, none,        flow.heat,
                               none,          none,        none,
                               none,          flow.method, flow.gradientHeat,
                               flow.mass,     flow.volume, flow.bulk ? Cell(flow.bulk->kelvin) : none,
                               flow.enthalpy, flow.why};
        }
    return table;
}

} // namespace

constexpr TableKind balancesTable{.name = "balances", .title = "Balances", .make = makeBalances};

} // namespace pyro

#include "core/report/tables/table.h"

#include <fmt/ranges.h>

namespace pyro {
namespace {

// One row for each gauge and limit of each study. Values in their unit, errors and index as shares.
Table makeGrids(const TableInput& input) {
    Table table{{"cases", "what", "name", "finest", "unit", "order", "extrapolated", "approximate_error",
                 "extrapolated_error", "index", "uncertainty", "uncertainty_unit", "state", "safety_factor", "note"},
                {}};
    for (const auto& study : input.run.grids) {
        const auto cases = fmt::format("{}", fmt::join(study.cases, ", "));
        for (const auto& one : study.rows) {
            auto& row = table.row();
            row = {cases, one.gauge.empty() ? "limit" : "gauge", one.gauge.empty() ? one.target.name : one.gauge,
                   one.values.empty() ? Cell() : Cell(one.values.front()), one.unit};
            const bool found = one.why.empty();
            for (const auto& value : {one.found.order, one.found.extrapolated, one.found.approximateError,
                                      one.found.extrapolatedError, one.found.index, one.found.uncertainty})
                row.emplace_back(found ? Cell(value) : Cell());
            row.insert(row.end(), {found ? Cell(one.uncertaintyUnit) : Cell(),
                                   found ? Cell(gridStateName(one.found.state)) : Cell(),
                                   found ? Cell(one.found.safety) : Cell(), found ? one.found.note : one.why});
        }
    }
    return table;
}

} // namespace

constexpr TableKind gridsTable{.name = "grids", .title = "Grid convergence", .make = makeGrids, .onlyWithRows = true};

} // namespace pyro

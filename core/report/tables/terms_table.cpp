#include "core/report/tables/table.h"

namespace pyro {
namespace {

// The terms of transmittances, one row for each case, step, gauge and term, as it enters the sum.
Table makeTerms(const TableInput& input) {
    Table table{{"case", "step", "gauge", "term", "value", "unit", "origin"}, {}};
    for (const auto& one : input.run.cases)
        for (const auto& step : one.steps)
            for (const auto& gauge : step.gauges)
                if (gauge.derivation)
                    for (const auto& term : gauge.derivation->terms)
                        table.row() = {one.name, step.step, gauge.id, term.name, term.value, term.unit, term.origin};
    return table;
}

} // namespace

constexpr TableKind termsTable{.name = "terms", .title = "Terms", .make = makeTerms};

} // namespace pyro

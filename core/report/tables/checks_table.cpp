#include "core/report/tables/table.h"

namespace pyro {
namespace {

Table makeChecks(const TableInput& input) {
    Table table{{"case", "step", "check", "title", "state", "found", "wanted", "part", "x_m", "y_m", "z_m", "meaning"},
                {}};
    for (const auto& one : input.run.cases)
        for (const auto& step : one.steps)
            for (const auto& check : step.checks) {
                auto& row = table.row();
                row = {one.name,     step.step,       check.key, check.title, checkStateName(check.state),
                       check.figure, check.threshold, check.part};
                addPlace(row, check.at);
                row.emplace_back(check.meaning);
            }
    return table;
}

} // namespace

constexpr TableKind checksTable{.name = "checks", .title = "Checks", .make = makeChecks};

} // namespace pyro

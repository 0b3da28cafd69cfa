#include "core/readings/estimate_reading.h"
#include "core/report/tables/limit_row.h"

namespace pyro {
namespace {

// The limits at the survey's other ambient and power, one row for each case and limit of its last step.
Table makeEstimate(const TableInput& input) {
    Table table{{"case", "ambient", "power", "target", "name", "label", "value", "limit", "unit", "margin",
                 "margin_unit", "verdict", "ambient_at_limit", "ambient_unit", "power_at_limit", "why"},
                {}};
    const auto shown = [&](const std::optional<double>& kelvin) {
        return kelvin ? Cell(toDisplay(Temperature{*kelvin}, input.unit)) : Cell();
    };
    for (const auto& one : input.run.cases) {
        const auto estimate = one.steps.empty() ? nullptr : one.steps.back().estimate;
        if (!estimate)
            continue;
        for (const auto& [limit, ambient, power] : estimate->limits) {
            const auto own = limitCells(*input.survey.caseNamed(one.name), limit, input.unit);
            table.row() = {one.name,
                           shown(estimate->ambient),
                           estimate->power,
                           own.target,
                           own.name,
                           own.label,
                           own.value,
                           own.limit,
                           own.unit,
                           own.margin,
                           own.marginUnit,
                           own.verdict,
                           shown(ambient.value),
                           udunitsName(input.unit),
                           power.value,
                           limit.verdict == Verdict::Unknown ? limit.why : power.why};
        }
    }
    return table;
}

} // namespace

constexpr TableKind estimateTable{.name = "estimate", .title = "Estimate", .make = makeEstimate, .onlyWithRows = true};

} // namespace pyro

#include "core/report/tables/table.h"

namespace pyro {
namespace {

void addCompared(Table& table, const char* kind, const ComparedThing& thing, const std::string& baseline) {
    for (const auto& one : thing.cases) {
        auto& row = table.row();
        row = {kind,
               thing.name,
               one.caseName,
               baseline,
               one.time,
               one.value,
               thing.unit,
               one.difference,
               thing.differenceUnit,
               one.relative,
               thing.relativeTo,
               one.margin,
               one.verdict ? Cell(verdictName(*one.verdict)) : Cell(),
               one.why};
    }
}

// One row for each gauge, limit and part in each case; values of limits and parts in SI.
Table makeCompare(const TableInput& input) {
    Table table{{"what", "name", "case", "baseline", "time_s", "value", "unit", "difference", "difference_unit",
                 "relative", "relative_to", "margin", "verdict", "why"},
                {}};
    if (!input.run.compare)
        return table;
    const auto& comparison = *input.run.compare;
    for (const auto& thing : comparison.gauges)
        addCompared(table, "gauge", thing, comparison.baseline);
    for (const auto& thing : comparison.limits)
        addCompared(table, "limit", thing, comparison.baseline);
    for (const auto& thing : comparison.parts)
        addCompared(table, "part", thing, comparison.baseline);
    return table;
}

} // namespace

constexpr TableKind compareTable{.name = "compare", .title = "Compare", .make = makeCompare, .onlyWithRows = true};

} // namespace pyro

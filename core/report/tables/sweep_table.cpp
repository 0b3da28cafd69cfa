#include "core/report/tables/table.h"

#include <set>

namespace pyro {
namespace {

// One row for each case: parameters, verdict, least margin, gauges. Units stand in the titles.
Table makeSweep(const TableInput& input) {
    Table table{{"case", "file"}, {}};
    if (!input.run.sweep)
        return table;
    const auto& sweep = *input.run.sweep;
    for (const auto& parameter : sweep.parameters)
        table.columns.push_back(parameter.unit.empty() ? parameter.name : parameter.name + " [" + parameter.unit + "]");
    table.columns.insert(table.columns.end(), {"verdict", "least_margin", "least_margin_unit", "least_margin_of"});
    std::set<std::pair<std::string, std::string>> gauges; // with their units
    for (const auto& one : sweep.cases)
        for (const auto& [id, value] : one.gauges)
            gauges.emplace(id, value.unit);
    for (const auto& [id, unit] : gauges)
        table.columns.push_back(id + " [" + unit + "]");
    table.columns.emplace_back("why");
    for (const auto& one : sweep.cases) {
        auto& row = table.row();
        row = {one.name, one.file};
        for (const auto& parameter : sweep.parameters) {
            const auto found = one.parameters.find(parameter.name);
            row.push_back(found == one.parameters.end() ? Cell() : Cell(found->second));
        }
        const auto* least = leastMargin(one);
        row.emplace_back(verdictName(one.verdict()));
        row.push_back(least == nullptr ? Cell() : Cell(least->margin));
        row.push_back(least == nullptr ? Cell() : Cell(least->unit));
        row.push_back(least == nullptr ? Cell() : Cell(least->target.name));
        for (const auto& [id, unit] : gauges) {
            const auto found = one.gauges.find(id);
            row.push_back(found == one.gauges.end() || found->second.unit != unit ? Cell() : Cell(found->second.value));
        }
        row.emplace_back(one.why);
    }
    return table;
}

} // namespace

constexpr TableKind sweepTable{.name = "sweep", .title = "Sweep", .make = makeSweep, .onlyWithRows = true};

} // namespace pyro

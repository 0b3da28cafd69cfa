#include "core/limits/limit_form.h"
#include "core/report/tables/limit_row.h"

namespace pyro {
namespace {

void addLimit(Table& table, const CaseEntry& entry, const Cell& step, const LimitReading& limit, TemperatureUnit unit) {
    const auto own = limitCells(entry, limit, unit);
    auto& row = table.row();
    row = {entry.name, limit.step ? Cell("worst: " + std::to_string(*limit.step)) : step,
           own.target, own.name,
           own.label,  own.value,
           own.limit,  own.unit,
           own.margin, limit.required,
           limit.unit, own.verdict};
    addPlace(row, limit.place ? std::optional(limit.place->at) : std::nullopt);
    row.emplace_back(limit.place ? Cell(locationName(limit.place->on)) : Cell());
    row.insert(row.end(), {limit.source, limit.why, limit.form->name, limit.kind, limit.ambient, limit.firstOver,
                           limit.durationOver});
}

// One row for each case, step and limit, the smallest margin first, and for several steps the worst of each.
Table makeLimits(const TableInput& input) {
    Table table{{"case",
                 "step",
                 "target",
                 "name",
                 "label",
                 "value",
                 "limit",
                 "unit",
                 "margin",
                 "required_margin",
                 "margin_unit",
                 "verdict",
                 "x_m",
                 "y_m",
                 "z_m",
                 "on",
                 "source",
                 "why",
                 "form",
                 "kind",
                 "ambient_K",
                 "first_over_s",
                 "duration_over_s"},
                {}};
    for (const auto& one : input.run.cases) {
        const auto* entry = input.survey.caseNamed(one.name);
        for (const auto& step : one.steps)
            for (const auto at : byMargin(step.limits))
                addLimit(table, *entry, step.step, step.limits[at], input.unit);
        if (one.steps.size() < 2)
            continue;
        const auto worst = one.worstLimits();
        for (const auto at : byMargin(worst))
            addLimit(table, *entry, "worst", worst[at], input.unit);
    }
    return table;
}

} // namespace

constexpr TableKind limitsTable{.name = "limits", .title = "Limits", .make = makeLimits};

} // namespace pyro

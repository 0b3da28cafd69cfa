#include "core/compare/sweep.h"

#include "core/sheets/table_columns.h"
#include "core/survey/survey_file.h"
#include "core/units/unit.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>

namespace pyro {
namespace {

// One column that is a parameter.
struct ParameterColumn {
    SweepPlan::Parameter parameter;
    std::size_t column;
};

// Those that the wish names; else every column of numbers but that of the files.
Result<std::vector<ParameterColumn>> parameterColumns(const SweepWish& wish, const TitledTable& table,
                                                      std::size_t fileColumn) {
    std::vector<ParameterColumn> out;
    for (const auto& [name, asked] : wish.parameters) {
        const auto column = table.column(asked.column.empty() ? name : asked.column);
        if (!column)
            return fail(ErrorCode::NameUnknown,
                        fmt::format("{} has no column \"{}\"", wish.table, asked.column.empty() ? name : asked.column));
        out.push_back({{name, asked.unit.empty() ? table.titles[*column].unit : asked.unit}, *column});
    }
    if (!wish.parameters.empty())
        return out;
    for (std::size_t column = 0; column < table.titles.size(); ++column) {
        const auto isNumber = [&](const CsvRow& row) { return tableNumber(row[column]).has_value(); };
        if (column != fileColumn && std::ranges::any_of(table.rows, isNumber))
            out.push_back({{table.titles[column].name, table.titles[column].unit}, column});
    }
    return out;
}

std::string valueText(double value, const std::string& unit) {
    return unit.empty() ? fmt::format("{:g}", value) : fmt::format("{:g} {}", value, unit);
}

SweepPlan::Item itemOf(const TitledTable& table, std::size_t row, std::size_t fileColumn, const CaseEntry& like,
                       const std::vector<ParameterColumn>& columns, const std::filesystem::path& tableFolder,
                       const std::filesystem::path& folder) {
    SweepPlan::Item item;
    item.entry = like;
    item.entry.parameters.clear();
    const auto written = trimmed(table.rows[row][fileColumn]);
    const auto file = std::filesystem::path(written).is_absolute() ? std::filesystem::path(written)
                                                                   : tableFolder / written;
    item.entry.name = file.stem().string();
    item.entry.file = file.lexically_relative(folder).empty() ? file.string()
                                                              : file.lexically_relative(folder).string();
    item.lonePart = std::filesystem::path(like.file).stem().string();
    if (written.empty())
        item.why = fmt::format("line {}: no file is named", table.line[row]);
    for (const auto& [parameter, column] : columns) {
        const auto value = tableNumber(table.rows[row][column]);
        if (value) {
            item.parameters[parameter.name] = *value;
            item.entry.parameters[parameter.name] = valueText(*value, parameter.unit);
        } else if (item.why.empty()) {
            item.why = fmt::format("line {}: \"{}\" is no number for {}", table.line[row],
                                   trimmed(table.rows[row][column]), parameter.name);
        }
    }
    std::error_code status;
    if (item.why.empty() && !std::filesystem::exists(file, status))
        item.why = fmt::format("line {}: {} does not exist", table.line[row], written);
    return item;
}

void readTable(const Survey& survey, const std::filesystem::path& folder, SweepPlan& plan) {
    const auto& wish = *survey.sweep;
    const auto path = besideSurvey(wish.table, folder);
    const auto table = readTitledTable(path);
    if (!table) {
        plan.why = fmt::format("{}: {}", wish.table, table.error().what);
        return;
    }
    const auto fileColumn = table->column(wish.file);
    const auto* like = wish.like.empty() ? survey.cases.empty() ? nullptr : &survey.cases.front()
                                         : survey.caseNamed(wish.like);
    if (!fileColumn || (like == nullptr && !wish.like.empty())) {
        plan.why = !fileColumn ? fmt::format("{} has no column \"{}\" that names the files", wish.table, wish.file)
                               : fmt::format("the case \"{}\" is not there", wish.like);
        return;
    }
    const auto columns = parameterColumns(wish, *table, *fileColumn);
    if (!columns) {
        plan.why = columns.error().what;
        return;
    }
    for (const auto& one : *columns)
        plan.parameters.push_back(one.parameter);
    for (std::size_t row = 0; row < table->rows.size(); ++row)
        plan.items.push_back(itemOf(*table, row, *fileColumn, like != nullptr ? *like : CaseEntry{}, *columns,
                                    path.parent_path(), folder));
    if (table->rows.empty())
        plan.why = fmt::format("{} has no lines below its titles", wish.table);
}

// The survey's own cases that say their parameters.
void addWritten(const Survey& survey, SweepPlan& plan) {
    for (const auto& entry : survey.cases) {
        if (entry.parameters.empty())
            continue;
        SweepPlan::Item item{entry, {}, {}};
        for (const auto& [name, text] : entry.parameters) {
            const auto written = splitMeasured(text);
            if (!written)
                continue; // it was checked on reading
            auto known = std::ranges::find(plan.parameters, name, &SweepPlan::Parameter::name);
            if (known == plan.parameters.end())
                known = plan.parameters.insert(plan.parameters.end(), {name, written->unit});
            const auto scale = written->unit.empty() || known->unit.empty() ? Result<Affine>(Affine{})
                                                                            : conversion(written->unit, known->unit);
            if (scale)
                item.parameters[name] = (*scale)(written->value);
            else
                item.why = fmt::format("{}: {}", name, scale.error().what);
        }
        plan.items.push_back(std::move(item));
    }
    for (auto& item : plan.items)
        for (const auto& parameter : plan.parameters)
            if (item.why.empty() && !item.parameters.contains(parameter.name))
                item.why = "no " + parameter.name + " is told";
}

void addRemarksTo(SweepPlan& plan) {
    std::map<std::map<std::string, double>, std::string> seen;
    std::set<std::string> names;
    for (auto& item : plan.items) {
        if (!names.insert(item.entry.name).second && item.why.empty())
            item.why = fmt::format("another case is named \"{}\" already", item.entry.name);
        const auto [at, isNew] = seen.emplace(item.parameters, item.entry.name);
        if (!isNew && item.why.empty())
            plan.remarks.push_back(fmt::format("{} and {} have the same parameters", at->second, item.entry.name));
    }
    for (const auto& parameter : plan.parameters) {
        std::set<double> values;
        for (const auto& item : plan.items)
            if (const auto found = item.parameters.find(parameter.name); found != item.parameters.end())
                values.insert(found->second);
        if (values.size() == 1)
            plan.remarks.push_back(
                fmt::format("{} has one value only, so that nothing can be told of it", parameter.name));
    }
}

} // namespace

std::optional<SweepPlan> planSweep(const Survey& survey, const std::filesystem::path& folder) {
    const bool written = std::ranges::any_of(survey.cases,
                                             [](const CaseEntry& one) { return !one.parameters.empty(); });
    if (!survey.sweep && !written)
        return std::nullopt;
    SweepPlan plan;
    if (survey.sweep && !survey.sweep->table.empty())
        readTable(survey, folder, plan);
    addWritten(survey, plan);
    if (plan.items.empty() && plan.why.empty())
        plan.why = "the sweep has no cases";
    addRemarksTo(plan);
    return plan;
}

} // namespace pyro

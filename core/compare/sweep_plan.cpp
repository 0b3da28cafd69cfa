#include "core/compare/sweep.h"

#include "core/sheets/table_columns.h"
#include "core/survey/survey_file.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cctype>
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

void nameFile(SweepPlan::Item& item, const std::filesystem::path& file, const std::filesystem::path& folder,
              const CaseEntry& like) {
    item.entry.name = file.stem().string();
    item.entry.file = file.lexically_relative(folder).empty() ? file.string()
                                                              : file.lexically_relative(folder).string();
    item.lonePart = std::filesystem::path(like.file).stem().string();
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
    nameFile(item, file, folder, like);
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

// Null where the survey has none, or none of the name that is wished.
const CaseEntry* likeOf(const Survey& survey) {
    const auto& name = survey.sweep->like;
    return !name.empty() ? survey.caseNamed(name) : survey.cases.empty() ? nullptr : &survey.cases.front();
}

// A part of a path with parameters in braces: letters, parameter, letters ...
struct PathPattern {
    std::vector<std::string> letters; // one more than parameters
    std::vector<std::string> parameters;

    // The numbers of the parameters where the whole name fits, the longest numbers first.
    std::optional<std::vector<double>> match(std::string_view name, std::size_t from = 0) const {
        if (!name.starts_with(letters[from]))
            return std::nullopt;
        name.remove_prefix(letters[from].size());
        if (from == parameters.size())
            return name.empty() ? std::optional(std::vector<double>()) : std::nullopt;
        const auto most = std::min(name.find_first_not_of("+-.,0123456789eE"), name.size());
        for (auto length = most; length > 0; --length) {
            const auto number = std::isdigit(static_cast<unsigned char>(name[length - 1])) != 0
                                    ? tableNumber(std::string(name.substr(0, length)))
                                    : std::nullopt;
            if (!number)
                continue;
            if (auto rest = match(name.substr(length), from + 1)) {
                rest->insert(rest->begin(), *number);
                return rest;
            }
        }
        return std::nullopt;
    }
};
// Errors: Syntax.
Result<PathPattern> patternOf(const std::string& written) {
    PathPattern out{{""}, {}};
    for (std::size_t at = 0; at < written.size(); ++at) {
        if (written[at] != '{') {
            out.letters.back() += written[at];
            continue;
        }
        const auto end = written.find('}', at);
        const auto name = written.substr(at + 1, end == std::string::npos ? end : end - at - 1);
        if (end == std::string::npos || name.empty() || std::ranges::find(out.parameters, name) != out.parameters.end())
            return fail(ErrorCode::Syntax,
                        fmt::format("the pattern \"{}\" needs a name of its own between each pair of braces", written));
        out.parameters.push_back(name);
        out.letters.emplace_back();
        at = end;
    }
    return out;
}

// The files below a folder whose path fits, by folder and file one after the other, with what they say.
struct FoundFile {
    std::filesystem::path file;
    std::map<std::string, double> parameters;
};
Result<std::vector<FoundFile>> filesOf(const std::filesystem::path& folder, const std::filesystem::path& pattern) {
    std::vector<FoundFile> found{{folder, {}}};
    for (const auto& piece : pattern) {
        const auto fitting = patternOf(piece.string());
        if (!fitting)
            return tl::unexpected(fitting.error());
        std::vector<FoundFile> deeper;
        for (const auto& [where, parameters] : found) {
            if (fitting->parameters.empty()) {
                deeper.push_back({where / piece, parameters});
                continue;
            }
            std::error_code status;
            for (const auto& item : std::filesystem::directory_iterator(where, status)) {
                const auto numbers = fitting->match(item.path().filename().string());
                if (!numbers)
                    continue;
                auto own = parameters;
                for (std::size_t i = 0; i < numbers->size(); ++i)
                    own[fitting->parameters[i]] = (*numbers)[i];
                deeper.push_back({item.path(), std::move(own)});
            }
        }
        found = std::move(deeper);
    }
    std::error_code status;
    std::erase_if(found, [&](const FoundFile& one) { return !std::filesystem::is_regular_file(one.file, status); });
    std::ranges::sort(found, {}, [](const FoundFile& one) { return std::pair(one.parameters, one.file); });
    return found;
}

// The files that fit the wish's pattern; the order of the parameters is that of the pattern.
void readPattern(const Survey& survey, const std::filesystem::path& folder, SweepPlan& plan) {
    const auto& wish = *survey.sweep;
    const auto* like = likeOf(survey);
    const auto parameters = patternOf(wish.pattern);
    const auto files = filesOf(std::filesystem::path(wish.pattern).is_absolute() ? "/" : folder,
                               std::filesystem::path(wish.pattern).relative_path());
    if (!parameters || !files || parameters->parameters.empty() || files->empty() ||
        (like == nullptr && !wish.like.empty())) {
        plan.why = !parameters                      ? parameters.error().what
                   : !files                         ? files.error().what
                   : parameters->parameters.empty() ? "the pattern names no parameter in braces: \"fin_h{h}.vtm\""
                   : like == nullptr && !wish.like.empty() ? fmt::format("the case \"{}\" is not there", wish.like)
                                                           : fmt::format("no file fits the pattern {}", wish.pattern);
        return;
    }
    for (const auto& name : parameters->parameters) {
        const auto told = wish.parameters.find(name);
        plan.parameters.push_back({name, told == wish.parameters.end() ? std::string() : told->second.unit});
    }
    for (const auto& [file, values] : *files) {
        SweepPlan::Item item{like != nullptr ? *like : CaseEntry{}, values, {}};
        nameFile(item, file, folder, like != nullptr ? *like : CaseEntry{});
        item.entry.parameters.clear();
        for (const auto& parameter : plan.parameters)
            item.entry.parameters[parameter.name] = valueText(values.at(parameter.name), parameter.unit);
        plan.items.push_back(std::move(item));
    }
}

// Files of one name in several folders go by their folders too.
void nameApart(SweepPlan& plan) {
    std::map<std::string, std::set<std::string>> files;
    for (const auto& item : plan.items)
        files[item.entry.name].insert(item.entry.file);
    for (auto& item : plan.items)
        if (files[item.entry.name].size() > 1)
            item.entry.name = std::filesystem::path(item.entry.file).replace_extension().string();
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
    const auto* like = likeOf(survey);
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
        const auto isListed = [&](const SweepPlan::Item& item) {
            return item.entry.name == entry.name && item.entry.file == entry.file;
        };
        if (entry.parameters.empty() || std::ranges::any_of(plan.items, isListed)) // opened out of the table
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
    else if (survey.sweep && !survey.sweep->pattern.empty())
        readPattern(survey, folder, plan);
    nameApart(plan);
    addWritten(survey, plan);
    if (plan.items.empty() && plan.why.empty())
        plan.why = "the sweep has no cases";
    addRemarksTo(plan);
    return plan;
}

} // namespace pyro

#include "core/report/tables/table_writers.h"

#include "core/feedback/csv_rows.h"
#include "core/report/xlsx.h"
#include "core/survey/survey_file.h"

#include <algorithm>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace pyro {
namespace {

using NamedTables = std::span<const std::pair<std::string, Table>>;

Done writeCsv(NamedTables tables, const std::filesystem::path& file) {
    return writeFileAtomically(file, csvOf(tables.front().second));
}

Done writeJson(NamedTables tables, const std::filesystem::path& file) {
    auto all = Json::object();
    for (const auto& [title, table] : tables)
        all[title] = jsonOf(table);
    return writeFileAtomically(file, all.dump(2) + "\n");
}

constexpr TableFormat formats[]{
    {".csv", "Comma-separated values", false, writeCsv},
    {".xlsx", "Spreadsheet", true, writeTablesXlsx},
    {".json", "JSON", true, writeJson},
};

bool endsIn(const std::filesystem::path& file, std::string_view ending) {
    auto own = file.extension().string();
    std::ranges::transform(own, own.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return own == ending;
}

std::vector<std::pair<std::string, Table>> made(const TableInput& input) {
    std::vector<std::pair<std::string, Table>> tables;
    for (const auto* kind : tableKinds())
        if (auto table = kind->make(input); !kind->onlyWithRows || !table.rows.empty())
            tables.emplace_back(kind->title, std::move(table));
    return tables;
}

} // namespace

std::string csvOf(const Table& table) {
    std::string text = csvLine(table.columns);
    for (const auto& row : table.rows) {
        CsvRow cells;
        for (const auto& cell : row)
            cells.push_back(cell.text());
        text += csvLine(cells);
    }
    return text;
}

Json jsonOf(const Table& table) {
    auto rows = Json::array();
    for (const auto& row : table.rows) {
        auto one = Json::object();
        for (std::size_t column = 0; column < row.size(); ++column) {
            const auto text = row[column].text();
            if (!text.empty())
                one[table.columns[column]] = row[column].isNumber() ? Json(row[column].number()) : Json(text);
        }
        rows.push_back(std::move(one));
    }
    return rows;
}

std::span<const TableFormat> tableFormats() { return formats; }

Done writeTable(const TableKind& kind, const TableInput& input, const std::filesystem::path& file) {
    for (const auto& format : formats) {
        if (!endsIn(file, format.ending))
            continue;
        if (format.allTables)
            return format.write(made(input), file);
        const std::pair one{std::string(kind.title), kind.make(input)};
        return format.write(std::span(&one, 1), file);
    }
    std::vector<std::string_view> endings;
    for (const auto& format : formats)
        endings.push_back(format.ending);
    return fail(ErrorCode::FormatUnknown, fmt::format("tables are written as {}", fmt::join(endings, ", ")),
                file.string(), "Choose one of these endings");
}

Done writeTablesCsv(const TableInput& input, const std::filesystem::path& folder) {
    std::error_code created;
    std::filesystem::create_directories(folder, created);
    if (created)
        return fail(ErrorCode::WriteFailed, "the folder cannot be made", folder.string(), "Choose another one");
    for (const auto* kind : tableKinds()) {
        const auto table = kind->make(input);
        if (kind->onlyWithRows && table.rows.empty())
            continue;
        if (auto done = writeFileAtomically(folder / fmt::format("{}.csv", kind->name), csvOf(table)); !done)
            return done;
    }
    return {};
}

} // namespace pyro

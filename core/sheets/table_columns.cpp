#include "core/sheets/table_columns.h"

#include <algorithm>
#include <charconv>
#include <cmath>

namespace pyro {
namespace {

bool isBlank(const CsvRow& row) {
    return std::ranges::all_of(row, [](const std::string& field) { return csvWord(field).empty(); });
}

TitledTable::Title titleOf(const std::string& written) {
    TitledTable::Title title{csvWord(written), {}, written};
    const auto open = written.find_last_of("[(");
    if (open == std::string::npos || written.find_last_not_of(" \t\r") == std::string::npos)
        return title;
    const auto end = written.find_last_of("])");
    if (end == std::string::npos || end < open)
        return title;
    title.unit = written.substr(open + 1, end - open - 1);
    title.name = csvWord(written.substr(0, open));
    return title;
}

} // namespace

std::optional<std::size_t> TitledTable::column(std::string_view name) const {
    const auto word = csvWord(std::string(name));
    for (std::size_t i = 0; i < titles.size(); ++i)
        if (titles[i].name == word || csvWord(titles[i].written) == word)
            return i;
    return std::nullopt;
}

Result<TitledTable> readTitledTable(const std::filesystem::path& file) {
    auto sheets = readSheets(file);
    if (!sheets)
        return tl::unexpected(sheets.error());
    TitledTable out;
    for (const auto& sheet : *sheets) {
        for (std::size_t i = 0; i < sheet.rows.size(); ++i) {
            auto row = sheet.rows[i];
            if (isBlank(row))
                continue;
            if (out.titles.empty()) {
                for (const auto& field : row)
                    out.titles.push_back(titleOf(field));
                continue;
            }
            row.resize(out.titles.size());
            out.rows.push_back(std::move(row));
            out.line.push_back(i + 1);
        }
        if (!out.titles.empty())
            break;
    }
    if (out.titles.empty())
        return fail(ErrorCode::FileEmpty, "the table is empty", file.string(), "Its first line holds the titles");
    return out;
}

std::string trimmed(const std::string& field) {
    const auto first = field.find_first_not_of(" \t\r");
    const auto last = field.find_last_not_of(" \t\r");
    return first == std::string::npos ? std::string() : field.substr(first, last - first + 1);
}

std::optional<double> tableNumber(const std::string& text) {
    auto word = csvWord(text);
    if (word.find('.') == std::string::npos)
        std::ranges::replace(word, ',', '.');
    if (word.starts_with('+'))
        word.erase(0, 1);
    double value = 0;
    const auto [end, status] = std::from_chars(word.data(), word.data() + word.size(), value);
    if (status != std::errc() || end != word.data() + word.size() || !std::isfinite(value))
        return std::nullopt;
    return value;
}

} // namespace pyro

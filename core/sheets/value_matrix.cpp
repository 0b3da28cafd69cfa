#include "core/sheets/value_matrix.h"

#include "core/sheets/picture_values.h"
#include "core/sheets/table_columns.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <map>

namespace pyro {
namespace {

constexpr double gap = std::numeric_limits<double>::quiet_NaN();

struct Fields {
    std::size_t numbers = 0;
    std::size_t words = 0;
};

Fields fieldsOf(const CsvRow& row) {
    Fields out;
    for (const auto& field : row) {
        const bool isNumber = tableNumber(field).has_value();
        out.numbers += isNumber ? 1 : 0;
        out.words += !isNumber && !trimmed(field).empty() ? 1 : 0;
    }
    return out;
}

// Of lines that may be rows of the matrix: the width that holds most numbers.
std::size_t widthOf(const std::vector<CsvRow>& rows) {
    std::map<std::size_t, std::size_t> numbers;
    for (const auto& row : rows)
        if (const auto fields = fieldsOf(row); row.size() > 1 && fields.numbers > fields.words)
            numbers[row.size()] += fields.numbers;
    return numbers.empty() ? 0
                           : std::ranges::max_element(numbers, {}, [](const auto& one) { return one.second; })->first;
}

// A separator behind the last number of each line makes no column; told from a picture whose last column is all gaps by
// the columns at both ends.
void dropEmptyEnd(ValueMatrix& matrix) {
    const auto anyIn = [&](std::size_t column) {
        for (std::size_t row = 0; row < matrix.rows; ++row)
            if (!std::isnan(matrix.values[row * matrix.columns + column]))
                return true;
        return false;
    };
    if (matrix.columns < 3 || anyIn(matrix.columns - 1) || !anyIn(matrix.columns - 2) || !anyIn(0))
        return;
    std::vector<double> kept;
    for (std::size_t i = 0; i < matrix.values.size(); ++i)
        if ((i + 1) % matrix.columns != 0)
            kept.push_back(matrix.values[i]);
    matrix.values = std::move(kept);
    --matrix.columns;
    matrix.notes.emplace_back("the last column is empty and taken for the separators at the ends of the lines");
}

Result<ValueMatrix> readTextMatrix(const std::filesystem::path& file) {
    const auto sheets = readSheets(file);
    if (!sheets)
        return tl::unexpected(sheets.error());
    const auto& rows = sheets->front().rows;
    ValueMatrix out;
    out.columns = widthOf(rows);
    if (out.columns == 0)
        return fail(ErrorCode::FileUnreadable, "there is no matrix of numbers in it", file.string(),
                    "Write a line for each row of the picture, its values side by side");
    const auto isRow = [&](const CsvRow& row) {
        const auto fields = fieldsOf(row);
        return row.size() == out.columns && fields.numbers >= fields.words;
    };
    const auto first = std::ranges::find_if(rows, isRow) - rows.begin();
    if (first > 0)
        out.notes.push_back(fmt::format("{} lines before the matrix are left out", first));
    std::size_t words = 0;
    for (auto at = static_cast<std::size_t>(first); at < rows.size(); ++at) {
        const auto& row = rows[at];
        if (row.size() != out.columns)
            return fail(ErrorCode::FileUnreadable,
                        fmt::format("row {} of the matrix has {} values, the others have {}", out.rows + 1, row.size(),
                                    out.columns),
                        file.string(), "Each row needs as many; leave a field empty where there is none");
        words += fieldsOf(row).words;
        for (const auto& field : row) {
            const auto value = tableNumber(field);
            out.values.push_back(value && std::isfinite(*value) ? *value : gap);
        }
        ++out.rows;
    }
    dropEmptyEnd(out);
    if (words > 0)
        out.notes.push_back(fmt::format("{} fields are no numbers and count as gaps", words));
    return out;
}

} // namespace

Result<ValueMatrix> readMatrix(const std::filesystem::path& file) {
    std::error_code status;
    if (!std::filesystem::exists(file, status))
        return fail(ErrorCode::FileMissing, "the file does not exist", file.string(), "Check its name and place");
    auto ending = file.extension().string();
    std::ranges::transform(ending, ending.begin(), [](unsigned char c) { return std::tolower(c); });
    if (ending == ".png")
        return readPng(file);
    if (ending == ".tif" || ending == ".tiff")
        return readTiff(file);
    if (ending == ".csv" || ending == ".txt")
        return readTextMatrix(file);
    return fail(ErrorCode::FileUnreadable, fmt::format("a picture with the ending \"{}\" cannot be read", ending),
                file.string(), "Export the matrix of temperatures as .csv, .tif or .png");
}

} // namespace pyro

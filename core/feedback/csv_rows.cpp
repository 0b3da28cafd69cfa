#include "core/feedback/csv_rows.h"

#include <algorithm>
#include <cctype>
#include <fmt/format.h>

namespace pyro {
namespace {

void splitSeparator(CsvRow& row, char separator, char c, std::string& field) {
    if (c == separator) {
        row.push_back(std::move(field));
        field.clear();
    } else if (c != '\r') {
        field += c;
    }
}

} // namespace

std::string csvWord(std::string text) {
    const auto first = text.find_first_not_of(" \t\xEF\xBB\xBF"); // a byte order mark too
    const auto last = text.find_last_not_of(" \t");
    text = first == std::string::npos ? "" : text.substr(first, last - first + 1);
    std::ranges::transform(text, text.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return text;
}

std::string csvLine(const CsvRow& fields) {
    std::string line;
    for (std::size_t i = 0; i < fields.size(); ++i) {
        line += i == 0 ? "" : ",";
        if (fields[i].find_first_of(",\"\n\r;") == std::string::npos) {
            line += fields[i];
            continue;
        }
        line += '"';
        for (const char c : fields[i])
            line += c == '"' ? std::string("\"\"") : std::string(1, c);
        line += '"';
    }
    return line + "\n";
}

Result<std::vector<CsvRow>> parseCsv(std::string_view text) {
    const auto header = text.substr(0, text.find('\n'));
    const char separator = std::ranges::count(header, ';') > std::ranges::count(header, ',') ? ';' : ',';
    std::vector<CsvRow> rows;
    CsvRow row;
    std::string field;
    bool quoted = false;
    int line = 1;
    int quoteLine = 1;
    for (std::size_t i = 0; i < text.size(); ++i) {
        const char c = text[i];
        line += c == '\n' ? 1 : 0;
        if (c == '"' && quoted && i + 1 < text.size() && text[i + 1] == '"') {
            field += '"';
            ++i;
        } else if (c == '"') {
            quoted = !quoted;
            quoteLine = line;
        } else if (quoted) {
            field += c;
        } else if (c == '\n') {
            row.push_back(std::move(field));
            field.clear();
            rows.push_back(std::move(row));
            row.clear();
        } else {
            splitSeparator(row, separator, c, field);
        }
    }
    if (quoted)
        return fail(ErrorCode::Syntax, "a quotation mark is never closed", fmt::format("line {}", quoteLine),
                    "Close it or remove it");
    if (!field.empty() || !row.empty()) {
        row.push_back(std::move(field));
        rows.push_back(std::move(row));
    }
    std::erase_if(rows, [](const CsvRow& one) { return one.size() == 1 && csvWord(one[0]).empty(); });
    return rows;
}

} // namespace pyro

#include "core/report/shown/shown_table.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

// Characters, not bytes, of UTF-8.
std::size_t lettersOf(const std::string& text) {
    return static_cast<std::size_t>(
        std::ranges::count_if(text, [](char c) { return (static_cast<unsigned char>(c) & 0xC0U) != 0x80U; }));
}

void addCell(std::string& line, const std::string& text, std::size_t width, bool right) {
    const auto room = width - lettersOf(text);
    if (right)
        line.append(room, ' ');
    line += text;
    if (!right)
        line.append(room, ' ');
}

} // namespace

std::string textOf(const ShownTable& table, std::size_t indent) {
    std::vector<std::string> titles;
    std::vector<std::size_t> widths;
    for (std::size_t column = 0; column < table.columns.size(); ++column) {
        titles.push_back(table.columns[column].title);
        widths.push_back(lettersOf(titles.back()));
        for (const auto& row : table.rows)
            widths.back() = std::max(widths.back(), lettersOf(row[column]));
    }
    std::string all;
    const auto add = [&](const std::vector<std::string>& cells) {
        std::string line(indent, ' ');
        for (std::size_t column = 0; column < cells.size(); ++column) {
            if (column > 0)
                line += "  ";
            addCell(line, cells[column], widths[column], table.columns[column].isNumber);
        }
        line.erase(line.find_last_not_of(' ') + 1);
        all += line + "\n";
    };
    add(titles);
    for (const auto& row : table.rows)
        add(row);
    return all;
}

} // namespace pyro

#include "core/report/tables/table.h"

#include <cmath>
#include <fmt/format.h>

namespace pyro {

std::string Cell::text() const {
    if (!isNumber())
        return m_words;
    return std::isfinite(m_number) ? fmt::format("{:.{}g}", m_number, m_digits) : std::string();
}

void addPlace(std::vector<Cell>& row, const std::optional<Point>& at) {
    for (std::size_t axis = 0; axis < 3; ++axis)
        row.push_back(at ? Cell((*at)[axis], 9) : Cell());
}

std::span<const TableKind* const> tableKinds() {
    static constexpr const TableKind* all[]{
#define TABLE(name) &name##Table,
#include "core/report/tables/list.inc"
#undef TABLE
    };
    return all;
}

} // namespace pyro

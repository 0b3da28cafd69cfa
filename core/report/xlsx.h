// Readings and charts as spreadsheets.
#pragma once

#include "core/report/chart_data.h"
#include "core/report/tables/table.h"

namespace pyro {

// One sheet for each table, with its title; numbers as numbers, words as words: a part named 007 is no number.
// Errors: WriteFailed; what stood there is then unchanged.
Done writeTablesXlsx(std::span<const std::pair<std::string, Table>> tables, const std::filesystem::path& file);
// The curves of a chart, x and y side by side, with a chart of them in the sheet.
Done writeChartXlsx(const ChartData& chart, const std::filesystem::path& file);

} // namespace pyro

// Readings and charts as spreadsheets.
#pragma once

#include "core/report/chart_data.h"
#include "core/units/display.h"

namespace pyro {

// Sheets "Gauges", "Profiles", "Limits" and "Balances" of a run, as the CSV files have them, numbers as numbers.
// Errors: WriteFailed.
Done writeRunXlsx(const Survey& survey, const SurveyRun& run, TemperatureUnit unit, const std::filesystem::path& file);
// The curves of a chart, x and y side by side, with a chart of them in the sheet.
Done writeChartXlsx(const ChartData& chart, const std::filesystem::path& file);

} // namespace pyro

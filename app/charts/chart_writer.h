// A chart as a file.
#pragma once

#include "core/report/chart_data.h"

#include <QString>

namespace pyro {

// By the ending: .png, .svg, .pdf, .csv, .xlsx. Errors: FormatUnknown, WriteFailed.
Done writeChart(const ChartData& chart, const ChartView& view, const QString& file);

} // namespace pyro

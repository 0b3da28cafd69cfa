// A chart as a file.
#pragma once

#include "core/report/chart_data.h"
#include "core/report/pages/report_document.h"

#include <QSize>
#include <QString>

namespace pyro {

// By the ending: .png, .svg, .pdf, .csv, .xlsx. Errors: FormatUnknown, WriteFailed.
Done writeChart(const ChartData& chart, const ChartView& view, const QString& file);

// For pages, without its title. In the thread of the application.
ReportPicture chartFigure(const ChartData& chart, const ChartView& view);
constexpr QSize chartSize(900, 520);

} // namespace pyro

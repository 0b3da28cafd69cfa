// charts: charts drawn by QCustomPlot, the same for the window, for files and for reports.
#pragma once

#include "core/report/chart_data.h"

#include <qcustomplot.h>

namespace pyro {

// Draws a chart into a plot, new graphs and axes included.
void drawChart(QCustomPlot& plot, const ChartData& chart, const ChartView& view);
// Puts the legend into the corner where it covers the fewest points of the curves.
void placeLegend(QCustomPlot& plot);

} // namespace pyro

// The curves of the chart, made from readings: the same for window, pictures and tables.
#pragma once

#include "core/case/solver_history.h"
#include "core/evaluate/survey_run.h"
#include "core/survey/chart_view.h"

namespace pyro {

// What a chart may draw from one case.
struct ChartCase {
    std::string name;
    std::vector<std::string> parts;      // shown names, by position in Case::parts
    std::shared_ptr<const Readings> now; // of the step on display; may be null
    std::vector<Readings> steps;         // all that are known, for histories
};

struct Curve {
    std::string title;
    std::string gauge;            // empty for a reference curve
    std::vector<double> x;        // in the units of the axes
    std::vector<double> y;        // NaN in gaps
    std::vector<Point> at;        // of profiles, metres
    std::vector<double> distance; // of profiles, metres along the line
    bool isReference = false;
};

struct ChartData {
    std::string title;
    std::string xTitle;
    std::string yTitle;
    std::vector<Curve> curves;
    std::vector<std::pair<double, std::string>> marks; // where the first profile enters another part
    std::vector<std::string> remarks; // what could not be drawn, and where a reference curve is out of its range
    bool isHistory = false;
};

// `chosen`: the gauge to draw when the view names none. Lengths in millimetres, times in seconds, minutes or hours by
// their reach.
ChartData chartData(const ChartView& view, const std::string& chosen, const Survey& survey,
                    std::span<const ChartCase> cases);

// What a solver monitored, over its iterations or times: the columns of these titles. On a logarithmic axis where all
// are positive over three decades.
ChartData historyChart(const SolverHistory& history, const std::vector<std::string>& titles, ChartView& view);

// One line per point of each curve: curve, x, y, and the place.
std::string chartCsv(const ChartData& chart);

} // namespace pyro

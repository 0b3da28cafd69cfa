// How the chart of the gauges is set up, as the survey keeps it: which gauges, which axes, which reference curves.
#pragma once

#include "core/survey/field_table.h"
#include "core/thermal/correlations.h"

namespace pyro {

struct ReferenceCurve {
    std::string correlation; // key
    FlowConditions conditions;
    double start = 0; // m: where on the line the leading edge lies
    Json rest = {};
    bool operator==(const ReferenceCurve&) const = default;
};

struct ChartView {
    std::vector<std::string> gauges; // ids; empty: the gauge that is chosen
    bool allCases = true;
    bool difference = false; // each curve less the first one
    bool logX = false;
    bool logY = false;
    std::string title; // empty: made from what is shown
    std::string xTitle;
    std::string yTitle;
    std::optional<std::array<double, 2>> xRange; // in the units on display
    std::optional<std::array<double, 2>> yRange;
    std::string xAxis; // "x", "y" or "z"; empty: the distance along the line
    // id of another profile of the same line that the values are drawn over; empty: none
    std::string xOver;
    // id of a gauge that lengths are divided by, as a boundary layer thickness; empty: none
    std::string xScale;
    std::vector<ReferenceCurve> references;
    Json rest = {};
    bool operator==(const ChartView&) const = default;
};

template <>
std::span<const KeyRow<ChartView>> rowsOf<ChartView>();

struct Survey;
// Of one of the survey's charts; one that is not there is as a new one.
const ChartView& chartOf(const Survey& survey, std::size_t at = 0);
Survey withChart(Survey survey, const ChartView& chart, std::size_t at = 0);
Survey withoutChart(Survey survey, std::size_t at);
// As lists name it: its title, else its gauges, else its number.
std::string chartName(const Survey& survey, std::size_t at);

} // namespace pyro

// The blocks of a report as a survey or a template keeps them.
#pragma once

#include "core/survey/field_table.h"

namespace pyro {

struct ReportBlock {
    std::string kind; // of core/report/pages/blocks
    bool off = false;
    std::string title;                // empty: that of its kind
    std::string text;                 // of a text block, Markdown with fields
    std::string name;                 // of a viewpoint or a chart
    std::vector<std::string> cases;   // empty: all
    std::vector<std::string> rows;    // gauges, who signs, or viewpoints side by side; empty: all
    std::vector<std::string> columns; // by their titles, in this order; empty: all
    std::optional<int> step;          // of a viewpoint
    double size = 1;                  // of a picture, share of the width of the text
    std::optional<int> decimals;      // of numbers; nothing: four significant digits, one decimal of temperatures
    std::string ground;               // of a viewpoint: "graphite", "transparent"; empty: white
    std::string scale;                // of a viewpoint: "beside", "inside", "none"; empty: beneath
    std::string labels;               // of a viewpoint: "none"; empty: parts are labelled
    std::string legend;               // of a viewpoint: "parts"; empty: none
    Json rest = {};
    bool operator==(const ReportBlock&) const = default;
};

template <>
std::span<const KeyRow<ReportBlock>> rowsOf<ReportBlock>();

} // namespace pyro

// The blocks of a report as a survey or a template keeps them.
#pragma once

#include "core/survey/field_table.h"

namespace pyro {

struct ReportBlock {
    std::string kind; // of core/report/pages/blocks
    bool off = false;
    std::string title;                // empty: that of its kind
    std::string text;                 // of a text block, Markdown with fields
    std::string name;                 // of a viewpoint
    std::vector<std::string> cases;   // empty: all
    std::vector<std::string> rows;    // gauges, or who signs; empty: all
    std::vector<std::string> columns; // by their titles, in this order; empty: all
    std::optional<int> step;          // of a viewpoint
    double size = 1;                  // of a picture, share of the width of the text
    Json rest = {};
    bool operator==(const ReportBlock&) const = default;
};

template <>
std::span<const KeyRow<ReportBlock>> rowsOf<ReportBlock>();

} // namespace pyro

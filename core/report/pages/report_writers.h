// A report as text: HTML and Markdown. PDF and ODT are written by render.
#pragma once

#include "core/report/pages/report_document.h"

#include <string>

namespace pyro {

// One file with its pictures inside, readable on a phone; tables keep their heads, headings are linked.
std::string htmlOf(const ReportDocument& document);

// Pictures are files beside it, in a folder of the name of the target and "-pictures".
struct MarkdownReport {
    std::string text;
    std::vector<std::pair<std::string, std::string>> pictures; // name in the folder, bytes
};
MarkdownReport markdownOf(const ReportDocument& document, const std::string& folder);

} // namespace pyro

// A report as HTML, Markdown and OpenDocument. Pages and PDF are drawn by render.
#pragma once

#include "core/feedback/error.h"
#include "core/report/pages/report_document.h"

#include <filesystem>
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

// As a word processor edits it: named styles, headings, tables with heads that repeat, head and foot with numbers of
// pages. Errors: WriteFailed; what stood there stays.
Done writeReportOdt(const ReportDocument& document, const std::filesystem::path& file);

} // namespace pyro

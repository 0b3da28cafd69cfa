// Markdown of a text block as parts of a report.
#pragma once

#include "core/report/pages/report_document.h"

namespace pyro {

// Headings, paragraphs, lists, bold, italic, code and links (CommonMark, by md4c); tables too. Other things are taken
// as text.
std::vector<ReportPart> partsOfMarkdown(const std::string& text);

} // namespace pyro

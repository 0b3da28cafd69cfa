// A report on pages: as PDF, and as an OpenDocument text that a word processor edits.
#pragma once

#include "core/report/pages/report_document.h"

#include <filesystem>

namespace pyro {

// A4, text that can be searched, with title and numbers of pages. Errors: WriteFailed; what stood there stays.
Done writeReportPdf(const ReportDocument& document, const std::filesystem::path& file);
// Real headings, tables and pictures. Errors: the same.
Done writeReportOdt(const ReportDocument& document, const std::filesystem::path& file);

} // namespace pyro

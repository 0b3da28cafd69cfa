// A report into a file, by its ending.
#pragma once

#include "core/feedback/progress.h"
#include "core/report/pages/report_blocks.h"

namespace pyro {

// .pdf, .odt, .html, .md, .xlsx. Errors: FormatUnknown, WriteFailed, Cancelled; what stood there stays.
Done writeReport(const ReportDocument& document, const ReportInput& input, const std::filesystem::path& file,
                 Progress& progress);

// The survey's blocks, or the usual ones.
std::vector<ReportBlock> blocksOf(const Survey& survey);

// "2026-05-04".
std::string reportDate();

} // namespace pyro

// Lists of blocks in files of their own, for other surveys: `.report.json`.
#pragma once

#include "core/feedback/error.h"
#include "core/survey/report_block.h"

#include <filesystem>

namespace pyro {

// {"pyrometer_report": 1, "blocks": [...]}. Errors: FileMissing, Syntax, WrongType with the place in the file.
Result<std::vector<ReportBlock>> readReportTemplate(const std::filesystem::path& file);
Done writeReportTemplate(const std::vector<ReportBlock>& blocks, const std::filesystem::path& file);

} // namespace pyro

// A document of the user's own with fields in it, filled: its text, styles, header and logo stay.
#pragma once

#include "core/report/pages/report_fields.h"

#include <filesystem>

namespace pyro {

// `.html` and `.odt` by their endings; of an OpenDocument its text and its styles, where headers and footers stand, are
// filled, everything else is kept byte for byte. A section whose ends stand in one row of a table repeats the row; ends
// that stand in paragraphs of their own repeat what is between them. Errors: FileMissing, FormatUnknown, Syntax,
// WriteFailed; what stood at the target stays.
Done fillTemplate(const std::filesystem::path& from, const std::filesystem::path& to, const ReportInput& input,
                  std::vector<std::string>& unknown);

} // namespace pyro

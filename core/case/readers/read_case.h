// A whole case read from its file into a new case store. Runs in pyrometer-reader.
#pragma once

#include "core/case/readers/intake.h"

namespace pyro {

// Reads any of the formats (format.h) and writes the store; nothing stands at `storeFile` unless it is complete.
// Errors: those of the format; FormatUnknown; Cancelled; WriteFailed.
Done readCaseIntoStore(const CaseSource& request, const std::filesystem::path& storeFile, Progress& progress);

} // namespace pyro

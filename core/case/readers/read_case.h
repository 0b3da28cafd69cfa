// A whole case read from its file into a new case store. Runs in pyrometer-reader.
#pragma once

#include "core/feedback/error.h"
#include "core/feedback/progress.h"

#include <filesystem>

namespace pyro {

// Reads .vtu, .pvtu, .vtp or .vtm and writes the store; nothing stands at `storeFile` unless it is complete.
// Errors: as scanXmlGrid, readBlockList and storeGrid; Cancelled; WriteFailed.
Done readCaseIntoStore(const std::filesystem::path& file, const std::filesystem::path& storeFile,
                       Progress& progress);

} // namespace pyro

// What in a folder can be opened as a case, with what belongs together taken as one.
#pragma once

#include "core/feedback/error.h"

#include <filesystem>
#include <vector>

namespace pyro {

struct FolderCase {
    std::filesystem::path file; // the one to open
    std::size_t files = 1;      // that belong to it: steps by number, pieces, blocks
    std::string how = {};       // "12 files by number", "4 pieces", "with 7 files"; empty for a file alone
};

// By name. Files that another one lists are not told on their own; folders within are not looked into. Errors:
// FileMissing, FileUnreadable.
Result<std::vector<FolderCase>> casesIn(const std::filesystem::path& folder);

} // namespace pyro

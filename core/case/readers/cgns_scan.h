// The tree of a CGNS file, checked before its library reads it.
#pragma once

#include "core/feedback/error.h"

#include <filesystem>
#include <vector>

namespace pyro {

// The files that links of it lead to, all inside its folder. Errors: FileUnreadable for what is no CGNS file,
// NotSupported for links out of the folder, FileMissing, SizeAbsurd for data that the file cannot hold, Syntax for a
// tree that has no end.
Result<std::vector<std::filesystem::path>> scanCgns(const std::filesystem::path& file);

} // namespace pyro

// A list of time steps in VTK's collection files (.pvd).
#pragma once

#include "core/feedback/error.h"

#include <filesystem>
#include <vector>

namespace pyro {

struct CollectedStep {
    double seconds;
    std::filesystem::path file;
};

// In the order of the file. Errors: FileMissing, FileUnreadable, Syntax, NoCells for a list of nothing; NotSupported
// for several files at one time and for files out of the folder.
Result<std::vector<CollectedStep>> readCollection(const std::filesystem::path& file);

} // namespace pyro

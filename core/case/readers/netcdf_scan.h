// The head of a classic netCDF file (CDF-1, CDF-2, CDF-5) against the size of the file.
#pragma once

#include "core/feedback/error.h"

#include <filesystem>

namespace pyro {

// Whether every variable that the head declares lies within the file. A file that is HDF5 (netCDF-4) passes: its
// library checks itself. Errors: FileUnreadable for any other file, FileTruncated, SizeAbsurd, Syntax for a head that
// cannot be.
Done scanNetcdf(const std::filesystem::path& file);

} // namespace pyro

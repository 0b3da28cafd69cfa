// Legacy .vtk files, versions 2.0 to 5.1, ASCII and binary, of five kinds of data set.
#pragma once

#include "core/case/readers/grid.h"

namespace pyro {

// What the file declares is checked against its size before the library reads it.
// Errors: FileTruncated, SizeAbsurd, Syntax, FormatUnknown, FileUnreadable with what the library reports; NoCells.
Result<vtkSmartPointer<vtkPointSet>> readLegacy(const std::filesystem::path& file);

// Field data TIME or TimeValue, seconds.
std::optional<double> legacyTime(const std::filesystem::path& file);

} // namespace pyro

// VTK's HDF files ("VTKHDF File Format", version 1.0 and 2.0): an unstructured grid, in pieces and steps, or an image.
#pragma once

#include "core/case/readers/intake.h"

#include <vector>

namespace pyro {

// Pieces are joined where nodes have the same coordinates to the last bit. Errors: as HdfFile; FormatUnknown for other
// HDF5 files; NotSupported for kinds that are not read; LengthMismatch, IndexOutOfRange.
Done readVtkHdf(const CaseSource& source, Intake& to);
std::vector<double> vtkHdfTimes(const std::filesystem::path& file);

} // namespace pyro

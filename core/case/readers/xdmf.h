// XDMF 2 and 3: grids in XML with their numbers in HDF5, in binary files beside or in the XML itself.
#pragma once

#include "core/case/readers/intake.h"

#include <vector>

namespace pyro {

// Spatial collections become parts, temporal ones steps; grids that share one mesh are one, with the attributes of all.
// References lead within the file, names of files within its folder. Errors: Syntax with the place in the file;
// NotSupported, FileMissing, LengthMismatch, IndexOutOfRange; NoCells.
Done readXdmf(const CaseSource& source, Intake& to);
std::vector<double> xdmfTimes(const std::filesystem::path& file);

} // namespace pyro

// Exodus II: element blocks as parts, side sets as boundaries, all time steps; classic, 64-bit and netCDF-4 files; also
// the pieces of a case that was computed in parallel ("name.e.4.0" and its like), of which any one stands for all.
#pragma once

#include "core/case/readers/intake.h"

#include <vector>

namespace pyro {

// The file is read with netCDF's own library: the mesh as it was solved on, without displacements. Names that end in x,
// y, z become one vector. Errors: as scanNetcdf; LengthMismatch and IndexOutOfRange with the variable; NotSupported for
// kinds of elements; NoCells.
Done readExodus(const CaseSource& source, Intake& to);
std::vector<double> exodusTimes(const std::filesystem::path& file);

} // namespace pyro

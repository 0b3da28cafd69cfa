// VTK's own HDF files (.vtkhdf, .hdf with a group VTKHDF).
#pragma once

#include "core/case/readers/intake.h"

namespace pyro {

// Errors: those of HdfFile::open; FormatUnknown without the group; NotSupported for kinds that the library does not read; NoCells.
Done readVtkHdf(const CaseSource& source, Intake& to);

} // namespace pyro

// CGNS (cgns.org, SIDS 3.4): zones are parts, boundary conditions are boundaries.
#pragma once

#include "core/case/case_split.h"
#include "core/case/readers/intake.h"

#include <vector>

namespace pyro {

// Errors: as CgnsFile::open, readCgnsMesh, readCgnsValues.
Done readCgns(const CaseSource& source, Intake& to);
std::vector<double> cgnsTimes(const std::filesystem::path& file); // seconds, one for each step

} // namespace pyro

// The file formats that are read, each in a file of its own: a new one is that file and its line in
// core/case/formats.inc.
#pragma once

#include "core/case/readers/intake.h"

#include <span>
#include <vector>

namespace pyro {

struct CaseFormat {
    std::vector<std::string_view> endings;    // with the dot, lower case
    Done (*read)(const CaseSource&, Intake&); // errors name the file and what to do
    // The times of the steps within the file, seconds, from its head; NaN for a step without one; empty when it has one
    // step that carries none.
    std::vector<double> (*times)(const std::filesystem::path&);
};

// Those of formats.inc, each defined in a file of its own. Errors of `read`: as its header tells.
#define CASE_FORMAT(read, times, ...)                                                                                  \
    Done read(const CaseSource&, Intake&);                                                                             \
    std::vector<double> times(const std::filesystem::path&);
#include "core/case/formats.inc"
#undef CASE_FORMAT

std::span<const CaseFormat> caseFormats();
const CaseFormat* formatOf(const std::filesystem::path& file); // by its ending, in any case; null when none reads it
std::string endingsRead();                                     // ".vtu .vtp ..." for messages

// Structured, rectilinear and image grids as cells: hexahedra, quadrangles of a plane one, lines. Blanked cells and
// ghosts are left out. An unstructured grid or surface comes back as it is.
Result<vtkSmartPointer<vtkPointSet>> asCells(vtkDataSet& grid, const std::string& where);
// The same, but a whole structured grid in space, without anything blanked, stays a vtkStructuredGrid, whose cells need
// not be held to be stored.
Result<vtkSmartPointer<vtkPointSet>> asLatticeOrCells(vtkDataSet& grid, const std::string& where);

} // namespace pyro

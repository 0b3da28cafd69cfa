// A partitioned unstructured grid (.pvtu): its pieces put together into one grid.
#pragma once

#include "core/case/readers/grid.h"

namespace pyro {

bool isPartitioned(const std::filesystem::path& file); // .pvtu, .pvti, .pvtr, .pvts

// The files of the pieces, in the order in which they are listed.
// Errors: as scanXmlGrid; NoCells when none is listed; FileMissing for a piece that does not exist or lies outside the
// folder: a mesh with a hole would give wrong results without a sign.
Result<std::vector<std::filesystem::path>> piecesOf(const std::filesystem::path& pvtuFile);

// Ghost cells are dropped, nodes that several pieces share become one: by global node numbers where the pieces carry
// them, else where coordinates are equal to the last bit. Arrays that some piece lacks are left out with a remark.
// Errors: as piecesOf and readGrid; LengthMismatch where global node numbers contradict the coordinates.
Result<vtkSmartPointer<vtkPointSet>> readPartitioned(const std::filesystem::path& pvtuFile, Remarks& remarks);

} // namespace pyro

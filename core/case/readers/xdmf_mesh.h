// One uniform grid of an XDMF file as a VTK grid.
#pragma once

#include "core/case/readers/xdmf_data.h"

#include <vtkPointSet.h>
#include <vtkSmartPointer.h>

namespace pyro {

// Nodes and cells of a Grid element, structured ones as cells, without its attributes.
// Errors: Syntax, NotSupported for kinds of cells and coordinates that are not read, IndexOutOfRange, LengthMismatch,
// NoCells.
Result<vtkSmartPointer<vtkPointSet>> xdmfMesh(pugi::xml_node grid, XdmfData& data);

// Adds the attributes of a Grid element; a remark for those that lie neither on nodes nor in cells.
// Errors: LengthMismatch for one that does not fit the mesh; those of XdmfData::numbers.
Done addXdmfAttributes(pugi::xml_node grid, XdmfData& data, vtkPointSet& mesh, Remarks& remarks);

} // namespace pyro

// Surfaces from STL, OBJ and PLY files, in the unit of the file.
#pragma once

#include "core/case/readers/grid.h"

namespace pyro {

bool isSurfaceFile(const std::filesystem::path& file); // by its ending

struct NamedSurface {
    std::string name; // of a solid; else the file's stem
    vtkSmartPointer<vtkPointSet> grid;
};

// One surface for each solid of an STL, one for other files. Errors: FileTruncated for a binary STL whose length is not
// the one it declares; FormatUnknown, FileUnreadable; NoCells.
Result<std::vector<NamedSurface>> readSurfaces(const std::filesystem::path& file);

} // namespace pyro

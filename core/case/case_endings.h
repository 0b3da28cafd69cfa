// The endings of the files that can be opened as a case; core/case/readers/format.h tells what reads each.
#pragma once

#include <array>
#include <string_view>

namespace pyro {

inline constexpr std::array<std::string_view, 22> caseEndings{".vtu", ".pvtu", ".vtp", ".vti", ".pvti", ".vtr", ".pvtr", ".vts", ".pvts", ".vtk",
                                                              ".vtm", ".cgns", ".e", ".exo", ".ex2", ".xdmf", ".xmf", ".vtkhdf", ".hdf", ".stl", ".obj", ".ply"};

} // namespace pyro

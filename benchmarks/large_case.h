// The large meshes of the benchmarks: hexahedra 160x160x160, smoothly warped, with a smooth temperature and two
// dozen peaks.
#pragma once

#include "core/case/writers/vtk_file.h"

namespace pyro::bench {

BlockData largeHexahedra(int perSide = 160);

} // namespace pyro::bench

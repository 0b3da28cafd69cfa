// The large meshes of the benchmarks: 160x160x160 hexahedra and 88x88x88x6 tetrahedra, smoothly warped, with a smooth
// temperature and two dozen peaks.
#pragma once

#include "core/case/writers/vtk_file.h"

namespace pyro::bench {

BlockData largeHexahedra(int perSide = 160);
BlockData largeTetrahedra(int perSide = 88);
// The side of one of them with the lowest or highest coordinate along an axis, as a boundary with the temperature on
// its nodes.
BlockData sideOf(const BlockData& block, int perSide, int axis, bool high);

} // namespace pyro::bench

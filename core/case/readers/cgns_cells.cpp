#include "core/case/readers/cgns_cells.h"

#include "core/case/readers/node_order.h"

#include <algorithm>
#include <array>
#include <cgnslib.h>
#include <vtkCellType.h>

namespace pyro {
namespace {

// SIDS, 3.3, "Unstructured Grid Element Numbering Conventions".
std::vector<std::size_t> hexahedron27() {
    auto order = swapped(27, 12, 4);
    // Middles of faces: bottom, front, right, back, left, top in the file; left, right, front, back, bottom, top here.
    constexpr std::array<std::size_t, 6> faces{24, 22, 21, 23, 20, 25};
    std::ranges::copy(faces, order.begin() + 20);
    return order;
}

} // namespace

const CgnsKind* cgnsKind(int elementType) {
    static const std::array<CgnsKind, 18> kinds{{
        {CGNS_ENUMV(NODE), VTK_VERTEX, 0, 1},
        {CGNS_ENUMV(BAR_2), VTK_LINE, 1, 2},
        {CGNS_ENUMV(BAR_3), VTK_QUADRATIC_EDGE, 1, 3},
        {CGNS_ENUMV(TRI_3), VTK_TRIANGLE, 2, 3},
        {CGNS_ENUMV(TRI_6), VTK_QUADRATIC_TRIANGLE, 2, 6},
        {CGNS_ENUMV(QUAD_4), VTK_QUAD, 2, 4},
        {CGNS_ENUMV(QUAD_8), VTK_QUADRATIC_QUAD, 2, 8},
        {CGNS_ENUMV(QUAD_9), VTK_BIQUADRATIC_QUAD, 2, 9},
        {CGNS_ENUMV(TETRA_4), VTK_TETRA, 3, 4},
        {CGNS_ENUMV(TETRA_10), VTK_QUADRATIC_TETRA, 3, 10},
        {CGNS_ENUMV(PYRA_5), VTK_PYRAMID, 3, 5},
        {CGNS_ENUMV(PYRA_13), VTK_QUADRATIC_PYRAMID, 3, 13},
        {CGNS_ENUMV(PENTA_6), VTK_WEDGE, 3, 6},
        {CGNS_ENUMV(PENTA_15), VTK_QUADRATIC_WEDGE, 3, 15, swapped(15, 9, 3)},
        {CGNS_ENUMV(PENTA_18), VTK_BIQUADRATIC_QUADRATIC_WEDGE, 3, 18, swapped(18, 9, 3)},
        {CGNS_ENUMV(HEXA_8), VTK_HEXAHEDRON, 3, 8},
        {CGNS_ENUMV(HEXA_20), VTK_QUADRATIC_HEXAHEDRON, 3, 20, swapped(20, 12, 4)},
        {CGNS_ENUMV(HEXA_27), VTK_TRIQUADRATIC_HEXAHEDRON, 3, 27, hexahedron27()},
    }};
    const auto found = std::ranges::find(kinds, elementType, &CgnsKind::cgns);
    return found == kinds.end() ? nullptr : &*found;
}

} // namespace pyro

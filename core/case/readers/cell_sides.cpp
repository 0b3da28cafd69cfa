#include "core/case/readers/cell_sides.h"

#include <algorithm>
#include <array>
#include <vtkCellType.h>

namespace pyro {
namespace {

using Ends = std::array<std::size_t, 2>;

// The edges whose middles follow the corners, in VTK's order (its file format's description of the cells).
std::span<const Ends> edgesOf(int vtkType) {
    static constexpr std::array<Ends, 12> hexahedron{
        {{0, 1}, {1, 2}, {2, 3}, {3, 0}, {4, 5}, {5, 6}, {6, 7}, {7, 4}, {0, 4}, {1, 5}, {2, 6}, {3, 7}}};
    static constexpr std::array<Ends, 6> tetrahedron{{{0, 1}, {1, 2}, {2, 0}, {0, 3}, {1, 3}, {2, 3}}};
    static constexpr std::array<Ends, 9> wedge{
        {{0, 1}, {1, 2}, {2, 0}, {3, 4}, {4, 5}, {5, 3}, {0, 3}, {1, 4}, {2, 5}}};
    static constexpr std::array<Ends, 8> pyramid{{{0, 1}, {1, 2}, {2, 3}, {3, 0}, {0, 4}, {1, 4}, {2, 4}, {3, 4}}};
    switch (vtkType) {
    case VTK_QUADRATIC_HEXAHEDRON:
    case VTK_TRIQUADRATIC_HEXAHEDRON:
        return hexahedron;
    case VTK_QUADRATIC_TETRA:
        return tetrahedron;
    case VTK_QUADRATIC_WEDGE:
    case VTK_BIQUADRATIC_QUADRATIC_WEDGE:
        return wedge;
    case VTK_QUADRATIC_PYRAMID:
        return pyramid;
    default:
        return {};
    }
}

// The node between two corners; nothing in linear cells.
std::optional<std::size_t> between(int vtkType, std::size_t a, std::size_t b) {
    const auto edges = edgesOf(vtkType);
    for (std::size_t i = 0; i < edges.size(); ++i)
        if ((edges[i][0] == a && edges[i][1] == b) || (edges[i][0] == b && edges[i][1] == a))
            return static_cast<std::size_t>(cellShape(*straightKind(vtkType))->corners) + i;
    return std::nullopt;
}

// The node amid four corners, of cells that have one there.
std::optional<std::size_t> amid(int vtkType, std::span<const std::size_t> corners) {
    using Four = std::array<std::size_t, 4>;
    static constexpr std::array<Four, 6> hexahedron{
        {{0, 3, 4, 7}, {1, 2, 5, 6}, {0, 1, 4, 5}, {2, 3, 6, 7}, {0, 1, 2, 3}, {4, 5, 6, 7}}};
    static constexpr std::array<Four, 3> wedge{{{0, 1, 3, 4}, {1, 2, 4, 5}, {0, 2, 3, 5}}};
    const bool hexahedral = vtkType == VTK_TRIQUADRATIC_HEXAHEDRON;
    if (corners.size() != 4 || (!hexahedral && vtkType != VTK_BIQUADRATIC_QUADRATIC_WEDGE))
        return std::nullopt;
    Four sorted{};
    std::ranges::copy(corners, sorted.begin());
    std::ranges::sort(sorted);
    const std::span<const Four> faces = hexahedral ? std::span<const Four>(hexahedron) : std::span<const Four>(wedge);
    const auto found = std::ranges::find(faces, sorted);
    return found == faces.end()
               ? std::nullopt
               : std::optional((hexahedral ? 20U : 15U) + static_cast<std::size_t>(found - faces.begin()));
}

} // namespace

std::optional<CellType> straightKind(int vtkType) {
    switch (vtkType) {
    case VTK_TETRA:
    case VTK_QUADRATIC_TETRA:
        return CellType::Tetrahedron;
    case VTK_PYRAMID:
    case VTK_QUADRATIC_PYRAMID:
        return CellType::Pyramid;
    case VTK_WEDGE:
    case VTK_QUADRATIC_WEDGE:
    case VTK_BIQUADRATIC_QUADRATIC_WEDGE:
        return CellType::Wedge;
    case VTK_HEXAHEDRON:
    case VTK_QUADRATIC_HEXAHEDRON:
    case VTK_TRIQUADRATIC_HEXAHEDRON:
        return CellType::Hexahedron;
    default:
        return std::nullopt;
    }
}

void addSide(int vtkType, std::span<const vtkIdType> cell, std::span<const std::size_t> corners, CellRows& to) {
    std::vector<vtkIdType> nodes;
    std::vector<vtkIdType> middles;
    for (std::size_t i = 0; i < corners.size(); ++i) {
        nodes.push_back(cell[corners[i]]);
        if (const auto middle = between(vtkType, corners[i], corners[(i + 1) % corners.size()]))
            middles.push_back(cell[*middle]);
    }
    const bool curved = corners.size() > 2 && middles.size() == corners.size();
    if (curved)
        nodes.insert(nodes.end(), middles.begin(), middles.end());
    const auto centre = curved ? amid(vtkType, corners) : std::nullopt;
    if (centre)
        nodes.push_back(cell[*centre]);
    switch (corners.size()) {
    case 2:
        return to.add(VTK_LINE, nodes);
    case 3:
        return to.add(curved ? VTK_QUADRATIC_TRIANGLE : VTK_TRIANGLE, nodes);
    default:
        return to.add(centre ? VTK_BIQUADRATIC_QUAD : curved ? VTK_QUADRATIC_QUAD : VTK_QUAD, nodes);
    }
}

} // namespace pyro

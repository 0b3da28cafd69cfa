#include "core/trust/cell_shape.h"

#include "core/field/vector_algebra.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <span>

namespace pyro {
namespace {

// The three neighbours of each corner along its edges, of the cell types that have volume; the apex of a pyramid is
// left out.
struct Corner {
    std::uint8_t at;
    std::uint8_t to[3];
};
constexpr std::array<Corner, 8> hexahedronCorners{{{0, {1, 3, 4}},
                                                   {1, {2, 0, 5}},
                                                   {2, {3, 1, 6}},
                                                   {3, {0, 2, 7}},
                                                   {4, {7, 5, 0}},
                                                   {5, {4, 6, 1}},
                                                   {6, {5, 7, 2}},
                                                   {7, {6, 4, 3}}}};
constexpr std::array<Corner, 4> tetrahedronCorners{{{0, {1, 2, 3}}, {1, {2, 0, 3}}, {2, {0, 1, 3}}, {3, {1, 0, 2}}}};
constexpr std::array<Corner, 6> wedgeCorners{
    {{0, {1, 2, 3}}, {1, {2, 0, 4}}, {2, {0, 1, 5}}, {3, {5, 4, 0}}, {4, {3, 5, 1}}, {5, {4, 3, 2}}}};
constexpr std::array<Corner, 4> pyramidCorners{{{0, {1, 3, 4}}, {1, {2, 0, 4}}, {2, {3, 1, 4}}, {3, {0, 2, 4}}}};

struct CornerTable {
    std::span<const Corner> corners;
    double ideal; // of the determinant of unit edges in the regular cell
};
CornerTable cornersOf(CellType type) {
    switch (type) {
    case CellType::Hexahedron:
    case CellType::CurvedHexahedron:
        return {hexahedronCorners, 1};
    case CellType::Tetrahedron:
    case CellType::CurvedTetrahedron:
        return {tetrahedronCorners, std::sqrt(0.5)};
    case CellType::Wedge:
    case CellType::CurvedWedge:
        return {wedgeCorners, std::sqrt(0.75)};
    case CellType::Pyramid:
        return {pyramidCorners, std::sqrt(0.5)};
    default:
        return {{}, 1};
    }
}

} // namespace

double scaledJacobian(const Mesh& mesh, std::size_t cell) {
    const auto table = cornersOf(mesh.type(cell));
    if (table.corners.empty())
        return 1;
    const auto nodes = mesh.cell(cell);
    double least = 1e300;
    double most = -1e300;
    for (const auto& corner : table.corners) {
        const auto at = mesh.node(nodes[corner.at]);
        const auto edge = [&](int i) { return unit(minus(mesh.node(nodes[corner.to[i]]), at)); };
        const double volume = dot(cross(edge(0), edge(1)), edge(2)) / table.ideal;
        least = std::min(least, volume);
        most = std::max(most, volume);
    }
    return std::abs(least) > std::abs(most) ? -most : least; // turned over as a whole is only numbered otherwise
}

} // namespace pyro

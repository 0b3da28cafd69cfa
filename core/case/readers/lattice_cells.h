// Hexahedra of a structured grid by their numbers, without a list of them.
#pragma once

#include <algorithm>
#include <array>
#include <cstddef>
#include <vtkType.h>

namespace pyro {

struct LatticeCells {
    std::array<std::size_t, 3> nodes; // along i, j, k, each 2 at least; i is the fastest

    std::size_t count() const { return (nodes[0] - 1) * (nodes[1] - 1) * (nodes[2] - 1); }
    // In the order of a hexahedron whose third direction is k.
    std::array<vtkIdType, 8> corners(std::size_t cell) const {
        const auto along = nodes[0] - 1;
        const auto layer = along * (nodes[1] - 1);
        const std::size_t corner = cell % along + nodes[0] * (cell % layer / along + nodes[1] * (cell / layer));
        const std::size_t inSheet = nodes[0] * nodes[1];
        const auto first = static_cast<vtkIdType>(corner);
        const auto row = static_cast<vtkIdType>(nodes[0]);
        const auto sheet = static_cast<vtkIdType>(inSheet);
        return {first,         first + 1,         first + 1 + row,         first + row,
                first + sheet, first + 1 + sheet, first + 1 + row + sheet, first + row + sheet};
    }
};

// Of the edges at the first corner: positive where they are right-handed. `points`: 3 for each node.
template <class Real>
double volumeSign(const Real* points, const std::array<vtkIdType, 8>& nodes) {
    const auto at = [&](std::size_t corner, std::size_t axis) {
        return static_cast<double>(points[3 * nodes[corner] + static_cast<vtkIdType>(axis)]);
    };
    std::array<std::array<double, 3>, 3> edge{};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        edge[0][axis] = at(1, axis) - at(0, axis);
        edge[1][axis] = at(3, axis) - at(0, axis);
        edge[2][axis] = at(4, axis) - at(0, axis);
    }
    return edge[0][0] * (edge[1][1] * edge[2][2] - edge[1][2] * edge[2][1]) -
           edge[0][1] * (edge[1][0] * edge[2][2] - edge[1][2] * edge[2][0]) +
           edge[0][2] * (edge[1][0] * edge[2][1] - edge[1][1] * edge[2][0]);
}

// Upside down the cells of a left-handed grid are hexahedra as they should be.
template <class Real>
void turnIfLeftHanded(const Real* points, std::array<vtkIdType, 8>& nodes) {
    if (volumeSign(points, nodes) < 0)
        std::rotate(nodes.begin(), nodes.begin() + 4, nodes.end());
}

} // namespace pyro

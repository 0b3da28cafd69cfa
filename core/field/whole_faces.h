// Outer faces of cells as wholes, of curved cells all the pieces of one face together, found by their corners: so faces
// of another order are known to be the same.
#pragma once

#include "core/field/shell.h"

#include <array>
#include <functional>
#include <map>
#include <vector>

namespace pyro {

using Corners = std::vector<Point>; // in any order

// The faces of a shell that are one face of a cell.
struct WholeFace {
    std::uint32_t part;
    std::uint32_t first; // of the shell
    std::uint32_t count;
    std::vector<std::uint32_t> corners; // nodes of the part, in ring order
};

std::vector<WholeFace> wholeFaces(const Case& solved, std::span<const ShellView> shells);

Corners placesOf(const Mesh& mesh, std::span<const std::uint32_t> nodes);
double sizeOf(const Corners& corners); // m: the longest way from the first one

class WholeFaceLookup {
public:
    WholeFaceLookup(const Case& solved, std::vector<WholeFace> faces);

    std::span<const WholeFace> faces() const { return m_faces; }
    // One that has the same corners, to 1e-6 of its size, and that `wanted` agrees to; null when there is none.
    const WholeFace* find(const Corners& corners, const std::function<bool(const WholeFace&)>& wanted) const;

private:
    std::array<long long, 3> bin(const Point& at) const;

    const Case& m_case;
    std::vector<WholeFace> m_faces;
    double m_spacing = 1;
    std::multimap<std::array<long long, 3>, std::uint32_t> m_at; // by the bin of the middle of the corners
};

} // namespace pyro

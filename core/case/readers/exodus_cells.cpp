#include "core/case/readers/exodus_cells.h"

#include "core/case/readers/node_order.h"

#include <algorithm>
#include <array>
#include <vtkCellType.h>

namespace pyro {

std::optional<ExodusKind> exodusKind(const std::string& type, std::size_t nodes) {
    std::string word;
    for (const char c : type)
        if (std::isalpha(static_cast<unsigned char>(c)) != 0)
            word += static_cast<char>(std::toupper(static_cast<unsigned char>(c)));
    const auto is = [&](std::initializer_list<std::string_view> names) {
        return std::ranges::any_of(names, [&](auto name) { return word.starts_with(name); });
    };
    if (is({"HEX"})) {
        if (nodes == 8)
            return ExodusKind{VTK_HEXAHEDRON, 3, {}};
        if (nodes == 20)
            return ExodusKind{VTK_QUADRATIC_HEXAHEDRON, 3, swapped(20, 12, 4)};
        // centre, bottom, top, left, right, front, back -> left, right, front, back, bottom, top, centre
        if (nodes == 27) {
            auto order = swapped(27, 12, 4);
            const std::array<std::size_t, 7> middles{23, 24, 25, 26, 21, 22, 20};
            std::ranges::copy(middles, order.begin() + 20);
            return ExodusKind{VTK_TRIQUADRATIC_HEXAHEDRON, 3, order};
        }
    } else if (is({"TET"})) {
        if (nodes == 4)
            return ExodusKind{VTK_TETRA, 3, {}};
        if (nodes == 10)
            return ExodusKind{VTK_QUADRATIC_TETRA, 3, {}};
    } else if (is({"WED", "PRISM"})) {
        if (nodes == 6)
            return ExodusKind{VTK_WEDGE, 3, {}};
        if (nodes == 15)
            return ExodusKind{VTK_QUADRATIC_WEDGE, 3, swapped(15, 9, 3)};
    } else if (is({"PYR"})) {
        if (nodes == 5)
            return ExodusKind{VTK_PYRAMID, 3, {}};
        if (nodes == 13)
            return ExodusKind{VTK_QUADRATIC_PYRAMID, 3, {}};
    } else if (is({"QUAD", "SHELL", "TRI"})) {
        if (nodes == 3)
            return ExodusKind{VTK_TRIANGLE, 2, {}};
        if (nodes == 4)
            return ExodusKind{VTK_QUAD, 2, {}};
        if (nodes == 6)
            return ExodusKind{VTK_QUADRATIC_TRIANGLE, 2, {}};
        if (nodes == 8)
            return ExodusKind{VTK_QUADRATIC_QUAD, 2, {}};
        if (nodes == 9)
            return ExodusKind{VTK_BIQUADRATIC_QUAD, 2, {}};
    } else if (is({"BAR", "BEAM", "TRUSS", "EDGE", "ROD"})) {
        if (nodes == 2)
            return ExodusKind{VTK_LINE, 1, {}};
        if (nodes == 3)
            return ExodusKind{VTK_QUADRATIC_EDGE, 1, {}};
    }
    return std::nullopt;
}

std::vector<std::size_t> exodusSide(const ExodusKind& kind, bool shell, std::size_t side) {
    using Sides = std::vector<std::vector<std::size_t>>;
    static const Sides hexahedron{{0, 1, 5, 4}, {1, 2, 6, 5}, {2, 3, 7, 6}, {0, 4, 7, 3}, {0, 3, 2, 1}, {4, 5, 6, 7}};
    static const Sides tetrahedron{{0, 1, 3}, {1, 2, 3}, {0, 3, 2}, {0, 2, 1}};
    static const Sides wedge{{0, 1, 4, 3}, {1, 2, 5, 4}, {0, 3, 5, 2}, {0, 2, 1}, {3, 4, 5}};
    static const Sides pyramid{{0, 1, 4}, {1, 2, 4}, {2, 3, 4}, {0, 4, 3}, {0, 3, 2, 1}};
    static const Sides quadrilateral{{0, 1}, {1, 2}, {2, 3}, {3, 0}};
    static const Sides triangle{{0, 1}, {1, 2}, {2, 0}};
    const bool three = kind.vtk == VTK_TRIANGLE || kind.vtk == VTK_QUADRATIC_TRIANGLE;
    if (kind.dimension == 2 && shell) {
        if (side <= 2 && side > 0)
            return three ? std::vector<std::size_t>{0, 1, 2} : std::vector<std::size_t>{0, 1, 2, 3};
        side -= std::min<std::size_t>(side, 2);
    }
    const Sides* sides = nullptr;
    switch (kind.vtk) {
    case VTK_HEXAHEDRON:
    case VTK_QUADRATIC_HEXAHEDRON:
    case VTK_TRIQUADRATIC_HEXAHEDRON:
        sides = &hexahedron;
        break;
    case VTK_TETRA:
    case VTK_QUADRATIC_TETRA:
        sides = &tetrahedron;
        break;
    case VTK_WEDGE:
    case VTK_QUADRATIC_WEDGE:
        sides = &wedge;
        break;
    case VTK_PYRAMID:
    case VTK_QUADRATIC_PYRAMID:
        sides = &pyramid;
        break;
    default:
        sides = kind.dimension == 2 ? (three ? &triangle : &quadrilateral) : nullptr;
    }
    return sides != nullptr && side > 0 && side <= sides->size() ? (*sides)[side - 1] : std::vector<std::size_t>();
}

} // namespace pyro

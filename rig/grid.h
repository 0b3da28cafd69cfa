// The rectilinear grid of a model: lines, and which box each cell belongs to.
#pragma once

#include "rig/model.h"

#include <cstdint>

namespace pyro::rig {

struct Grid {
    std::array<std::vector<double>, 3> lines; // m, ascending
    std::vector<std::int32_t> box;            // per cell: position in Model::boxes, -1 for a void

    std::size_t cells(int axis) const { return lines[static_cast<std::size_t>(axis)].size() - 1; }
    std::size_t cellCount() const { return box.size(); }
    std::size_t cell(std::size_t i, std::size_t j, std::size_t k) const { return i + cells(0) * (j + cells(1) * k); }
    std::array<std::size_t, 3> indices(std::size_t cell) const {
        return {cell % cells(0), cell / cells(0) % cells(1), cell / (cells(0) * cells(1))};
    }
    double width(int axis, std::size_t i) const {
        const auto& line = lines[static_cast<std::size_t>(axis)];
        return line[i + 1] - line[i];
    }
    double centre(int axis, std::size_t i) const {
        const auto& line = lines[static_cast<std::size_t>(axis)];
        return 0.5 * (line[i + 1] + line[i]);
    }
    using Index = std::array<std::size_t, 3>;
    double volume(const Index& at) const { return width(0, at[0]) * width(1, at[1]) * width(2, at[2]); } // m3
    // m2
    double area(int axis, const Index& at) const {
        return volume(at) / width(axis, at[static_cast<std::size_t>(axis)]);
    }
    Vec faceCentre(const Index& at, int axis, bool above) const;

    static constexpr std::ptrdiff_t none = -1;
    // The neighbour on a side, or none at the rim and where there is a void.
    std::ptrdiff_t neighbour(const Index& at, int axis, bool above) const;
    // A side of a cell in the order of Side.
    static std::size_t sideOf(int axis, bool above) { return 2 * static_cast<std::size_t>(axis) + (above ? 1 : 0); }
    // use(cell, at, axis, above, neighbour) for the six sides of every cell that is no void.
    template <class Use>
    void forSides(Use use) const {
        for (std::size_t cell = 0; cell < box.size(); ++cell) {
            if (box[cell] < 0)
                continue;
            const auto at = indices(cell);
            for (int axis = 0; axis < 3; ++axis)
                for (const bool above : {false, true})
                    use(cell, at, axis, above, neighbour(at, axis, above));
        }
    }
};

// Lines at the given coordinates and, between two of them, cells that grow from `fine` at both ends.
std::vector<double> gridLines(std::vector<double> faces, const AxisRule& rule);

// Errors: SizeAbsurd for more than 2^31 cells; WrongType for a box of which nothing is left, named.
Result<Grid> makeGrid(const Model& model);

// Every cell halved along every axis; an axis of one cell, as the depth of a model in two dimensions, stays. Errors: as
// above.
Result<Grid> halved(const Model& model, const Grid& grid);

} // namespace pyro::rig

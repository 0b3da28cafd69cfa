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
};

// Lines at the given coordinates and, between two of them, cells that grow from `fine` at both ends.
std::vector<double> gridLines(std::vector<double> faces, const AxisRule& rule);

// Errors: SizeAbsurd for more than 2^31 cells.
Result<Grid> makeGrid(const Model& model);

} // namespace pyro::rig

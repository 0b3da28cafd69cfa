// Small meshes for tests, with fields given as functions of place.
#pragma once

#include "core/case/writers/vtk_file.h"
#include "core/evaluate/evaluate.h"

#include <functional>

namespace pyro::test {

using Field = std::function<double(const Point&)>;

// The box [0,a]x[0,b]x[0,c] in nx x ny x nz hexahedra, each optionally split into six tetrahedra, two wedges or six
// pyramids about its centre; `warp` moves inner nodes.
enum class Cells { Hexahedra, Tetrahedra, Wedges, Pyramids };
struct BoxMesh {
    std::array<double, 3> size{1, 1, 1};
    std::array<int, 3> count{2, 2, 2};
    std::array<double, 3> origin{0, 0, 0};
    double warp = 0;
    std::function<Point(const Point&)> map = {}; // of the straight box into space
};
BlockData boxPart(const std::string& name, const BoxMesh& box, Cells cells = Cells::Hexahedra);
// The side of the box with the lowest (or highest) coordinate along an axis, as a boundary.
BlockData boxSide(const std::string& name, const BoxMesh& box, int axis, bool high, Cells cells = Cells::Hexahedra);

void addNodeField(BlockData& block, const std::string& name, const Field& field);
void addNodeVector(BlockData& block, const std::string& name, const std::function<Point(const Point&)>& field);
void addCellField(BlockData& block, const std::string& name, const Field& field); // at the mean of the cell's nodes
void addCellVector(BlockData& block, const std::string& name, const Point& value);

// Opens a file and its index; fails the test when it cannot.
OpenedCase mustOpen(const std::filesystem::path& file);

bool has(const Remarks& remarks, const std::string& code);

} // namespace pyro::test

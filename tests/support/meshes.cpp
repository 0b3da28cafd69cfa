#include "tests/support/meshes.h"

#include <cmath>
#include <gtest/gtest.h>

namespace pyro::test {
namespace {

std::uint32_t nodeNumber(const BoxMesh& box, int i, int j, int k) {
    return static_cast<std::uint32_t>(i + (box.count[0] + 1) * (j + (box.count[1] + 1) * k));
}

Point nodeAt(const BoxMesh& box, int i, int j, int k) {
    const std::array<int, 3> index{i, j, k};
    Point at{};
    double bump = box.warp;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double share = static_cast<double>(index[axis]) / box.count[axis];
        at[axis] = box.origin[axis] + box.size[axis] * share;
        bump *= std::sin(3.14159265358979323846 * share);
    }
    for (auto& value : at)
        value += bump;
    return box.map ? box.map(at) : at;
}

void addCell(BlockData& block, CellType type, std::initializer_list<std::uint32_t> nodes) {
    block.connectivity.insert(block.connectivity.end(), nodes);
    block.offsets.push_back(block.connectivity.size());
    block.types.push_back(static_cast<std::uint8_t>(type));
}

void addSplit(BlockData& block, Cells cells, const std::array<std::uint32_t, 8>& n) {
    switch (cells) {
    case Cells::Hexahedra:
        return addCell(block, CellType::Hexahedron, {n[0], n[1], n[2], n[3], n[4], n[5], n[6], n[7]});
    case Cells::Tetrahedra: // Kuhn's six along the diagonal 0-6
        for (const auto& [a, b] : {std::pair{1, 2}, {2, 3}, {3, 7}, {7, 4}, {4, 5}, {5, 1}})
            addCell(block, CellType::Tetrahedron,
                    {n[0], n[static_cast<std::size_t>(a)], n[static_cast<std::size_t>(b)], n[6]});
        return;
    case Cells::Wedges:
        addCell(block, CellType::Wedge, {n[0], n[1], n[2], n[4], n[5], n[6]});
        return addCell(block, CellType::Wedge, {n[0], n[2], n[3], n[4], n[6], n[7]});
    case Cells::Pyramids: {
        const auto apex = static_cast<std::uint32_t>(block.points.size() / 3);
        for (std::size_t axis = 0; axis < 3; ++axis) {
            double sum = 0;
            for (const auto id : n)
                sum += block.points[3 * id + axis] / 8;
            block.points.push_back(sum);
        }
        for (const auto& f :
             {std::array{0, 1, 2, 3}, {4, 7, 6, 5}, {0, 4, 5, 1}, {1, 5, 6, 2}, {2, 6, 7, 3}, {3, 7, 4, 0}})
            addCell(block, CellType::Pyramid,
                    {n[static_cast<std::size_t>(f[0])], n[static_cast<std::size_t>(f[1])],
                     n[static_cast<std::size_t>(f[2])], n[static_cast<std::size_t>(f[3])], apex});
        return;
    }
    }
}

} // namespace

BlockData boxPart(const std::string& name, const BoxMesh& box, Cells cells) {
    BlockData block;
    block.name = name;
    for (int k = 0; k <= box.count[2]; ++k)
        for (int j = 0; j <= box.count[1]; ++j)
            for (int i = 0; i <= box.count[0]; ++i)
                for (const double value : nodeAt(box, i, j, k))
                    block.points.push_back(value);
    for (int k = 0; k < box.count[2]; ++k)
        for (int j = 0; j < box.count[1]; ++j)
            for (int i = 0; i < box.count[0]; ++i) {
                const auto at = [&](int x, int y, int z) { return nodeNumber(box, i + x, j + y, k + z); };
                addSplit(block, cells,
                         {at(0, 0, 0), at(1, 0, 0), at(1, 1, 0), at(0, 1, 0), at(0, 0, 1), at(1, 0, 1), at(1, 1, 1),
                          at(0, 1, 1)});
            }
    return block;
}

BlockData boxSide(const std::string& name, const BoxMesh& box, int axis, bool high, Cells cells) {
    BlockData block;
    block.name = name;
    block.boundary = true;
    const auto a = static_cast<std::size_t>(axis);
    const auto u = (a + 1) % 3;
    const auto v = (a + 2) % 3;
    for (int j = 0; j < box.count[v]; ++j)
        for (int i = 0; i < box.count[u]; ++i) {
            const auto first = static_cast<std::uint32_t>(block.points.size() / 3);
            for (const auto& [du, dv] : {std::pair{0, 0}, {1, 0}, {1, 1}, {0, 1}}) {
                std::array<int, 3> index{};
                index[a] = high ? box.count[a] : 0;
                index[u] = i + du;
                index[v] = j + dv;
                for (const double value : nodeAt(box, index[0], index[1], index[2]))
                    block.points.push_back(value);
            }
            if (cells == Cells::Tetrahedra) { // their faces are halved from the lowest corner to the highest
                const std::uint32_t turn = high ? 0 : 2;
                addCell(block, CellType::Triangle, {first, first + 1 + turn / 2, first + 2 - turn / 2});
                addCell(block, CellType::Triangle, {first, first + 2 + turn / 2, first + 3 - turn / 2});
            } else if (high)
                addCell(block, CellType::Quad, {first, first + 1, first + 2, first + 3});
            else
                addCell(block, CellType::Quad, {first, first + 3, first + 2, first + 1});
        }
    return block;
}

void addNodeField(BlockData& block, const std::string& name, const Field& field) {
    ArrayData array{name, Location::Node, 1, {}};
    for (std::size_t i = 0; i + 2 < block.points.size(); i += 3)
        array.values.push_back(field({block.points[i], block.points[i + 1], block.points[i + 2]}));
    block.arrays.push_back(std::move(array));
}

void addNodeVector(BlockData& block, const std::string& name, const std::function<Point(const Point&)>& field) {
    ArrayData array{name, Location::Node, 3, {}};
    for (std::size_t i = 0; i + 2 < block.points.size(); i += 3)
        for (const double component : field({block.points[i], block.points[i + 1], block.points[i + 2]}))
            array.values.push_back(component);
    block.arrays.push_back(std::move(array));
}

void addCellVector(BlockData& block, const std::string& name, const Point& value) {
    block.arrays.push_back({name, Location::Cell, 3, {}});
    for (std::size_t cell = 0; cell + 1 < block.offsets.size(); ++cell)
        block.arrays.back().values.insert(block.arrays.back().values.end(), value.begin(), value.end());
}

void addCellField(BlockData& block, const std::string& name, const Field& field) {
    ArrayData array{name, Location::Cell, 1, {}};
    for (std::size_t cell = 0; cell + 1 < block.offsets.size(); ++cell) {
        Point centre{};
        const auto count = static_cast<double>(block.offsets[cell + 1] - block.offsets[cell]);
        for (auto at = block.offsets[cell]; at < block.offsets[cell + 1]; ++at)
            for (std::size_t axis = 0; axis < 3; ++axis)
                centre[axis] += block.points[3 * block.connectivity[at] + axis] / count;
        array.values.push_back(field(centre));
    }
    block.arrays.push_back(std::move(array));
}

OpenedCase mustOpen(const std::filesystem::path& file) {
    NoProgress progress;
    auto opened = openForEvaluation(file, {}, progress);
    if (!opened) {
        ADD_FAILURE() << opened.error().text();
        std::abort();
    }
    return *opened;
}

bool has(const Remarks& remarks, const std::string& code) {
    return std::ranges::any_of(remarks, [&](const Remark& remark) { return remark.code == code; });
}

} // namespace pyro::test

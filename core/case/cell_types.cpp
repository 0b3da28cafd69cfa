#include "core/case/cell_types.h"

#include <array>

namespace pyro {
namespace {

constexpr std::array<FaceNodes, 4> tetrahedronFaces{{{3, {0, 1, 3}}, {3, {1, 2, 3}}, {3, {2, 0, 3}}, {3, {0, 2, 1}}}};
constexpr std::array<FaceNodes, 6> hexahedronFaces{
    {{4, {0, 4, 7, 3}}, {4, {1, 2, 6, 5}}, {4, {0, 1, 5, 4}}, {4, {3, 7, 6, 2}}, {4, {0, 3, 2, 1}}, {4, {4, 5, 6, 7}}}};
constexpr std::array<FaceNodes, 5> wedgeFaces{
    {{3, {0, 1, 2}}, {3, {3, 5, 4}}, {4, {0, 3, 4, 1}}, {4, {1, 4, 5, 2}}, {4, {2, 5, 3, 0}}}};
constexpr std::array<FaceNodes, 5> pyramidFaces{
    {{4, {0, 3, 2, 1}}, {3, {0, 1, 4}}, {3, {1, 2, 4}}, {3, {2, 3, 4}}, {3, {3, 0, 4}}}};

const std::array<CellShape, 13> shapes{{
    {CellType::Line, 1, 2, 2, {}},
    {CellType::Triangle, 2, 3, 3, {}},
    {CellType::Polygon, 2, 0, 0, {}},
    {CellType::Quad, 2, 4, 4, {}},
    {CellType::Tetrahedron, 3, 4, 4, tetrahedronFaces},
    {CellType::Hexahedron, 3, 8, 8, hexahedronFaces},
    {CellType::Wedge, 3, 6, 6, wedgeFaces},
    {CellType::Pyramid, 3, 5, 5, pyramidFaces},
    {CellType::CurvedTriangle, 2, 3, 0, {}},
    {CellType::CurvedQuad, 2, 4, 0, {}},
    {CellType::CurvedTetrahedron, 3, 4, 0, tetrahedronFaces},
    {CellType::CurvedHexahedron, 3, 8, 0, hexahedronFaces},
    {CellType::CurvedWedge, 3, 6, 0, wedgeFaces},
}};

} // namespace

const CellShape* cellShape(CellType type) {
    static const auto byCode = [] {
        std::array<const CellShape*, 256> table{};
        for (const auto& shape : shapes)
            table[static_cast<std::size_t>(shape.type)] = &shape;
        return table;
    }();
    return byCode[static_cast<std::size_t>(type)];
}

} // namespace pyro

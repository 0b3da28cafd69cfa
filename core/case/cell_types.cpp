#include "core/case/cell_types.h"

#include <array>

namespace pyro {
namespace {

constexpr std::array<FaceNodes, 4> tetrahedronFaces{
    {{3, {0, 1, 3}}, {3, {1, 2, 3}}, {3, {2, 0, 3}}, {3, {0, 2, 1}}}};
constexpr std::array<FaceNodes, 6> hexahedronFaces{{{4, {0, 4, 7, 3}},
                                                    {4, {1, 2, 6, 5}},
                                                    {4, {0, 1, 5, 4}},
                                                    {4, {3, 7, 6, 2}},
                                                    {4, {0, 3, 2, 1}},
                                                    {4, {4, 5, 6, 7}}}};
constexpr std::array<FaceNodes, 5> wedgeFaces{
    {{3, {0, 1, 2}}, {3, {3, 5, 4}}, {4, {0, 3, 4, 1}}, {4, {1, 4, 5, 2}}, {4, {2, 5, 3, 0}}}};
constexpr std::array<FaceNodes, 5> pyramidFaces{
    {{4, {0, 3, 2, 1}}, {3, {0, 1, 4}}, {3, {1, 2, 4}}, {3, {2, 3, 4}}, {3, {3, 0, 4}}}};
// Edges of the quadratic tetrahedron: 4 (0,1), 5 (1,2), 6 (2,0), 7 (0,3), 8 (1,3), 9 (2,3).
constexpr std::array<FaceNodes, 4> quadraticTetrahedronFaces{
    {{6, {0, 4, 1, 8, 3, 7}}, {6, {1, 5, 2, 9, 3, 8}}, {6, {2, 6, 0, 7, 3, 9}}, {6, {0, 6, 2, 5, 1, 4}}}};
// Edges of the quadratic hexahedron: 8..11 below, 12..15 above, 16..19 upright.
constexpr std::array<FaceNodes, 6> quadraticHexahedronFaces{{{8, {0, 16, 4, 15, 7, 19, 3, 11}},
                                                             {8, {1, 9, 2, 18, 6, 13, 5, 17}},
                                                             {8, {0, 8, 1, 17, 5, 12, 4, 16}},
                                                             {8, {3, 19, 7, 14, 6, 18, 2, 10}},
                                                             {8, {0, 11, 3, 10, 2, 9, 1, 8}},
                                                             {8, {4, 12, 5, 13, 6, 14, 7, 15}}}};

const std::array<CellShape, 12> shapes{{
    {CellType::Line, 1, 2, 2, {}},
    {CellType::Triangle, 2, 3, 3, {}},
    {CellType::Polygon, 2, 0, 0, {}},
    {CellType::Quad, 2, 4, 4, {}},
    {CellType::Tetrahedron, 3, 4, 4, tetrahedronFaces},
    {CellType::Hexahedron, 3, 8, 8, hexahedronFaces},
    {CellType::Wedge, 3, 6, 6, wedgeFaces},
    {CellType::Pyramid, 3, 5, 5, pyramidFaces},
    {CellType::QuadraticTriangle, 2, 3, 6, {}},
    {CellType::QuadraticQuad, 2, 4, 8, {}},
    {CellType::QuadraticTetrahedron, 3, 4, 10, quadraticTetrahedronFaces},
    {CellType::QuadraticHexahedron, 3, 8, 20, quadraticHexahedronFaces},
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

// The cell types a case stores, with their corner, edge and face tables. Type codes and node order are those of
// the open VTK XML file format; everything else is turned into these on reading.
#pragma once

#include <cstdint>
#include <span>

namespace pyro {

enum class CellType : std::uint8_t {
    Line = 3,
    Triangle = 5,
    Polygon = 7,
    Quad = 9,
    Tetrahedron = 10,
    Hexahedron = 12,
    Wedge = 13,
    Pyramid = 14,
    QuadraticTriangle = 22,
    QuadraticQuad = 23,
    QuadraticTetrahedron = 24,
    QuadraticHexahedron = 25
};

// The nodes of one face in ring order, mid-edge nodes between their corners; at most 8.
struct FaceNodes {
    std::uint8_t count;
    std::uint8_t node[8];
};

struct CellShape {
    CellType type;
    int dimension;
    int corners; // 0 for polygons: as many as nodes
    int nodes;   // 0 for polygons
    std::span<const FaceNodes> faces; // of volume cells, pointing outwards for a positively oriented cell
};

// Null for a type that is not stored.
const CellShape* cellShape(CellType type);

} // namespace pyro

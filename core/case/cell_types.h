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
    // Of order 2 to 10, on a regular lattice of nodes (core/field/cell_lattice.h): corners first, as of the straight
    // cell.
    CurvedTriangle = 69, // within files only: stored as the straight pieces of its lattice
    CurvedQuad = 70,     // likewise
    CurvedTetrahedron = 71,
    CurvedHexahedron = 72,
    CurvedWedge = 73
};

constexpr bool isCurved(CellType type) { return type >= CellType::CurvedTriangle; }

// The corners of one face in ring order.
struct FaceNodes {
    std::uint8_t count;
    std::uint8_t node[4];
};

struct CellShape {
    CellType type;
    int dimension;
    int corners;                      // 0 for polygons: as many as nodes
    int nodes;                        // 0 for polygons and curved cells: as many as they have
    std::span<const FaceNodes> faces; // of volume cells, pointing outwards for a positively oriented cell
};

// Null for a type that is not stored.
const CellShape* cellShape(CellType type);

} // namespace pyro

// Cells of any file type turned into cells of the stored types.
#pragma once

#include "core/case/cell_types.h"
#include "core/feedback/error.h"

#include <cstdint>
#include <span>
#include <vector>
#include <vtkPointSet.h>

namespace pyro {

struct CellList {
    std::vector<std::uint32_t> connectivity;
    std::vector<std::uint64_t> offsets{0};
    std::vector<std::uint8_t> types;
    std::vector<std::uint32_t> fileCell; // for each stored cell its number in the file
    std::uint64_t simplified = 0;        // curved lines: their ends kept
    std::uint64_t split = 0;             // polyhedra and prisms split into tetrahedra
    std::uint64_t leftOut = 0;           // vertices: no extent
    int dimension = 0;
};

// Splits a polyhedron, given by its faces as rings of node numbers, into tetrahedra without new nodes: the apex is
// the lowest node number, each face is fanned from its own lowest one, so that neighbours agree on their common
// face. Exact for cells that are star-shaped seen from that node (convex ones are).
void splitPolyhedron(const std::vector<std::vector<std::uint32_t>>& faces, std::uint32_t fileCell, CellList& out);

// Errors: IndexOutOfRange, NotSupported, LengthMismatch; `where` names the file.
Result<CellList> convertCells(vtkPointSet& grid, const std::string& where);

// The file types that a grid's cells have, each once, rising.
std::vector<int> cellTypesIn(vtkPointSet& grid);

// The stored type when a file type needs no change at all (same code, same node order), else null.
const CellShape* directShape(int fileType);
// The same, and of types whose nodes only stand in another order: `order` tells at each place which of the file's nodes
// it is; else empty.
struct OrderedShape {
    const CellShape* shape;
    std::span<const std::uint8_t> order;
};
OrderedShape orderedShape(int fileType);

} // namespace pyro

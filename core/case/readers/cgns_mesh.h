// The cells of one zone, section by section, and the faces that its boundary conditions name.
#pragma once

#include "core/case/readers/cgns_file.h"
#include "core/case/readers/loose_cells.h"

namespace pyro {

struct CgnsSection {
    std::string name;
    std::string kind;   // "HEXA_8" ..., "MIXED", "NGON_n", "NFACE_n"
    cgsize_t first = 1; // element numbers in the zone, from 1
    int dimension = 0;  // the highest of its cells
    CellRows cells;     // one row for each element; points have the type VTK_VERTEX
    // position of its first cell among the zone's, as cell values are counted; of sections of that dimension only
    std::size_t firstCell = 0;

    bool holds(cgsize_t element) const {
        return element >= first && element < first + static_cast<cgsize_t>(cells.size());
    }
};

struct CgnsMesh {
    NodeTable nodes;
    std::vector<CgnsSection> sections;
    std::size_t cells = 0; // of the zone's dimension
};

// Errors: FileUnreadable with what the library says, IndexOutOfRange, LengthMismatch, NotSupported for kinds of
// elements.
Result<CgnsMesh> readCgnsMesh(const CgnsFile& file, const CgnsZone& zone);

struct CgnsPatch {
    std::string name;
    bool family = false; // whether the name is that of a family, which patches of several zones may share
    CellRows faces;      // of the zone's nodes
};

// Boundary conditions in the order of the file; what cannot be made into faces is told as a remark.
Result<std::vector<CgnsPatch>> readCgnsPatches(const CgnsFile& file, const CgnsZone& zone, const CgnsMesh& mesh,
                                               Remarks& remarks);

} // namespace pyro

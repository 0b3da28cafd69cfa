// The values of one zone at one step.
#pragma once

#include "core/case/readers/cgns_file.h"
#include "core/case/readers/loose_cells.h"

namespace pyro {

struct CgnsValues {
    std::vector<NamedValues> atNodes;
    std::vector<NamedValues> inCells; // of all cells of the zone
};

// Of the solutions that the zone's iterative data name for the step (from 0), and of those that no step names. Values
// are SI where the file tells units. Errors: FileUnreadable with what the library says, LengthMismatch.
Result<CgnsValues> readCgnsValues(const CgnsFile& file, const CgnsZone& zone, std::size_t nodes, std::size_t cells,
                                  int step, Remarks& remarks);

} // namespace pyro

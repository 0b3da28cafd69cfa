// The lists of cells in a legacy .vtk file (CELLS, POLYGONS ...), walked before the library does: it takes each cell's
// number of nodes on trust.
#pragma once

#include "core/feedback/error.h"

#include <istream>

namespace pyro {

struct LegacyList {
    std::string declared; // its line, for messages
    long long first = 0;  // cells; of version 5 and later one more: offsets
    // numbers in the list, with one before each cell's nodes; of version 5 and later without
    long long size = 0;
    bool ascii = false;
    bool offsets = false; // of version 5 and later: OFFSETS and CONNECTIVITY, each with the type of its numbers
};

// Reads on from behind the declaration to behind the list. Errors: FileTruncated, LengthMismatch, Syntax; `where` names
// the file.
Done walkLegacyList(std::istream& stream, const LegacyList& list, const std::string& where);

} // namespace pyro

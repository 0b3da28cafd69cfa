// Kinds of elements of Exodus II with their nodes in VTK's order and their sides.
#pragma once

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace pyro {

struct ExodusKind {
    int vtk = 0;
    int dimension = 0;
    std::vector<std::size_t> order; // for each node in VTK's order its number in the file's; empty: the same
};

// Of an element type as written ("HEX8", "TETRA", "shell4") and its number of nodes; nothing for one that is not read,
// or for points.
std::optional<ExodusKind> exodusKind(const std::string& type, std::size_t nodes);

// The corners of a side, numbered from 1, in VTK's order of nodes; empty when there is none. Of shells sides 1 and 2
// are the element itself.
std::vector<std::size_t> exodusSide(const ExodusKind& kind, bool shell, std::size_t side);

} // namespace pyro

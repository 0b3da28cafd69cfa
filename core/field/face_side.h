// On which side of an outer face its cell lies.
#pragma once

#include "core/case/case.h"

#include <span>

namespace pyro {

// A vector from a face into its cell, m, of no particular length: towards the middle of a straight cell, of a curved
// one along its local coordinates at the face, since a cell that is bent far has its middle on the wrong side of its
// inner face. `ring`: nodes of the face, or of a piece of it.
Point intoCell(const Mesh& mesh, std::size_t cell, std::span<const std::uint32_t> ring);

// Turned out of the cell where it points into it.
Point outOfCell(const Point& normal, const Mesh& mesh, std::size_t cell, std::span<const std::uint32_t> ring);

} // namespace pyro

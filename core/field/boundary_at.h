// Which boundary a place on a part's surface belongs to.
#pragma once

#include "core/field/case_index.h"

namespace pyro {

// Of the boundaries that lie on a cell of a part the one whose face is nearest to the place; nothing where none does.
std::optional<std::size_t> boundaryAt(const Case& solved, const CaseIndex& index, std::size_t part, std::uint32_t cell,
                                      const Point& place);

} // namespace pyro

// Which boundary lies on each outer face of a part.
#pragma once

#include "core/thermal/case_heat.h"

namespace pyro {

// Per face of the part's shell the position in Case::boundaries; noNumber where none lies on it. Of several the last.
// Those made of faces that the file does not name count where it names none (Case::passable), unless only named ones
// are asked for.
enum class Boundaries { Passable, Named };
std::vector<std::uint32_t> boundariesOfFaces(const CaseHeat& heat, std::uint32_t part,
                                             Boundaries which = Boundaries::Passable);

} // namespace pyro

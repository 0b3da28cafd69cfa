// Boundaries whose faces are straight where those of the part are curved, the other way round, or of another order.
#pragma once

#include "core/field/shell.h"

#include <memory>

namespace pyro {

// The case with such boundaries made of the faces of the parts behind them: faces belong together that have the same
// corners. Arrays of their own follow: values of faces are those of the face they came from, values at new nodes are
// interpolated between its corners. A boundary with a face that has no such partner stays as it is.
std::shared_ptr<const Case> withFittedBoundaries(std::shared_ptr<const Case> solved, std::span<const ShellView> shells);

} // namespace pyro

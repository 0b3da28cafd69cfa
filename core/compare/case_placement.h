// How the geometry of one case lies on that of another.
#pragma once

#include "core/field/case_index.h"
#include "core/field/placement.h"
#include "core/survey/survey.h"

namespace pyro {

struct PlacedCase {
    const CaseEntry& entry;
    const Case& solved;
    const CaseIndex& index;
};

// Carries places of `own` to those of `other`, as both entries tell against the first case; nothing where neither was
// moved. By boxes: middle onto middle of the boxes around the parts of the same names, scaled by their diagonals.
// Errors: WrongType for places on one line; NameUnknown for boxes without common parts.
Result<std::optional<Placement>> placementBetween(const PlacedCase& own, const PlacedCase& other);

} // namespace pyro

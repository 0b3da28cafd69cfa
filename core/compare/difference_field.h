// The field of one case less that of another on any meshes, as a case of its own: everything that reads or draws a
// field does so with it.
#pragma once

#include "core/case/quantity.h"
#include "core/field/opened_case.h"
#include "core/field/placement.h"

namespace pyro {

struct DifferenceField {
    OpenedCase opened;              // the mesh of the first case; one array per part that both have
    Quantity quantity;              // "temperature_difference" in K, of others named alike, in their SI unit
    double covered = 0;             // share of the values of all parts that have a partner
    std::string when = {};          // as in CaseAtTime
    std::vector<std::string> alone; // parts of the first case that the other has not
};

// What the second case is told at: with the quantities of that case on both of its steps.
struct OtherField {
    const CaseAtTime& at;
    const QuantityList& quantities; // of `at.before`
    // Carries places of the first case to those of this one; nothing where neither was moved.
    std::optional<Placement> placement = {};
};

// `quantity`: name of one that both store, of one component. Values lie where the first case has them, on nodes or
// cells; there the other one's are found in the part of the same name, by its shape functions or in the cell that holds
// the place, and are NaN where it holds none; two cases of one part each are
// held against each other whatever these are called. Parts without a partner of their name have no array. Meshes that
// are the same are subtracted value by value. Errors: NameUnknown, NotSupported for vectors and for parts none of which
// is in both; Cancelled.
Result<DifferenceField> differenceOf(const OpenedCase& own, const QuantityList& quantities, const OtherField& other,
                                     const std::string& quantity, Progress& progress);

} // namespace pyro

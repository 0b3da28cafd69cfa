// Which stored array is which physical quantity, and in what unit: recognised by common names, correctable.
#pragma once

#include "core/case/case.h"
#include "core/units/unit.h"

#include <map>

namespace pyro {

// What the user chose for one quantity; every field optional.
struct QuantityChoice {
    bool off = false;                 // the alias is switched off: no array is taken for this quantity
    std::optional<std::string> array; // of a vector from three arrays their joinedName
    std::optional<std::string> unit;  // of the stored values
    std::optional<Location> on;
    std::array<std::string, 3> alongAxes = {}; // of a vector from three arrays those; else empty
    bool operator==(const QuantityChoice&) const = default;
};
using QuantityChoices = std::map<std::string, QuantityChoice>;

struct Quantity {
    std::string name; // "temperature", "heat_flux" ... or the array's own name
    std::string array;
    Location on;
    int components;
    std::string unit; // of the stored values; empty when unknown
    std::string siUnit;
    Affine toSi; // stored value -> SI
    double min;  // SI, finite stored values on parts (boundaries if no part has it); magnitude for vectors
    double max;
};

// Whether its three components are values along the axes and no direction, as a conductivity: such a quantity has no
// length.
bool isAlongAxes(const Quantity& quantity);

// Whether two quantities are the same stored values taken in the same unit under the same name.
bool sameReading(const Quantity& a, const Quantity& b);

// The lowest and highest stored value on some parts of a case, SI; NaN where none of them has the quantity.
std::array<double, 2> storedRange(const Case& solved, std::span<const std::size_t> parts, const Quantity& quantity);

// All quantities of the case, known ones first. Where an array is stored on nodes and on cells, nodes are taken
// unless the choice says otherwise. A temperature without unit is taken as kelvin when no value lies below 150,
// else as Celsius, and a remark says so (common practice, no source).
// Errors: WrongUnit and NameUnknown for a choice that does not fit.
struct QuantityList {
    std::vector<Quantity> quantities;
    Remarks remarks;

    const Quantity* named(std::string_view name) const;
    // The one of this name, else the first; null when there are none.
    const Quantity* namedOrFirst(std::string_view name) const;
};
Result<QuantityList> recognise(const Case& solved, const QuantityChoices& choices);

// The quantities known by name with their SI units.
struct KnownQuantity {
    std::string_view name;
    std::string_view siUnit;
    int components;
    std::string_view aliases;     // lower case, separated by blanks
    std::string_view symbol = {}; // as formulas write it; empty: its name
};
std::span<const KnownQuantity> knownQuantities();
const KnownQuantity* knownQuantity(std::string_view name); // null for another one
// The unit that an array's own name carries, as in "T [degC]"; empty when it carries none.
std::string unitInName(const std::string& array);

} // namespace pyro

// Units as things to multiply and divide, for formulas.
#pragma once

#include "core/units/unit.h"

#include <memory>

namespace pyro {

// A unit reduced to the base units: values with it are SI. Without dimension by default.
class UnitProduct {
public:
    UnitProduct();
    // Errors: WrongUnit for a unit that is not known. Scales and offsets are dropped: the unit "degC" gives kelvin.
    static Result<UnitProduct> of(std::string_view unit);

    UnitProduct operator*(const UnitProduct& other) const;
    UnitProduct operator/(const UnitProduct& other) const;
    // Errors: WrongUnit where the power of the unit has fractions in it, as metre to the 0.5.
    Result<UnitProduct> power(double exponent) const;

    bool sameAs(const UnitProduct& other) const;
    bool isNumber() const; // without dimension
    // In UDUNITS spelling: the usual name of a unit of thermal work, as "W/(m2.K)", else the base units.
    std::string text() const;

private:
    explicit UnitProduct(std::shared_ptr<void> unit) : m_unit(std::move(unit)) {}
    std::shared_ptr<void> m_unit; // of UDUNITS
};

} // namespace pyro

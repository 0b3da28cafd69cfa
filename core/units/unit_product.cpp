#include "core/units/unit_product.h"

#include "core/units/udunits.h"

#include <array>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr auto release = [](void* unit) {
    const std::scoped_lock hold(udunits::lock());
    ut_free(static_cast<ut_unit*>(unit));
};

ut_unit* raw(const std::shared_ptr<void>& unit) { return static_cast<ut_unit*>(unit.get()); }

// The base units of a unit, without its scale and offset. The lock must be held.
std::string baseUnits(const ut_unit* unit) {
    std::array<char, 256> text{};
    if (ut_format(unit, text.data(), text.size(), UT_ASCII | UT_DEFINITION) <= 0)
        return {};
    std::string_view whole(text.data());
    if (const auto at = whole.find('@'); at != std::string_view::npos) // an offset, as in "K @ 273.15"
        whole = whole.substr(0, at);
    if (const auto digit = whole.find_first_not_of("0123456789.eE+- "); digit != std::string_view::npos && digit > 0)
        whole = whole.substr(digit); // a scale, as in "1000 kg"
    else if (digit == std::string_view::npos)
        whole = {};
    const auto last = whole.find_last_not_of(" ()");
    return std::string(last == std::string_view::npos ? std::string_view()
                                                      : whole.substr(whole.find_first_not_of("( "), last + 1));
}

constexpr std::array<const char*, 30> usualNames{
    "1",   "K",  "W",    "W/m2", "W/m3",     "W/(m2.K)", "W/(m.K)",   "W/K",   "K/W",  "m2.K/W",
    "K/m", "J",  "J/K",  "J/kg", "J/(kg.K)", "kg/s",     "kg/(m2.s)", "kg/m3", "m3/s", "m2/s",
    "m/s", "Pa", "Pa.s", "N",    "m",        "m2",       "m3",        "s",     "kg",   "W/m"};

} // namespace

UnitProduct::UnitProduct()
    : m_unit(
          [] {
              const std::scoped_lock hold(udunits::lock());
              return ut_get_dimensionless_unit_one(udunits::system());
          }(),
          release) {}

Result<UnitProduct> UnitProduct::of(std::string_view unit) {
    std::unique_lock hold(udunits::lock());
    const auto parsed = udunits::parse(unit);
    if (!parsed)
        return fail(ErrorCode::WrongUnit, fmt::format("the unit \"{}\" is not known", unit), {},
                    "Write it in UDUNITS spelling, for example W/(m.K) or J/(kg.K)");
    auto base = udunits::parse(baseUnits(parsed.get()));
    if (!base)
        base = udunits::parse("1");
    hold.unlock();
    return UnitProduct(std::shared_ptr<void>(base.release(), release));
}

UnitProduct UnitProduct::operator*(const UnitProduct& other) const {
    std::unique_lock hold(udunits::lock());
    auto* product = ut_multiply(raw(m_unit), raw(other.m_unit));
    hold.unlock();
    return UnitProduct(std::shared_ptr<void>(product, release));
}

UnitProduct UnitProduct::operator/(const UnitProduct& other) const {
    std::unique_lock hold(udunits::lock());
    auto* quotient = ut_divide(raw(m_unit), raw(other.m_unit));
    hold.unlock();
    return UnitProduct(std::shared_ptr<void>(quotient, release));
}

Result<UnitProduct> UnitProduct::power(double exponent) const {
    if (isNumber())
        return UnitProduct();
    std::unique_lock hold(udunits::lock());
    // Twelfths hold every root that formulas of the trade take of a unit.
    const double twelfths = 12 * exponent;
    const bool whole = std::abs(exponent - std::round(exponent)) < 1e-12;
    ut_unit* unit = nullptr;
    if (whole && std::abs(exponent) < 100)
        unit = ut_raise(raw(m_unit), static_cast<int>(std::round(exponent)));
    else if (std::abs(twelfths - std::round(twelfths)) < 1e-9 && std::abs(twelfths) < 250)
        if (const udunits::Handle raised(ut_raise(raw(m_unit), static_cast<int>(std::round(twelfths)))); raised)
            unit = ut_root(raised.get(), 12);
    hold.unlock();
    if (unit == nullptr)
        return fail(ErrorCode::WrongUnit, fmt::format("\"{}\" to the power {:g} is no unit", text(), exponent));
    return UnitProduct(std::shared_ptr<void>(unit, release));
}

bool UnitProduct::sameAs(const UnitProduct& other) const {
    const std::scoped_lock hold(udunits::lock());
    // Convertible alone would take a unit for its inverse.
    const udunits::Handle quotient(ut_divide(raw(m_unit), raw(other.m_unit)));
    return quotient && ut_is_dimensionless(quotient.get()) != 0;
}

bool UnitProduct::isNumber() const {
    const std::scoped_lock hold(udunits::lock());
    return ut_is_dimensionless(raw(m_unit)) != 0;
}

std::string UnitProduct::text() const {
    for (const auto* name : usualNames)
        if (const auto usual = of(name); usual && usual->sameAs(*this))
            return name;
    const std::scoped_lock hold(udunits::lock());
    return baseUnits(raw(m_unit));
}

} // namespace pyro

// units: physical units on UDUNITS-2. Kelvin and SI inside, the user's unit outside.
// A temperature and a temperature difference are two types, so that a difference is never offset.
#pragma once

#include <compare>

namespace pyro {

struct TemperatureDifference {
    double kelvin = 0;
    auto operator<=>(const TemperatureDifference&) const = default;
};

struct Temperature {
    double kelvin = 0; // absolute
    auto operator<=>(const Temperature&) const = default;
};

inline TemperatureDifference operator-(Temperature a, Temperature b) { return {a.kelvin - b.kelvin}; }
inline Temperature operator+(Temperature a, TemperatureDifference d) { return {a.kelvin + d.kelvin}; }
inline Temperature operator-(Temperature a, TemperatureDifference d) { return {a.kelvin - d.kelvin}; }
inline TemperatureDifference operator-(TemperatureDifference d) { return {-d.kelvin}; }

} // namespace pyro

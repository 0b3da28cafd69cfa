// Burn thresholds of hot surfaces that are touched, by material and time of contact.
#pragma once

#include <span>
#include <string_view>

namespace pyro {

struct TouchLimit {
    std::string_view material; // of the surface
    std::string_view contact;  // time of contact
    double kelvin = 0;         // lower end of the threshold's spread
};

// Source: ISO 13732-1, burn thresholds; recalled from memory, lower ends of the spreads for short contacts. To be
// compared with the standard before anything is signed on them: limits made of them say so in their source.
std::span<const TouchLimit> touchLimits();
constexpr std::string_view touchLimitSource = "ISO 13732-1 burn threshold (not yet compared with the standard)";

} // namespace pyro

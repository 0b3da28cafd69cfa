// Sentences with units in them, as they are shown: "0.13 W/(m.K)" becomes "0.13 W/(m·K)". Files and fields keep ASCII.
#pragma once

#include "core/units/display.h"

#include <array>
#include <string>

namespace pyro {

inline std::string typographic(std::string text) {
    static constexpr std::array<std::string_view, 10> units{"W/(m2.K)", "W/(m.K)", "m2.K/W", "J/(kg.K)", "W/m2",
                                                            "W/m3",     "kg/m3",   "cm2",    "cm3",      "degC"};
    for (const auto unit : units)
        for (auto at = text.find(unit); at != std::string::npos; at = text.find(unit, at + 1))
            text.replace(at, unit.size(), unitText(unit));
    return text;
}

} // namespace pyro

// How a derived reading came about: the terms it is the sum of, and what of the mesh it relies on.
#pragma once

#include "core/case/case.h"

#include <array>
#include <string>
#include <vector>

namespace pyro {

struct Term {
    std::string name;   // "L2D", "U of roof"
    double value = 0;   // as it enters the sum, with its sign; in `unit`
    std::string unit;
    std::string origin; // "0.3395 W/(m2.K) x 1.2 m: plaster 15 mm, brick 240 mm"
};

struct Derivation {
    std::vector<Term> terms;
    std::vector<std::array<Point, 2>> lines; // through the plane elements that were found, from one surface to the other; m
};

} // namespace pyro

// Where a margin becomes zero.
#pragma once

#include <functional>
#include <optional>

namespace pyro {

struct CrossingSearch {
    double start = 0;
    double step = 1;  // the first one
    double least = 0; // nothing beyond is looked at
    double most = 1;
    double accuracy = 1e-6;
    bool falls = true; // whether the margin falls where it is level
};

// The place nearest to `start` at which the margin crosses zero: a straight line first, then ever wider steps and false
// position (Illinois). Nothing when it does not within the bounds or is not known there.
std::optional<double> crossing(const std::function<std::optional<double>(double)>& margin,
                               const CrossingSearch& search);

} // namespace pyro

// The least margin of a sweep over two of its parameters: where all limits hold, and the line on which one is just met.
#pragma once

#include "core/compare/sweep.h"

#include <array>

namespace pyro {

struct MarginMap {
    std::string x; // names of the parameters
    std::string y;
    std::vector<double> xs; // rising
    std::vector<double> ys;
    std::vector<double> margins; // row by row of ys, in the unit of the margins; NaN where no case tells it
    std::string unit;
    std::vector<std::size_t> cases; // position in the sweep, per margin; noCase where there is none
    static constexpr std::size_t noCase = ~std::size_t{0};
    // Within each rectangle of four cases bilinear; NaN beside them.
    double at(double xAt, double yAt) const;
    // Pieces of the line where the margin is zero, as pairs of places.
    std::vector<std::array<std::array<double, 2>, 2>> zeroLine() const;
};

// Of the cases whose other parameters are those of `like` (position in the sweep). Errors: NotSupported, with the
// reason: fewer than two values of a parameter, limits of several units.
Result<MarginMap> marginMap(const SweepReading& sweep, const std::string& x, const std::string& y, std::size_t like);

} // namespace pyro

// A polynomial through the values of a sweep, with how far it is off where a case is left out.
#pragma once

#include "core/feedback/error.h"

#include <span>
#include <string>
#include <vector>

namespace pyro {

struct ResponseSurface {
    // One product of parameters, up to the second power in all; none: the constant.
    struct Term {
        std::vector<std::size_t> parameters; // positions, rising; twice the same: its square
        double coefficient = 0;              // of the parameters as they were given
    };
    std::vector<Term> terms;
    bool quadratic = false;
    double error = 0;            // rms over all cases of the value less what the others tell there
    double effect = 0;           // rms of the values about their mean
    std::vector<double> leftOut; // per case: that difference
    bool holds() const { return error < effect; }
    double at(std::span<const double> place) const;
};

// `places`: per case, a number per parameter; `values`: per case. Of the plane and the polynomial of second order, as
// far as the places determine it, the one with the smaller error, by least squares. The errors are those of the sums of
// squares that are left when one case is predicted by the others (Allen 1974), without fitting again. Errors:
// NotSupported for too few cases, or none that differ.
Result<ResponseSurface> fitSurface(std::span<const std::vector<double>> places, std::span<const double> values);

} // namespace pyro

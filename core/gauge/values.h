// One number per place of a support with its weight, and the statistics over them.
#pragma once

#include "core/gauge/places.h"
#include "core/gauge/support.h"

#include <functional>

namespace pyro {

// The values of one region or one set of places.
struct ValuePiece {
    RealView stored;         // used when `own` is empty
    Affine toSi;             // of `stored`
    std::vector<double> own; // SI
    std::span<const double> weight;
    std::vector<double> ownWeight; // used instead of `weight` when not empty
    Location on = Location::Node;
    std::function<Place(std::uint64_t)> placeOf;

    std::size_t size() const { return own.empty() ? stored.size() : own.size(); }
    double value(std::size_t at) const { return own.empty() ? toSi(stored[at]) : own[at]; }
    double weightOf(std::size_t at) const { return ownWeight.empty() ? weight[at] : ownWeight[at]; }
};

struct Values {
    std::vector<ValuePiece> pieces;
    std::size_t size() const;
};

struct Statistic {
    double value = 0;                // SI
    std::optional<Place> place = {}; // of an extreme
    bool isDifference = false;       // range, deviation
    bool overExtent = false;         // integral: the unit gains that of the weight
    bool isCount = false;
};

// mean, min, max, range, deviation (weighted, about the mean), integral, count, p0 .. p100 (the value that so many per
// cent of the weight lie below, to 1/65536 of the range). Of equal extremes the first is told. Errors: NotSupported for
// another name and for values that are not finite, with how many and where; NoCells where there is no weight to average
// over.
Result<Statistic> statisticOf(const Values& values, const std::string& name);

} // namespace pyro

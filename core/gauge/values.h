// One number per place of a support with its weight, and the statistics over them.
#pragma once

#include "core/gauge/places.h"
#include "core/gauge/support.h"

#include <functional>
#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

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

// All values with their weights; an extreme names piece and position. Thread-safe.
Accumulator accumulated(const Values& values);
Place placeOf(const Values& values, const Extremum& extremum);

constexpr std::size_t valueGrain = 1 << 16; // values that one thread takes at a time

// The sum of `of(value)` times weight, the same whatever the number of threads.
template <class Of>
double weightedSum(const Values& values, Of of) {
    double sum = 0;
    for (const auto& piece : values.pieces)
        sum += tbb::parallel_deterministic_reduce(
            tbb::blocked_range<std::size_t>(0, piece.size(), valueGrain), 0.0,
            [&](const auto& range, double part) {
                for (auto i = range.begin(); i != range.end(); ++i)
                    part += of(piece.value(i)) * piece.weightOf(i);
                return part;
            },
            std::plus<>());
    return sum;
}

} // namespace pyro

#include "core/gauge/values.h"

#include <tbb/blocked_range.h>
#include <tbb/parallel_reduce.h>

namespace pyro {
namespace {

Accumulator accumulated(const ValuePiece& piece, std::uint32_t number) {
    return tbb::parallel_deterministic_reduce(
        tbb::blocked_range<std::size_t>(0, piece.size(), valueGrain), Accumulator{},
        [&](const auto& range, Accumulator sums) {
            for (auto i = range.begin(); i != range.end(); ++i)
                sums.add(piece.value(i), piece.weightOf(i), number, i);
            return sums;
        },
        [](Accumulator a, const Accumulator& b) {
            a.merge(b);
            return a;
        });
}

} // namespace

Accumulator accumulated(const Values& values) {
    Accumulator sums;
    for (std::uint32_t i = 0; i < values.pieces.size(); ++i)
        sums.merge(accumulated(values.pieces[i], i));
    return sums;
}

Place placeOf(const Values& values, const Extremum& extremum) {
    return values.pieces[extremum.region].placeOf(extremum.number);
}

std::size_t Values::size() const {
    std::size_t sum = 0;
    for (const auto& piece : pieces)
        sum += piece.size();
    return sum;
}

} // namespace pyro

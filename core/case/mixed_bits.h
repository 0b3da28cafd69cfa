// A hash of one number.
#pragma once

#include <cstdint>

namespace pyro {

// Every bit depends on all others: the finaliser of SplitMix64, Steele et al. 2014.
constexpr std::uint64_t mixedBits(std::uint64_t bits) {
    bits += 0x9E3779B97F4A7C15ULL;
    bits = (bits ^ (bits >> 30U)) * 0xBF58476D1CE4E5B9ULL;
    bits = (bits ^ (bits >> 27U)) * 0x94D049BB133111EBULL;
    return bits ^ (bits >> 31U);
}

} // namespace pyro

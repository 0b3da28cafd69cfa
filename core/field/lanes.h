// Four numbers computed side by side: plain arithmetic on `Lanes` becomes vector instructions. A function marked
// PYRO_WIDE is compiled twice, for every x86-64 processor and for those with AVX2 and FMA; the machine chooses when
// the program starts.
#pragma once

#include <cstddef>

namespace pyro {

using Lanes = double __attribute__((vector_size(32)));
constexpr std::size_t laneCount = 4;

} // namespace pyro

// The address sanitizer cannot run before the choice is made.
#if defined(__x86_64__) && defined(__GNUC__) && !defined(__clang__) && !defined(__SANITIZE_ADDRESS__)
#define PYRO_WIDE __attribute__((target_clones("arch=haswell", "default"), flatten))
#else
#define PYRO_WIDE
#endif

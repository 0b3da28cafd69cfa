// A hash of a text, the same on every run and machine.
#pragma once

#include <cstdint>
#include <string_view>

namespace pyro {

// FNV-1a, 64 bit: names files by what they hold; a collision is caught by what is kept inside.
constexpr std::uint64_t textHash(std::string_view text) {
    std::uint64_t hash = 0xcbf29ce484222325ULL;
    for (const char c : text) {
        hash ^= static_cast<unsigned char>(c);
        hash *= 0x100000001b3ULL;
    }
    return hash;
}

} // namespace pyro

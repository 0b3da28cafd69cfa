// "1 part", "8 parts", "1 boundary", "0 boundaries".
#pragma once

#include <cstdint>
#include <fmt/format.h>
#include <string>
#include <string_view>

namespace pyro {

inline std::string counted(std::uint64_t number, std::string_view one) {
    if (number == 1)
        return fmt::format("1 {}", one);
    if (one.ends_with('y'))
        return fmt::format("{} {}ies", number, one.substr(0, one.size() - 1));
    return fmt::format("{} {}s", number, one);
}

} // namespace pyro

// The endings of the files that can be opened as a case; those of core/case/formats.inc.
#pragma once

#include "core/case/lower_case.h"

#include <array>
#include <string_view>

namespace pyro {

inline constexpr auto caseEndings = std::to_array<std::string_view>({
#define CASE_FORMAT(read, times, ...) __VA_ARGS__,
#include "core/case/formats.inc"
#undef CASE_FORMAT
});

// Whether it is one of the pieces of a case computed in parallel: "name.e.4.0", how many and which.
inline bool isPiece(const std::filesystem::path& file) {
    const auto digits = [](const std::string& text) {
        return text.size() > 1 && text.size() < 8 &&
               std::ranges::all_of(text.substr(1), [](unsigned char c) { return std::isdigit(c) != 0; });
    };
    const auto kind = lowerEnding(file.stem().stem());
    return digits(file.extension().string()) && digits(file.stem().extension().string()) &&
           (kind == ".e" || kind == ".exo" || kind == ".ex2");
}

// The ending that tells the kind of a file, in lower case; of a piece that before its numbers.
inline std::string endingOf(const std::filesystem::path& file) {
    return lowerEnding(isPiece(file) ? file.stem().stem() : file);
}

} // namespace pyro

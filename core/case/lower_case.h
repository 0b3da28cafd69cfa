// Words and endings of files without regard to case.
#pragma once

#include <algorithm>
#include <cctype>
#include <filesystem>
#include <string>

namespace pyro {

// ASCII letters only.
inline std::string lowerCase(std::string text) {
    std::ranges::transform(text, text.begin(), [](unsigned char c) { return static_cast<char>(std::tolower(c)); });
    return text;
}
inline std::string lowerEnding(const std::filesystem::path& file) {
    return lowerCase(file.extension().string());
} // ".vtu"

} // namespace pyro

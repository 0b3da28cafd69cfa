// Where a file that another one names lies, if it may be read at all.
#pragma once

#include <algorithm>
#include <filesystem>
#include <optional>

namespace pyro {

// `named` beside `file`; nothing when it is absolute or leads out of the folder of `file`, also by way of links.
inline std::optional<std::filesystem::path> insideFolder(const std::filesystem::path& file,
                                                         const std::filesystem::path& named) {
    auto folder = file.parent_path();
    if (folder.empty())
        folder = ".";
    if (named.is_absolute())
        return std::nullopt;
    std::error_code ignored;
    const auto base = std::filesystem::weakly_canonical(folder, ignored);
    const auto full = std::filesystem::weakly_canonical(folder / named, ignored);
    const auto [end, at] = std::mismatch(base.begin(), base.end(), full.begin(), full.end());
    return end == base.end() && at != full.end() ? std::optional(folder / named) : std::nullopt;
}

} // namespace pyro

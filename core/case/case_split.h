// How a case is divided where its file names nothing: parts by a cell array, boundaries at edges (FORMATS.md, section 5).
#pragma once

#include <filesystem>
#include <nlohmann/json.hpp>
#include <numbers>
#include <optional>
#include <string>

namespace pyro {

struct CaseSplit {
    // The integer cell array that divides a lone grid into parts; empty: none does; nothing: one whose name tells it.
    std::optional<std::string> parts = {};
    bool boundaries = true;                 // whether outer faces that no boundary covers are divided into some
    double angle = std::numbers::pi / 6;    // rad; edges sharper than this divide them
    bool operator==(const CaseSplit&) const = default;

    nlohmann::json toJson() const { return {{"parts", parts ? nlohmann::json(*parts) : nlohmann::json()}, {"boundaries", boundaries}, {"angle", angle}}; }
};

// What a reader is asked for: one step of one file.
struct CaseSource {
    std::filesystem::path file;
    int step = 0;                          // within the file, from 0
    std::optional<std::string> parts = {}; // CaseSplit::parts
    bool operator==(const CaseSource&) const = default;
};

} // namespace pyro

// What the file of a case does not tell: parts by a cell array, boundaries at edges, the depth of a plane case, how
// thick shells are.
#pragma once

#include <array>
#include <filesystem>
#include <map>
#include <nlohmann/json.hpp>
#include <numbers>
#include <optional>
#include <string>
#include <vector>

namespace pyro {

// A boundary that the file does not name, divided further: at sharper edges, or by a plane. Its pieces are "NAME a",
// "NAME b" ..., by falling area, of a plane first the one on the side of the normal.
struct PatchCut {
    std::string boundary;
    double angle = 0;               // rad; 0: by the plane
    std::array<double, 3> origin{}; // metres
    std::array<double, 3> normal{}; // of any length but zero
    bool operator==(const PatchCut&) const = default;
};
// Some of them as one, under a name of its own.
struct PatchJoin {
    std::string name;
    std::vector<std::string> boundaries;
    bool operator==(const PatchJoin&) const = default;
};

// What its reader has to be told, since it changes the mesh that is stored.
struct ReadAs {
    // metres, of a case in two dimensions; nothing: 1 m, so that heat flows are per metre
    std::optional<double> depth = {};
    // The integer cell array that divides a lone grid into parts; empty: none does; nothing: one whose name tells it.
    std::optional<std::string> parts = {};
    // metres, of parts that are shells; of the others nothing is known but their areas
    std::map<std::string, double> thickness = {};
    bool operator==(const ReadAs&) const = default;

    nlohmann::json toJson() const {
        nlohmann::json json = nlohmann::json::object();
        if (parts)
            json["parts"] = *parts;
        if (depth)
            json["depth"] = *depth;
        if (!thickness.empty())
            json["thickness"] = thickness;
        return json;
    }
    // Throws nlohmann's exceptions for what toJson does not make.
    static ReadAs fromJson(const nlohmann::json& json) {
        ReadAs as;
        if (json.contains("parts"))
            as.parts = json["parts"].get<std::string>();
        if (json.contains("depth"))
            as.depth = json["depth"].get<double>();
        if (json.contains("thickness"))
            as.thickness = json["thickness"].get<std::map<std::string, double>>();
        return as;
    }
};

struct CaseSplit : ReadAs {
    bool boundaries = true;              // whether outer faces that no boundary covers are divided into some
    double angle = std::numbers::pi / 6; // rad; edges sharper than this divide them
    std::vector<PatchCut> cuts = {};     // in their order, each on what those before it left
    std::vector<PatchJoin> joins = {};   // after them
    bool operator==(const CaseSplit&) const = default;

    nlohmann::json toJson() const {
        auto json = ReadAs::toJson();
        json["boundaries"] = boundaries;
        json["angle"] = angle;
        for (const auto& cut : cuts)
            json["cuts"].push_back({cut.boundary, cut.angle, cut.origin, cut.normal});
        for (const auto& join : joins)
            json["joins"].push_back({join.name, join.boundaries});
        return json;
    }
};

// What a reader is asked for: one step of one file.
struct CaseSource {
    std::filesystem::path file;
    int step = 0; // within the file, from 0
    ReadAs as = {};
    bool operator==(const CaseSource&) const = default;
};

} // namespace pyro

// `cases[].split`: what of a case's parts and boundaries the file does not tell.
#include "core/survey/survey_file.h"
#include "core/survey/survey_table.h"

#include <numbers>

namespace pyro {
namespace {

// rad, between 0 and 180 degrees.
double angleOf(const Json& json, const ReadPlace& place, const char* example) {
    std::optional<Written<double>> angle;
    readWritten(json, place, angle, [](const std::string& text) { return parseMeasured(text, "rad"); });
    if (!(angle->si > 0 && angle->si < std::numbers::pi))
        mistake(ErrorCode::WrongType, "an angle between 0 and 180 deg is needed here", place.where,
                fmt::format("Write it with its unit: {}", example));
    return angle->si;
}

std::string nameIn(const Json& json, const char* key, const ReadPlace& place) {
    std::string name;
    if (!json.is_object())
        mistake(ErrorCode::WrongType, "an object in braces is needed here", place.where, "See docs/formats.md");
    if (json.contains(key))
        KeyValue<std::string>::read(json[key], place.at(key), name);
    if (name.empty())
        mistake(ErrorCode::WrongType, fmt::format("\"{}\" is missing or empty", key), place.where, "Add it");
    return name;
}

PatchCut cutIn(const Json& json, const ReadPlace& place) {
    PatchCut cut;
    cut.boundary = nameIn(json, "boundary", place);
    if (json.contains("angle")) {
        cut.angle = angleOf(json["angle"], place.at("angle"), "10 deg");
        return cut;
    }
    for (const auto& [key, into] : {std::pair{"origin", &cut.origin}, {"normal", &cut.normal}})
        try {
            KeyValue<std::array<double, 3>>::read(json.at("plane").at(key), place.at("plane"), *into);
        } catch (const std::exception&) {
            mistake(ErrorCode::WrongType, "an angle, or a plane with origin and normal, is needed here", place.where,
                    "Write {\"boundary\": ..., \"angle\": \"10 deg\"}");
        }
    if (cut.normal == std::array<double, 3>{})
        mistake(ErrorCode::WrongType, "a normal that is not zero is needed here", place.where,
                "Give at least one component");
    return cut;
}

PatchJoin joinIn(const Json& json, const ReadPlace& place) {
    PatchJoin join{nameIn(json, "name", place), {}};
    if (json.contains("boundaries"))
        KeyValue<std::vector<std::string>>::read(json["boundaries"], place.at("boundaries"), join.boundaries);
    if (join.boundaries.size() < 2)
        mistake(ErrorCode::WrongType, "two boundaries or more are joined", place.at("boundaries").where,
                "Name them in a list");
    return join;
}

} // namespace

void KeyValue<CaseSplit>::read(const Json& json, const ReadPlace& place, CaseSplit& into) {
    if (!json.is_object())
        mistake(ErrorCode::WrongType, "parts, angle or boundaries are told here", place.where,
                "Write {\"angle\": \"45 deg\"}");
    if (json.contains("parts"))
        into.parts = json["parts"].is_null() ? std::string() : nameIn(json, "parts", place);
    if (json.contains("boundaries"))
        KeyValue<bool>::read(json["boundaries"], place.at("boundaries"), into.boundaries);
    if (json.contains("angle"))
        into.angle = angleOf(json["angle"], place.at("angle"), "45 deg");
    for (const auto* key : {"cut", "join"})
        if (json.contains(key) && !json[key].is_array())
            mistake(ErrorCode::WrongType, "a JSON array is needed here", place.at(key).where, "See docs/formats.md");
    for (const auto& one : json.value("cut", Json::array()))
        into.cuts.push_back(cutIn(one, place.at("cut")));
    for (const auto& one : json.value("join", Json::array()))
        into.joins.push_back(joinIn(one, place.at("join")));
}

Json KeyValue<CaseSplit>::schema() {
    const Json text{{"type", "string"}};
    const Json place{{"type", "array"}, {"items", {{"type", "number"}}}, {"minItems", 3}, {"maxItems", 3}};
    const Json plane{
        {"type", "object"}, {"required", {"origin", "normal"}}, {"properties", {{"origin", place}, {"normal", place}}}};
    const Json cut{{"type", "object"},
                   {"required", Json::array({"boundary"})},
                   {"properties", {{"boundary", text}, {"angle", writtenSchema()}, {"plane", plane}}}};
    const Json join{
        {"type", "object"},
        {"required", {"name", "boundaries"}},
        {"properties", {{"name", text}, {"boundaries", {{"type", "array"}, {"minItems", 2}, {"items", text}}}}}};
    return {{"type", "object"},
            {"properties",
             {{"parts", {{"type", {"string", "null"}}, {"description", "cell array that divides a lone grid"}}},
              {"boundaries", {{"type", "boolean"}, {"description", "whether outer faces are divided at edges"}}},
              {"angle", writtenSchema()},
              {"cut", {{"type", "array"}, {"items", cut}}},
              {"join", {{"type", "array"}, {"items", join}}}}}};
}

Result<CaseSplit> splitFromJson(const Json& json, const std::string& where) {
    return caught([&] {
        CaseSplit split;
        KeyValue<CaseSplit>::read(json, {where}, split);
        return split;
    });
}

} // namespace pyro

#include "core/gauge/where_shape.h"

#include "core/feedback/mistake.h"

#include "core/units/unit.h"

#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

[[noreturn]] void wrongPlace(const std::string& what) {
    throw Mistake{{ErrorCode::WrongType, what, "where", "See docs/gauges.md"}};
}

std::vector<std::string> namesIn(const Json& object, const char* key) {
    std::vector<std::string> names;
    if (!object.contains(key))
        return names;
    const auto& json = object[key];
    const auto add = [&](const Json& one) {
        if (!one.is_string())
            wrongPlace(fmt::format("\"{}\" in where is a name or a list of names", key));
        names.push_back(one.get<std::string>());
    };
    if (json.is_array())
        for (const auto& one : json)
            add(one);
    else
        add(json);
    if (names.empty())
        wrongPlace(fmt::format("\"{}\" in where names nothing", key));
    return names;
}

const Json& member(const Json& json, const char* key, const char* of) {
    if (!json.is_object() || !json.contains(key))
        wrongPlace(fmt::format("\"{}\" needs the key \"{}\"", of, key));
    return json[key];
}

std::size_t pointsOf(const Json& json) {
    if (!json.contains("points"))
        return 200;
    const auto& count = json["points"];
    if (!count.is_number_integer() || count.get<long>() < 2 || count.get<long>() > 1'000'000)
        wrongPlace("\"points\" of a line is a whole number from 2 to 1000000");
    return count.get<std::size_t>();
}

Plane planeFrom(const Json& json) {
    return got(withUnitNormal({got(placeOfJson(member(json, "origin", "plane"), "origin")),
                               got(placeOfJson(member(json, "normal", "plane"), "normal"))}));
}

LineShape lineFrom(const Json& json) {
    LineShape line{
        {got(placeOfJson(member(json, "from", "line"), "from")), got(placeOfJson(member(json, "to", "line"), "to"))},
        pointsOf(json)};
    if (line.through[0] == line.through[1])
        wrongPlace("the line starts where it ends");
    return line;
}

LineShape polylineFrom(const Json& json) {
    LineShape line{{}, pointsOf(json)};
    for (const auto& place : member(json, "through", "polyline"))
        line.through.push_back(got(placeOfJson(place, "through")));
    if (line.through.size() < 2)
        wrongPlace("a polyline goes through two places at least");
    return line;
}

InterfaceShape interfaceFrom(const Json& json) {
    if (!json.is_array() || json.size() != 2 || !json[0].is_string() || !json[1].is_string() || json[0] == json[1])
        wrongPlace("an interface names two different parts");
    return {{json[0].get<std::string>(), json[1].get<std::string>()}};
}

SurfaceShape surfaceFrom(const Json& json) {
    const auto& file = member(json, "file", "surface");
    const auto& unit = member(json, "unit", "surface");
    if (!file.is_string() || !unit.is_string())
        wrongPlace("\"file\" and \"unit\" of a surface are text");
    const auto toMetres = got(conversion(unit.get<std::string>(), "m"));
    return {file.get<std::string>(), toMetres.scale, json.value("solid", "")};
}

IsothermShape isothermFrom(const Json& json) {
    const auto& value = member(json, "value", "isotherm");
    return {got(parseTemperature(value.is_string() ? value.get<std::string>() : value.dump())).kelvin};
}

WhereShape shapeFrom(const Json& json) {
    WhereShape out;
    if (json == "all") {
        out.everything = true;
        return out;
    }
    if (json.is_array()) { // several regions, or regions by object
        for (const auto& one : json) {
            auto region = shapeFrom(one);
            if (!std::holds_alternative<RegionShape>(region.shape))
                wrongPlace("a list in where holds parts or boundaries");
            out.parts.insert(out.parts.end(), region.parts.begin(), region.parts.end());
            out.boundaries.insert(out.boundaries.end(), region.boundaries.begin(), region.boundaries.end());
        }
        return out;
    }
    if (!json.is_object())
        wrongPlace("\"where\" is an object, a list or \"all\"");
    out.parts = namesIn(json, "part");
    out.boundaries = namesIn(json, "boundary");
    if (json.contains("point"))
        out.shape = PointShape{got(placeOfJson(json["point"], "point"))};
    else if (json.contains("line"))
        out.shape = lineFrom(json["line"]);
    else if (json.contains("polyline"))
        out.shape = polylineFrom(json["polyline"]);
    else if (json.contains("trace"))
        out.shape = TraceShape{planeFrom(json["trace"]), pointsOf(json["trace"])};
    else if (json.contains("plane"))
        out.shape = PlaneShape{planeFrom(json["plane"])};
    else if (json.contains("interface"))
        out.shape = interfaceFrom(json["interface"]);
    else if (json.contains("isotherm"))
        out.shape = isothermFrom(json["isotherm"]);
    else if (json.contains("surface"))
        out.shape = surfaceFrom(json["surface"]);
    else if (out.parts.empty() && out.boundaries.empty())
        wrongPlace(fmt::format("the place {} is not known", json.dump().substr(0, 60)));
    if (std::holds_alternative<TraceShape>(out.shape) && out.boundaries.empty())
        wrongPlace("a trace needs the boundary on which it lies");
    if (std::holds_alternative<RegionShape>(out.shape) && !out.parts.empty() && !out.boundaries.empty())
        wrongPlace("a gauge measures parts or boundaries, not both at once");
    return out;
}

} // namespace

Result<double> lengthOf(const Json& json) {
    if (json.is_number())
        return json.get<double>();
    if (!json.is_string())
        return fail(ErrorCode::WrongType, fmt::format("a length is needed, not {}", json.dump().substr(0, 30)));
    return parseMeasured(json.get<std::string>(), "m");
}

Result<Point> placeOfJson(const Json& json, const std::string& key) {
    if (!json.is_array() || json.size() != 3)
        return fail(ErrorCode::WrongType, fmt::format("\"{}\" is three lengths in brackets", key), "where");
    Point at{};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const auto length = lengthOf(json[axis]);
        if (!length)
            return tl::unexpected(length.error());
        at[axis] = *length;
    }
    return at;
}

Result<WhereShape> shapeOf(const Where& where) {
    if (where.written.is_null())
        return fail(ErrorCode::WrongType, "the gauge says neither \"where\" nor \"formula\"");
    return caught([&] { return shapeFrom(where.written); });
}

Json pointWhere(const Point& at) { return {{"point", at}}; }
Json lineWhere(const Point& from, const Point& to, std::size_t points) {
    return {{"line", {{"from", from}, {"to", to}, {"points", points}}}};
}
Json planeWhere(const Plane& plane, const std::vector<std::string>& parts) {
    Json json{{"plane", {{"origin", plane.origin}, {"normal", plane.normal}}}};
    if (!parts.empty())
        json["part"] = parts;
    return json;
}

} // namespace pyro

#include "core/quantities/gauge_keys.h"
#include "core/survey/survey_table.h"

namespace pyro {
namespace {

constexpr const char* alongX() { return "x"; }
constexpr const char* alongY() { return "y"; }
constexpr const char* alongZ() { return "z"; }
constexpr const char* normal() { return "normal"; }
constexpr const char* magnitude() { return "magnitude"; }

Json keySchema(const GaugeKey& key) {
    const Json reference{{"type", "object"}, {"minProperties", 1}, {"maxProperties", 1}};
    switch (key.kind) {
    case GaugeKeyKind::Value:
        return writtenSchema();
    case GaugeKeyKind::ValueOrReference:
    case GaugeKeyKind::Reference:
        return Json{{"anyOf", {writtenSchema(), reference}}};
    case GaugeKeyKind::Word: {
        Json schema{{"enum", Json::array()}};
        for (const auto word : key.words)
            if (!word.empty())
                schema["enum"].push_back(word);
        return schema;
    }
    case GaugeKeyKind::OtherCase:
        return Json{
            {"type", "object"}, {"required", Json::array({"case"})}, {"properties", {{"case", {{"type", "string"}}}}}};
    case GaugeKeyKind::Text:
        return Json{{"type", "string"}};
    case GaugeKeyKind::Flag:
        return Json{{"type", "boolean"}};
    case GaugeKeyKind::Count:
        return Json{{"type", "integer"}, {"minimum", 0}, {"maximum", 9}};
    case GaugeKeyKind::List:
    case GaugeKeyKind::PlaneElements:
    case GaugeKeyKind::LinearElements:
        return Json{{"type", "array"}};
    }
    return Json::object();
}

} // namespace

template <>
std::span<const KeyRow<Gauge>> rowsOf<Gauge>() {
    using Row = RowsOf<Gauge>;
    static constexpr KeyRow<Gauge> rows[]{
        Row::needed<&Gauge::id>("id", "as formulas name it"),
        Row::of<&Gauge::formula>("formula", "instead of where and quantity"),
        Row::by(
            "where", "the place that is measured",
            [](const Json& json, const ReadPlace&, Gauge& into) { into.where.written = json; },
            [](const Gauge& from) { return from.where.written; }, whereSchema),
        Row::of<&Gauge::quantity>("quantity", ""),
        Row::of<&Gauge::statistic>("statistic", "left out: the default of the place"),
        Row::of<&Gauge::unit>("unit", "of the reading; left out: SI"),
        Row::oneOf<&Gauge::component, alongX, alongY, alongZ, normal, magnitude>("component", "of a vector"),
    };
    return rows;
}

// Further keys stay in `rest`, by the names of the file; what they say is read where the gauge is measured.
void KeyValue<Gauge>::read(const Json& json, const ReadPlace& place, Gauge& into) {
    readFields(json, place, into, into.rest);
    for (const auto& key : gaugeKeys()) {
        const auto word = into.rest.find(std::string(key.also));
        if (key.also.empty() || word == into.rest.end())
            continue;
        if (into.rest.contains(std::string(key.key)))
            mistake(ErrorCode::WrongType, fmt::format("\"{}\" and \"{}\" say the same", key.also, key.key), place.where,
                    "Keep one of them");
        into.rest[std::string(key.key)] = Json(*word);
        into.rest.erase(std::string(key.also));
    }
}

Json KeyValue<Gauge>::write(const Gauge& gauge) {
    auto json = Json::object();
    writeFields(gauge, json);
    for (const auto& [key, value] : gauge.rest.items())
        json[key] = value;
    return json;
}

Json KeyValue<Gauge>::schema() {
    auto schema = schemaOfFields<Gauge>();
    schema["properties"]["id"]["pattern"] = "^[A-Za-z_][A-Za-z0-9_]*$";
    for (const auto& key : gaugeKeys()) {
        auto one = keySchema(key);
        one["description"] = key.meaning;
        schema["properties"][std::string(key.key)] = one;
        if (!key.also.empty())
            schema["properties"][std::string(key.also)] = one;
    }
    return schema;
}

Json whereSchema() {
    const Json text{{"type", "string"}};
    const Json names{{"anyOf", {text, {{"type", "array"}, {"items", text}, {"minItems", 1}}}}};
    const Json place{{"type", "array"}, {"items", writtenSchema()}, {"minItems", 3}, {"maxItems", 3}};
    const Json points{{"type", "integer"}, {"minimum", 2}};
    const Json plane{
        {"type", "object"}, {"required", {"origin", "normal"}}, {"properties", {{"origin", place}, {"normal", place}}}};
    const auto object = [](Json required, Json properties) {
        return Json{{"type", "object"}, {"required", std::move(required)}, {"properties", std::move(properties)}};
    };
    Json properties{
        {"part", names},
        {"boundary", names},
        {"point", place},
        {"line", object({"from", "to"}, {{"from", place}, {"to", place}, {"points", points}})},
        {"polyline", object(Json::array({"through"}),
                            {{"through", {{"type", "array"}, {"items", place}, {"minItems", 2}}}, {"points", points}})},
        {"trace", plane},
        {"plane", plane},
        {"interface", {{"type", "array"}, {"items", text}, {"minItems", 2}, {"maxItems", 2}}},
        {"isotherm", object(Json::array({"value"}), {{"value", writtenSchema()}})},
        {"surface", object({"file", "unit"}, {{"file", text}, {"unit", text}, {"solid", text}})},
        {"environments", {{"type", "array"}, {"items", names}, {"minItems", 2}, {"maxItems", 2}}},
    };
    return Json{{"anyOf",
                 {Json{{"const", "all"}}, Json{{"type", "array"}, {"minItems", 1}},
                  Json{{"type", "object"}, {"properties", std::move(properties)}}}}};
}

} // namespace pyro

#include "core/survey/survey_table.h"

namespace pyro {
namespace {

// "above" is a temperature or a gauge; without it the case's ambient counts.
void readAmbient(const Json& json, const ReadPlace& place, Limit& limit) {
    if (json.is_object()) {
        if (!json.contains("gauge") || !json["gauge"].is_string() || json["gauge"] == "")
            mistake(ErrorCode::WrongType, "\"gauge\" is missing or empty", place.where, "Add it");
        limit.than = json["gauge"].get<std::string>();
        return;
    }
    if (!json.is_string() && !json.is_number())
        mistake(ErrorCode::WrongType, "a temperature or {\"gauge\": id} is needed here", place.where,
                "See docs/formats.md");
    readWritten(json, place, limit.above, [](const std::string& text) {
        return parseTemperature(text).map([](const Temperature& one) { return one.kelvin; });
    });
}

std::string_view parameterKey(LimitParameter parameter) {
    return parameter == LimitParameter::Ambient      ? "above"
           : parameter == LimitParameter::OtherGauge ? "to"
           : parameter == LimitParameter::Level      ? "level"
                                                     : "";
}

// The object that stands under the key of a form.
void readForm(const Json& json, const ReadPlace& place, Limit& limit) {
    if (!json.is_object())
        mistake(ErrorCode::WrongType, "an object in braces is needed here", place.where, "See docs/formats.md");
    const std::string key(parameterKey(limit.form->parameter));
    for (const auto& [unknown, value] : json.items())
        if (unknown != key)
            mistake(ErrorCode::WrongType, fmt::format("\"{}\" is not known here", unknown), place.where,
                    "See docs/formats.md");
    const auto given = json.find(key);
    switch (limit.form->parameter) {
    case LimitParameter::None:
        break;
    case LimitParameter::Ambient:
        if (given != json.end())
            readAmbient(*given, place.at(key), limit);
        break;
    case LimitParameter::OtherGauge:
        if (given == json.end() || !given->is_string() || *given == "")
            mistake(ErrorCode::WrongType, "\"to\" is missing or empty", place.where, "Add it");
        limit.than = given->get<std::string>();
        break;
    case LimitParameter::Level:
        if (given == json.end())
            mistake(ErrorCode::WrongType, "the key \"level\" is missing", place.where,
                    "Write the temperature above which it counts");
        readWritten(*given, place.at(key), limit.level,
                    [&](const std::string& text) { return parseLevel(limit, text); });
        break;
    }
}

Json formToJson(const Limit& limit) {
    auto json = Json::object();
    if (limit.level)
        json["level"] = limit.level->text;
    if (limit.above)
        json["above"] = limit.above->text;
    if (limit.form->parameter == LimitParameter::OtherGauge && !limit.than.empty())
        json["to"] = limit.than;
    else if (!limit.than.empty())
        json["above"] = Json{{"gauge", limit.than}};
    return json;
}

Json formSchema(const LimitForm& form) {
    Json schema{{"type", "object"}, {"properties", Json::object()}, {"additionalProperties", false}};
    const std::string key(parameterKey(form.parameter));
    const Json gauge{
        {"type", "object"}, {"properties", {{"gauge", {{"type", "string"}}}}}, {"required", Json::array({"gauge"})}};
    if (form.parameter == LimitParameter::Ambient)
        schema["properties"][key] = Json{{"anyOf", {writtenSchema(), gauge}}};
    if (form.parameter == LimitParameter::OtherGauge)
        schema["properties"][key] = Json{{"type", "string"}, {"minLength", 1}};
    if (form.parameter == LimitParameter::Level)
        schema["properties"][key] = writtenSchema();
    if (form.parameter == LimitParameter::OtherGauge || form.parameter == LimitParameter::Level)
        schema["required"] = Json::array({key});
    schema["description"] = form.name;
    return schema;
}

// Read in the unit that target and form ask for, which are known by then.
template <std::optional<Bound> Limit::*member, Result<double> (*parse)(const Limit&, const std::string&)>
constexpr KeyRow<Limit> bound(std::string_view key, std::string_view meaning, std::string_view also) {
    return {key,
            meaning,
            [](const Json& json, const ReadPlace& place, Limit& into) {
                readWritten(json, place, into.*member, [&](const std::string& text) { return parse(into, text); });
            },
            [](const Limit& from) { return writeWritten(from.*member); },
            writtenSchema,
            false,
            also};
}

constexpr TargetKind targets[]{TargetKind::Part, TargetKind::Boundary, TargetKind::Gauge};

} // namespace

template <>
std::span<const KeyRow<Limit>> rowsOf<Limit>() {
    using Row = RowsOf<Limit>;
    static constexpr KeyRow<Limit> rows[]{
        bound<&Limit::max, parseBound>("max", "allowed", "maximum"),
        bound<&Limit::min, parseBound>("min", "allowed", "minimum"),
        bound<&Limit::margin, parseMargin>("margin", "required", "required_margin"),
        Row::of<&Limit::source>("source", "who says so"),
        Row::also(Row::of<&Limit::kind>("kind", "junction, case, touch ..."), "limit_type"),
    };
    return rows;
}

void KeyValue<Limit>::read(const Json& json, const ReadPlace& place, Limit& into) {
    if (!json.is_object())
        mistake(ErrorCode::WrongType, "an object in braces is needed here", place.where, "See docs/formats.md");
    auto left = json;
    int named = 0;
    for (const auto kind : targets) {
        const std::string key(targetKindName(kind));
        if (!left.contains(key))
            continue;
        std::string name;
        KeyValue<std::string>::read(left[key], place.at(key), name);
        left.erase(key);
        if (name.empty())
            continue;
        into.target = {kind, name};
        ++named;
    }
    if (named != 1)
        mistake(ErrorCode::WrongType, "a limit names exactly one of part, boundary, gauge", place.where, "Name one");
    for (const auto* form : limitForms()) {
        const std::string key(form->key);
        if (key.empty() || !left.contains(key))
            continue;
        if (!into.form->key.empty())
            mistake(ErrorCode::WrongType,
                    fmt::format("a limit has one form; \"{}\" and \"{}\" are two", into.form->key, key),
                    place.at(key).where, "Write two limits");
        into.form = form;
        readForm(left[key], place.at(key), into);
        left.erase(key);
    }
    if (!into.form->fits(into.target.kind))
        mistake(ErrorCode::WrongType,
                fmt::format("a {} has no limit of the form \"{}\"", targetKindName(into.target.kind), into.form->key),
                place.at("").where, "See docs/formats.md");
    readFields(left, place, into, into.rest);
}

Json KeyValue<Limit>::write(const Limit& limit) {
    Json json{{std::string(targetKindName(limit.target.kind)), limit.target.name}};
    if (!limit.form->key.empty())
        json[std::string(limit.form->key)] = formToJson(limit);
    writeFields(limit, json);
    for (const auto& [key, value] : limit.rest.items())
        json[key] = value;
    return json;
}

Json KeyValue<Limit>::schema() {
    auto schema = schemaOfFields<Limit>();
    for (const auto kind : targets) {
        const std::string key(targetKindName(kind));
        schema["properties"][key] = Json{{"type", "string"}};
        schema["oneOf"].push_back({{"required", Json::array({key})}});
    }
    for (const auto* form : limitForms())
        if (!form->key.empty())
            schema["properties"][std::string(form->key)] = formSchema(*form);
    return schema;
}

} // namespace pyro

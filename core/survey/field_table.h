// One table per struct of the document: key, member, unit, meaning. Reading, writing and the JSON Schema all follow it,
// so that a further key is a row. Members are read by their type: flags, numbers, words, places, lists, maps, structs
// with a table of their own, and values with their unit.
#pragma once

#include "core/case/case.h"
#include "core/feedback/mistake.h"
#include "core/units/unit.h"
#include "core/units/written.h"

#include <cmath>
#include <fmt/format.h>
#include <fmt/ranges.h>
#include <functional>
#include <set>

namespace pyro {

[[noreturn]] inline void mistake(ErrorCode code, const std::string& what, const std::string& where,
                                 const std::string& remedy) {
    throw Mistake{{code, what, where, remedy}};
}

// Where one reads, and how: leniently what is malformed counts as not there, as in a view, which is never a reason not
// to open a survey.
struct ReadPlace {
    std::string where;
    bool lenient = false;
    ReadPlace at(const std::string& key) const { return {where + "." + key, lenient}; }
    ReadPlace at(std::size_t item) const { return {fmt::format("{}[{}]", where, item), lenient}; }
};

// How values of one type are read, written and described. write() leaves null what need not be said.
template <class T>
struct KeyValue;

template <class S>
struct KeyRow {
    std::string_view key;
    std::string_view meaning; // for the schema
    void (*read)(const Json& value, const ReadPlace& place, S& into);
    Json (*write)(const S& from);
    Json (*schema)();
    bool needed = false;
    std::string_view also = {};             // word of the window that stands for the key as well
    bool (*holds)(const S& read) = nullptr; // what the value must keep to beyond its type
    std::string_view wanted = {};           // that, in words
};

// Specialised for every struct that has a table; a member `rest` keeps what is not in it.
template <class S>
std::span<const KeyRow<S>> rowsOf();

// Takes every key of the table out of `json`; what is left is kept in `rest`.
template <class S>
void readFields(const Json& json, const ReadPlace& place, S& into, Json& rest) {
    if (!json.is_object())
        mistake(ErrorCode::WrongType, "an object in braces is needed here", place.where, "See docs/formats.md");
    Json left = json;
    for (const auto& field : rowsOf<S>()) {
        const std::string key(field.key);
        if (const auto word = left.find(std::string(field.also)); !field.also.empty() && word != left.end()) {
            if (left.contains(key) && !place.lenient)
                mistake(ErrorCode::WrongType, fmt::format("\"{}\" and \"{}\" say the same", field.also, key),
                        place.where, "Keep one of them");
            left[key] = *word;
            left.erase(std::string(field.also));
        }
        const auto found = left.find(key);
        if (found == left.end() || (place.lenient && found->is_null())) {
            if (field.needed)
                mistake(ErrorCode::WrongType, fmt::format("\"{}\" is missing or empty", key), place.where, "Add it");
            left.erase(key);
            continue;
        }
        try {
            S read = into;
            field.read(*found, place.at(key), read);
            if (field.holds != nullptr && !field.holds(read))
                mistake(ErrorCode::WrongType, fmt::format("{} is needed here", field.wanted), place.where + "." + key,
                        "See docs/formats.md");
            into = std::move(read);
        } catch (const Mistake&) {
            if (!place.lenient || field.needed)
                throw;
        }
        left.erase(key);
    }
    if (!left.empty())
        rest = std::move(left);
}

template <class S>
void writeFields(const S& from, Json& json) {
    for (const auto& field : rowsOf<S>())
        if (auto value = field.write(from); !value.is_null())
            json[std::string(field.key)] = std::move(value);
}

template <class S>
Json schemaOfFields() {
    Json schema{{"type", "object"}};
    for (const auto& field : rowsOf<S>()) {
        auto one = field.schema();
        if (!field.meaning.empty())
            one["description"] = field.meaning;
        if (field.needed)
            schema["required"].push_back(field.key);
        schema["properties"][std::string(field.key)] = one;
        if (!field.also.empty())
            schema["properties"][std::string(field.also)] = one;
    }
    return schema;
}

// Enumerations say their names by `std::string_view name(E)` given to their KeyValue, see NamedKeyValue.
template <class E, std::string_view (*name)(E), E... all>
struct NamedKeyValue {
    static void read(const Json& json, const ReadPlace& place, E& into) {
        std::vector<std::string_view> known;
        for (const auto one : {all...}) {
            if (json.is_string() && json.get<std::string>() == name(one)) {
                into = one;
                return;
            }
            known.push_back(name(one));
        }
        mistake(ErrorCode::WrongType, fmt::format("{} is not one of {}", json.dump(), fmt::join(known, ", ")),
                place.where, "Choose one of them");
    }
    static Json write(E value) { return name(value); }
    static Json schema() {
        Json names = Json::array();
        for (const auto one : {all...})
            names.push_back(name(one));
        return {{"enum", names}};
    }
};

template <>
struct KeyValue<bool> {
    static void read(const Json& json, const ReadPlace& place, bool& into) {
        if (!json.is_boolean())
            mistake(ErrorCode::WrongType, "true or false is needed here", place.where, "See docs/formats.md");
        into = json.get<bool>();
    }
    static Json write(bool value) { return value; }
    static Json schema() { return {{"type", "boolean"}}; }
};

template <>
struct KeyValue<double> {
    static void read(const Json& json, const ReadPlace& place, double& into) {
        if (!json.is_number() || !std::isfinite(json.get<double>()))
            mistake(ErrorCode::WrongType, "a number is needed here", place.where, "See docs/formats.md");
        into = json.get<double>();
    }
    static Json write(double value) { return value; }
    static Json schema() { return {{"type", "number"}}; }
};

template <class T>
requires std::is_integral_v<T>
struct KeyValue<T> {
    static void read(const Json& json, const ReadPlace& place, T& into) {
        const bool whole = json.is_number() && json.get<double>() == std::floor(json.get<double>());
        if (!whole || std::abs(json.get<double>()) > 1e9 || (std::is_unsigned_v<T> && json.get<double>() < 0))
            mistake(ErrorCode::WrongType, "a whole number is needed here", place.where, "See docs/formats.md");
        into = static_cast<T>(json.get<double>());
    }
    static Json write(T value) { return value; }
    static Json schema() { return {{"type", "integer"}}; }
};

template <>
struct KeyValue<std::string> {
    static void read(const Json& json, const ReadPlace& place, std::string& into) {
        if (!json.is_string())
            mistake(ErrorCode::WrongType, fmt::format("text is needed here, not {}", json.dump().substr(0, 40)),
                    place.where, "Write it in quotation marks");
        into = json.get<std::string>();
    }
    static Json write(const std::string& value) { return value.empty() ? Json() : Json(value); }
    static Json schema() { return {{"type", "string"}}; }
};

// As it stands; unknown in its parts.
template <>
struct KeyValue<Json> {
    static void read(const Json& json, const ReadPlace&, Json& into) { into = json; }
    static Json write(const Json& value) { return value; }
    static Json schema() { return Json::object(); }
};

template <class T, std::size_t count>
struct KeyValue<std::array<T, count>> {
    static void read(const Json& json, const ReadPlace& place, std::array<T, count>& into) {
        if (!json.is_array() || json.size() != count)
            mistake(ErrorCode::WrongType, fmt::format("a list of {} is needed here", count), place.where,
                    "See docs/formats.md");
        for (std::size_t i = 0; i < count; ++i)
            KeyValue<T>::read(json[i], place.at(i), into[i]);
    }
    static Json write(const std::array<T, count>& value) { return value; }
    static Json schema() {
        return {{"type", "array"}, {"items", KeyValue<T>::schema()}, {"minItems", count}, {"maxItems", count}};
    }
};

template <class T>
struct KeyValue<std::optional<T>> {
    static void read(const Json& json, const ReadPlace& place, std::optional<T>& into) {
        T value{};
        KeyValue<T>::read(json, place, value);
        into = std::move(value);
    }
    static Json write(const std::optional<T>& value) { return value ? KeyValue<T>::write(*value) : Json(); }
    static Json schema() { return KeyValue<T>::schema(); }
};

// Leniently malformed entries are left out.
template <class T>
struct KeyValue<std::vector<T>> {
    static void read(const Json& json, const ReadPlace& place, std::vector<T>& into) {
        if (!json.is_array())
            mistake(ErrorCode::WrongType, "a JSON array is needed here", place.where, "See docs/formats.md");
        into.clear();
        for (std::size_t i = 0; i < json.size(); ++i)
            try {
                KeyValue<T>::read(json[i], place.at(i), into.emplace_back());
            } catch (const Mistake&) {
                if (!place.lenient)
                    throw;
                into.pop_back();
            }
    }
    static Json write(const std::vector<T>& values) {
        if (values.empty())
            return {};
        auto list = Json::array();
        for (const auto& one : values)
            list.push_back(KeyValue<T>::write(one));
        return list;
    }
    static Json schema() { return {{"type", "array"}, {"items", KeyValue<T>::schema()}}; }
};

template <>
struct KeyValue<std::set<std::string>> {
    static void read(const Json& json, const ReadPlace& place, std::set<std::string>& into) {
        std::vector<std::string> list;
        KeyValue<std::vector<std::string>>::read(json, place, list);
        into = {list.begin(), list.end()};
    }
    static Json write(const std::set<std::string>& names) { return names.empty() ? Json() : Json(names); }
    static Json schema() { return {{"type", "array"}, {"items", {{"type", "string"}}}}; }
};

template <class T>
struct KeyValue<std::map<std::string, T>> {
    static void read(const Json& json, const ReadPlace& place, std::map<std::string, T>& into) {
        if (!json.is_object())
            mistake(ErrorCode::WrongType, "a JSON object is needed here", place.where, "See docs/formats.md");
        into.clear();
        for (const auto& [name, value] : json.items())
            try {
                KeyValue<T>::read(value, place.at(name), into[name]);
            } catch (const Mistake&) {
                if (!place.lenient)
                    throw;
                into.erase(name);
            }
    }
    static Json write(const std::map<std::string, T>& values) {
        if (values.empty())
            return {};
        auto json = Json::object();
        for (const auto& [name, value] : values)
            json[name] = KeyValue<T>::write(value);
        return json;
    }
    static Json schema() { return {{"type", "object"}, {"additionalProperties", KeyValue<T>::schema()}}; }
};

// Structs with a table.
template <class S>
requires requires { S{}.rest; }
struct KeyValue<S> {
    static void read(const Json& json, const ReadPlace& place, S& into) { readFields(json, place, into, into.rest); }
    static Json write(const S& from) {
        auto json = Json::object();
        writeFields(from, json);
        for (const auto& [key, value] : from.rest.items())
            json[key] = value;
        return json;
    }
    static Json schema() { return schemaOfFields<S>(); }
};

// A value with its unit, as it was written, and in SI. Errors of `parse` are told with their place.
template <class Parse>
void readWritten(const Json& json, const ReadPlace& place, std::optional<Written<double>>& into, Parse parse) {
    if (!json.is_string() && !json.is_number())
        mistake(ErrorCode::WrongType, "a value with unit is needed here, for example \"12 W\"", place.where,
                "Write number and unit in quotation marks");
    const auto text = json.is_string() ? json.get<std::string>() : json.dump();
    const Result<double> si = parse(text);
    if (!si)
        mistake(si.error().code, si.error().what, place.where, si.error().remedy);
    into = Written<double>{text, *si};
}
inline Json writeWritten(const std::optional<Written<double>>& value) { return value ? Json(value->text) : Json(); }
// A number, or a text with its unit.
inline Json writtenSchema() { return {{"$ref", "#/definitions/measured"}}; }

// Rows of the table of S: RowsOf<S>::of<&S::member>("key", "meaning").
template <class S>
struct RowsOf {
    // `member`: a pointer to it, or a function from S& to it.
    template <auto member>
    static constexpr KeyRow<S> of(std::string_view key, std::string_view meaning) {
        using T = std::remove_cvref_t<decltype(std::invoke(member, std::declval<S&>()))>;
        return {key, meaning,
                [](const Json& json, const ReadPlace& place, S& into) {
                    KeyValue<T>::read(json, place, std::invoke(member, into));
                },
                [](const S& from) { return KeyValue<T>::write(std::invoke(member, from)); }, KeyValue<T>::schema};
    }
    template <auto member>
    static constexpr KeyRow<S> needed(std::string_view key, std::string_view meaning) {
        auto row = of<member>(key, meaning);
        row.needed = true;
        row.holds = [](const S& read) { return !std::invoke(member, read).empty(); };
        row.wanted = "a text";
        return row;
    }
    static constexpr KeyRow<S> required(KeyRow<S> row) {
        row.needed = true;
        return row;
    }
    // What must hold of it as well; `wanted`: in words, "a number from 1 to 1000".
    static constexpr KeyRow<S> where(KeyRow<S> row, std::string_view wanted, bool (*holds)(const S&)) {
        row.holds = holds;
        row.wanted = wanted;
        return row;
    }
    static constexpr KeyRow<S> also(KeyRow<S> row, std::string_view word) {
        row.also = word;
        return row;
    }
    // A value in the SI unit that `unit` names (a function, so that it can stand in a template).
    template <auto member, const char* (*unit)()>
    static constexpr KeyRow<S> measured(std::string_view key, std::string_view meaning) {
        return {key, meaning,
                [](const Json& json, const ReadPlace& place, S& into) {
                    readWritten(json, place, std::invoke(member, into),
                                [](const std::string& text) { return parseMeasured(text, unit()); });
                },
                [](const S& from) { return writeWritten(std::invoke(member, from)); }, writtenSchema};
    }
    template <auto member>
    static constexpr KeyRow<S> temperature(std::string_view key, std::string_view meaning) { // K
        return {key, meaning,
                [](const Json& json, const ReadPlace& place, S& into) {
                    readWritten(json, place, std::invoke(member, into), [](const std::string& text) {
                        return parseTemperature(text).map([](const Temperature& one) { return one.kelvin; });
                    });
                },
                [](const S& from) { return writeWritten(std::invoke(member, from)); }, writtenSchema};
    }
    // One of some words, or empty.
    template <auto member, auto... words>
    static constexpr KeyRow<S> oneOf(std::string_view key, std::string_view meaning) {
        return {key, meaning,
                [](const Json& json, const ReadPlace& place, S& into) {
                    std::string value;
                    KeyValue<std::string>::read(json, place, value);
                    constexpr std::string_view known[]{words()...};
                    if (!value.empty() && std::ranges::find(known, value) == std::end(known))
                        mistake(ErrorCode::WrongType,
                                fmt::format("\"{}\" is not one of {}", value, fmt::join(known, ", ")), place.where,
                                "Choose one of them");
                    std::invoke(member, into) = value;
                },
                [](const S& from) { return KeyValue<std::string>::write(std::invoke(member, from)); },
                [] {
                    Json all{""};
                    for (const std::string_view word : {words()...})
                        all.push_back(word);
                    return Json{{"enum", all}};
                }};
    }
    // Its value always written, also where it is empty.
    static constexpr KeyRow<S> by(std::string_view key, std::string_view meaning,
                                  void (*read)(const Json&, const ReadPlace&, S&), Json (*write)(const S&),
                                  Json (*schema)()) {
        return {key, meaning, read, write, schema};
    }
};

} // namespace pyro

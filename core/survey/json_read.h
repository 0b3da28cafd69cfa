// Reads single values of a JSON object forgivingly: what is missing or malformed counts as not there.
#pragma once

#include "core/case/case.h"
#include "core/units/written.h"

#include <cmath>
#include <set>

namespace pyro::json_read {

inline std::optional<double> number(const Json& object, const char* key) {
    const auto found = object.find(key);
    if (found == object.end() || !found->is_number() || !std::isfinite(found->get<double>()))
        return std::nullopt;
    return found->get<double>();
}

inline std::optional<Point> point(const Json& object, const char* key) {
    const auto found = object.find(key);
    if (found == object.end() || !found->is_array() || found->size() != 3)
        return std::nullopt;
    Point read{};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        if (!(*found)[axis].is_number())
            return std::nullopt;
        read[axis] = (*found)[axis].get<double>();
    }
    return read;
}

inline std::string text(const Json& object, const char* key, const std::string& otherwise) {
    const auto found = object.find(key);
    return found != object.end() && found->is_string() ? found->get<std::string>() : otherwise;
}

inline bool flag(const Json& object, const char* key, bool otherwise) {
    const auto found = object.find(key);
    return found != object.end() && found->is_boolean() ? found->get<bool>() : otherwise;
}

inline std::set<std::string> names(const Json& object, const char* key) {
    std::set<std::string> read;
    if (const auto found = object.find(key); found != object.end() && found->is_array())
        for (const auto& name : *found)
            if (name.is_string())
                read.insert(name.get<std::string>());
    return read;
}

inline std::vector<double> numbers(const Json& object, const char* key) {
    std::vector<double> read;
    if (const auto found = object.find(key); found != object.end() && found->is_array())
        for (const auto& one : *found)
            if (one.is_number() && std::isfinite(one.get<double>()))
                read.push_back(one.get<double>());
    return read;
}

} // namespace pyro::json_read

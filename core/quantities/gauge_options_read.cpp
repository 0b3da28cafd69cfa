#include "core/quantities/gauge_keys.h"

#include "core/feedback/mistake.h"
#include "core/gauge/where_shape.h"
#include "core/statistics/statistic_kind.h"
#include "core/units/unit.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>
#include <fmt/ranges.h>

namespace pyro {
namespace {

template <class T>
T got(const char* key, Result<T> result) {
    if (!result)
        throw Mistake{
            {result.error().code, fmt::format("\"{}\": {}", key, result.error().what), key, result.error().remedy}};
    return std::move(*result);
}
[[noreturn]] void wrongOption(const char* key, const std::string& what) {
    throw Mistake{{ErrorCode::WrongType, fmt::format("\"{}\": {}", key, what), key, "See docs/formats.md"}};
}

const Json* find(const Gauge& gauge, const char* key) {
    const auto found = gauge.rest.find(key);
    return found == gauge.rest.end() ? nullptr : &*found;
}

std::string written(const Json& json) { return json.is_string() ? json.get<std::string>() : json.dump(); }

std::string word(const Gauge& gauge, const char* key) {
    const auto* json = find(gauge, key);
    if (json == nullptr)
        return {};
    std::vector<std::string_view> allowed;
    for (const auto one : gaugeKeyNamed(key)->words)
        if (!one.empty())
            allowed.push_back(one);
    if (!json->is_string() || std::ranges::find(allowed, json->get<std::string>()) == allowed.end())
        wrongOption(key, fmt::format("{} is not one of {}", json->dump(), fmt::join(allowed, ", ")));
    return json->get<std::string>();
}

std::optional<TemperatureOf> temperature(const Gauge& gauge, const char* key) {
    const auto* json = find(gauge, key);
    if (json == nullptr)
        return std::nullopt;
    if (json->is_string() || json->is_number())
        return ConstantTemperature{got(key, parseTemperature(written(*json))).kelvin};
    if (json->is_object() && json->size() == 1) {
        const auto first = json->begin();
        const auto& name = first.key();
        const auto& value = first.value();
        if (name == "gauge" && value.is_string())
            return GaugeTemperature{value.get<std::string>()};
        if (name == "bulk")
            return BulkTemperature{Json{{"boundary", value}}};
        if (name == "bulk_at")
            return BulkTemperature{value};
        if (name == "distance")
            return FluidTemperature{got(key, lengthOf(value))};
    }
    wrongOption(key, "give a temperature, a gauge, a bulk boundary, bulk_at a plane, or a distance");
}

std::optional<GivenValue> given(const Gauge& gauge, const char* key, const char* siUnit) {
    const auto* json = find(gauge, key);
    if (json == nullptr)
        return std::nullopt;
    if (json->is_object() && json->contains("gauge") && (*json)["gauge"].is_string())
        return GivenValue{(*json)["gauge"].get<std::string>()};
    if (!json->is_string() && !json->is_number())
        wrongOption(key, "give a value with its unit, or a gauge");
    return GivenValue{got(key, parseMeasured(written(*json), siUnit))};
}

std::optional<double> measured(const Gauge& gauge, const char* key, const std::string& siUnit) {
    const auto* json = find(gauge, key);
    if (json == nullptr)
        return std::nullopt;
    if (!json->is_string() && !json->is_number())
        wrongOption(key, "give a value with its unit");
    return got(key, parseMeasured(written(*json), siUnit.empty() ? "1" : siUnit));
}

// Not offset: 5 degC is 5 K.
std::optional<double> difference(const Gauge& gauge, const char* key, const std::string& siUnit) {
    const auto* json = find(gauge, key);
    if (json == nullptr)
        return std::nullopt;
    const auto number = got(key, splitMeasured(written(*json)));
    if (number.unit.empty())
        return number.value;
    return got(key, conversion(number.unit, siUnit.empty() ? "1" : siUnit)).difference(number.value);
}

// A statistic of one step that is one number.
std::string spaceOf(const Gauge& gauge) {
    const auto* json = find(gauge, "space");
    if (json == nullptr)
        return {};
    auto name = json->is_string() ? json->get<std::string>() : std::string();
    const auto* kind = statisticKind(name);
    if (kind == nullptr || !kind->inSpace()) {
        std::vector<std::string_view> known;
        for (const auto* one : statisticKinds())
            if (one->inSpace())
                known.push_back(one->name);
        wrongOption("space",
                    fmt::format("{} is no statistic in space; it is one of {}", json->dump(), fmt::join(known, ", ")));
    }
    return name;
}

bool yes(const Gauge& gauge, const char* key) {
    const auto* json = find(gauge, key);
    if (json != nullptr && !json->is_boolean())
        wrongOption(key, "true or false is needed");
    return json != nullptr && json->get<bool>();
}

} // namespace

Result<GaugeOptions> optionsOf(const Gauge& gauge, const std::string& siUnit) {
    try {
        GaugeOptions out;
        out.reference = temperature(gauge, "reference");
        out.wall = temperature(gauge, "wall");
        out.localLength = find(gauge, "length") != nullptr && *find(gauge, "length") == "local";
        if (!out.localLength)
            out.length = given(gauge, "length", "m");
        out.speed = given(gauge, "speed", "m/s");
        out.power = given(gauge, "per", "W");
        out.conductivity = given(gauge, "conductivity", "W/(m.K)");
        out.weight = word(gauge, "weight");
        out.method = word(gauge, "method");
        out.of = word(gauge, "of");
        out.over = word(gauge, "over");
        out.space = spaceOf(gauge);
        out.meanOfLocal = word(gauge, "mean_of") == "local";
        out.free = measured(gauge, "free", out.of == "velocity" ? "m/s" : "K");
        out.level = measured(gauge, "level", siUnit);
        out.prominence = difference(gauge, "prominence", siUnit);
        out.drop = difference(gauge, "drop", siUnit);
        out.cold = yes(gauge, "cold");
        out.share = measured(gauge, "share", "1").value_or(0.99);
        out.complement = yes(gauge, "complement");
        if (out.of.empty())
            out.of = "temperature";
        return out;
    } catch (const Mistake& found) {
        return tl::unexpected(found.error);
    }
}

} // namespace pyro

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
T got(std::string_view key, Result<T> result) {
    if (!result)
        throw Mistake{{result.error().code, fmt::format("\"{}\": {}", key, result.error().what), std::string(key),
                       result.error().remedy}};
    return std::move(*result);
}
[[noreturn]] void wrongOption(std::string_view key, const std::string& what) {
    throw Mistake{
        {ErrorCode::WrongType, fmt::format("\"{}\": {}", key, what), std::string(key), "See docs/formats.md"}};
}

const Json* find(const Gauge& gauge, std::string_view key) {
    const auto found = gauge.rest.find(key);
    return found == gauge.rest.end() ? nullptr : &*found;
}

std::string text(const Gauge& gauge, std::string_view key) {
    const auto* json = find(gauge, key);
    if (json != nullptr && !json->is_string())
        wrongOption(key, "a text is needed");
    return json == nullptr ? std::string() : json->get<std::string>();
}

// {"case": name}
std::string otherCase(const Gauge& gauge, std::string_view key) {
    const auto* json = find(gauge, key);
    if (json == nullptr)
        return {};
    if (!json->is_object() || !json->contains("case") || !(*json)["case"].is_string())
        wrongOption(key, "name the case as {\"case\": \"baseline\"}");
    return (*json)["case"].get<std::string>();
}

std::string written(const Json& json) { return json.is_string() ? json.get<std::string>() : json.dump(); }

std::string word(const Gauge& gauge, std::string_view key) {
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

std::optional<TemperatureOf> temperature(const Gauge& gauge, std::string_view key) {
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

std::optional<GivenValue> given(const Gauge& gauge, std::string_view key, const std::string& siUnit) {
    const auto* json = find(gauge, key);
    if (json == nullptr)
        return std::nullopt;
    if (json->is_object() && json->contains("gauge") && (*json)["gauge"].is_string())
        return GivenValue{(*json)["gauge"].get<std::string>()};
    if (!json->is_string() && !json->is_number())
        wrongOption(key, "give a value with its unit, or a gauge");
    return GivenValue{got(key, parseMeasured(written(*json), siUnit))};
}

std::optional<double> measured(const Gauge& gauge, std::string_view key, const std::string& siUnit) {
    const auto* json = find(gauge, key);
    if (json == nullptr)
        return std::nullopt;
    if (!json->is_string() && !json->is_number())
        wrongOption(key, "give a value with its unit");
    return got(key, parseMeasured(written(*json), siUnit.empty() ? "1" : siUnit));
}

// Not offset: 5 degC is 5 K.
std::optional<double> difference(const Gauge& gauge, std::string_view key, const std::string& siUnit) {
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

bool yes(const Gauge& gauge, std::string_view key) {
    const auto* json = find(gauge, key);
    if (json != nullptr && !json->is_boolean())
        wrongOption(key, "true or false is needed");
    return json != nullptr && json->get<bool>();
}

// SI of what a key is given in; "1" where it has no unit. `quantity`: the SI unit of the gauge's quantity.
std::string siUnitOfKey(const GaugeKey& key, const std::string& quantity) {
    if (key.isInUnitOfQuantity())
        return quantity;
    return key.siUnit.empty() ? std::string("1") : std::string(key.siUnit);
}

std::optional<OwnValue> ownValue(const Gauge& gauge, const GaugeKey& key, const std::string& quantity) {
    const auto wrap = [](auto found) { return found ? std::optional<OwnValue>(std::move(*found)) : std::nullopt; };
    switch (key.kind) {
    case GaugeKeyKind::Value:
        return wrap(key.typedIn == TypedIn::QuantityDifference ? difference(gauge, key.key, quantity)
                                                               : measured(gauge, key.key, siUnitOfKey(key, quantity)));
    case GaugeKeyKind::ValueOrReference:
        return wrap(given(gauge, key.key, siUnitOfKey(key, quantity)));
    case GaugeKeyKind::Reference:
        return wrap(temperature(gauge, key.key));
    case GaugeKeyKind::Word:
        return OwnValue(word(gauge, key.key));
    case GaugeKeyKind::Text:
        return OwnValue(text(gauge, key.key));
    case GaugeKeyKind::Flag:
        return OwnValue(yes(gauge, key.key));
    case GaugeKeyKind::OtherCase:
        return OwnValue(otherCase(gauge, key.key));
    case GaugeKeyKind::Count:
    case GaugeKeyKind::List:
    case GaugeKeyKind::PlaneElements:
    case GaugeKeyKind::LinearElements:
        break;
    }
    const auto* json = find(gauge, key.key);
    return json == nullptr ? std::nullopt : std::optional<OwnValue>(*json);
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
        out.minus = otherCase(gauge, "minus");
        out.weight = word(gauge, "weight");
        out.method = word(gauge, "method");
        if (auto of = word(gauge, "of"); !of.empty())
            out.of = std::move(of);
        out.over = word(gauge, "over");
        out.space = spaceOf(gauge);
        out.meanOfLocal = word(gauge, "mean_of") == "local";
        out.free = measured(gauge, "free", out.of == "velocity" ? "m/s" : "K");
        out.level = measured(gauge, "level", siUnit);
        for (const auto& key : ownGaugeKeys())
            if (auto value = ownValue(gauge, key, siUnit))
                out.own.emplace(key.key, std::move(*value));
        return out;
    } catch (const Mistake& found) {
        return tl::unexpected(found.error);
    }
}

} // namespace pyro

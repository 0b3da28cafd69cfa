#include "core/report/limit_text.h"

#include <fmt/format.h>

namespace pyro {
namespace {

std::string plain(const LimitReading& limit, double value) {
    if (limit.form == LimitForm::ShareAbove)
        return fmt::format("{:.3g} %", 100 * value);
    return limit.unit == "K" ? formatNumber(value) + " K" : formatSi(value, limit.unit);
}

} // namespace

std::string targetName(const CaseEntry& entry, const LimitTarget& target) {
    return target.kind == TargetKind::Part ? shownName(entry, target.name) : target.name;
}

std::string judgedQuantity(const Limit& limit) {
    const auto words = limitWords(limit);
    return !words.empty() ? words : limit.target.kind == TargetKind::Gauge ? "the gauge" : "temperature";
}

std::string limitLevel(const LimitReading& limit, const std::optional<double>& value, TemperatureUnit unit) {
    if (!value)
        return "unknown";
    return limit.isTemperature && limit.unit == "K" ? formatTemperature({*value}, unit) : plain(limit, *value);
}

std::string limitDifference(const LimitReading& limit, const std::optional<double>& value) {
    return value ? plain(limit, *value) : "unknown";
}

std::string limitWords(const Limit& limit) {
    switch (limit.form) {
    case LimitForm::Value:
        return {};
    case LimitForm::Rise:
        return limit.above          ? "rise above " + limit.above->text
               : limit.than.empty() ? std::string("rise above ambient")
                                    : "rise above " + limit.than;
    case LimitForm::Gradient:
        return "temperature gradient";
    case LimitForm::Difference:
        return "difference to " + limit.than;
    case LimitForm::ShareAbove:
        return fmt::format("share above {}", limit.level ? limit.level->text : "?");
    case LimitForm::DurationAbove:
        return fmt::format("time above {}", limit.level ? limit.level->text : "?");
    }
    return {};
}

std::string overTimeText(const LimitReading& limit) {
    if (!limit.firstOver)
        return {};
    auto text = fmt::format("first over at {:.4g} s", *limit.firstOver);
    if (limit.durationOver)
        text += fmt::format(", for {:.4g} s in all", *limit.durationOver);
    return text;
}

} // namespace pyro

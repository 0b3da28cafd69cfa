#include "core/report/limit_text.h"

#include "core/limits/limit_form.h"
#include "core/units/unit.h"

#include <fmt/format.h>

namespace pyro {
namespace {

std::string plain(const LimitReading& limit, double value, const ReaderUnits& unit) {
    if (const auto shown = limit.form->shownIn; !shown.empty())
        return fmt::format("{:.3g} {}", (*conversion(limit.unit, std::string(shown)))(value), shown);
    return limit.unit == "K" ? formatDifference({value}, unit) : formatSi(value, limit.unit, unit);
}

} // namespace

std::string targetName(const CaseEntry& entry, const LimitTarget& target) {
    return target.kind == TargetKind::Part ? shownName(entry, target.name) : target.name;
}

std::string judgedQuantity(const Limit& limit) {
    const auto words = limitWords(limit);
    return !words.empty() ? words : limit.target.kind == TargetKind::Gauge ? "the gauge" : "temperature";
}

std::string limitLevel(const LimitReading& limit, const std::optional<double>& value, const ReaderUnits& unit) {
    if (!value)
        return "unknown";
    return limit.isTemperature && limit.unit == "K" ? formatTemperature({*value}, unit) : plain(limit, *value, unit);
}

std::string limitDifference(const LimitReading& limit, const std::optional<double>& value, const ReaderUnits& unit) {
    return value ? plain(limit, *value, unit) : "unknown";
}

std::string marginText(const LimitReading& limit, const ReaderUnits& unit) {
    auto text = limitDifference(limit, limit.margin, unit);
    if (limit.margin && limit.uncertainty)
        text += " \u00b1 " + plain(limit, *limit.uncertainty, unit);
    return text;
}

std::string meshText(const LimitReading& limit) {
    return limit.tightByMesh ? "tight: the mesh may have it off by more than the margin" : "";
}

std::string limitWords(const Limit& limit) {
    return limit.form->words != nullptr ? limit.form->words(limit) : std::string();
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

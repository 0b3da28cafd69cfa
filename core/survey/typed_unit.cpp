#include "core/survey/typed_unit.h"

#include "core/quantities/gauge_keys.h"
#include "core/quantities/gauge_quantity.h"
#include "core/statistics/statistic_kind.h"
#include "core/units/unit.h"

#include <algorithm>

namespace pyro {
namespace {

std::string temperatureUnit(const ViewState& view) { return std::string(udunitsName(view.unit)); }

bool isTemperatureUnit(const std::string& unit) { return sameDimension(unit, "K"); }

// Its readings stand in its own unit, else in SI; a time where it tells one.
std::string unitOfGauge(const Gauge& gauge) {
    if (!gauge.unit.empty())
        return gauge.unit;
    if (tellsTime(gauge.statistic))
        return "s";
    return std::string(siUnitOf(gauge.quantity));
}

// Of the values that a gauge over time looks at, whatever unit its time has.
std::string unitOfValues(const Gauge& gauge, const ViewState& view) {
    const auto si = std::string(siUnitOf(levelQuantity(gauge.quantity)));
    if (!gauge.unit.empty() && !si.empty() && sameDimension(gauge.unit, si))
        return gauge.unit;
    if (si == "K" && levelQuantity(gauge.quantity) == "temperature")
        return temperatureUnit(view);
    const auto chosen = view.units.find(gauge.quantity);
    return chosen != view.units.end() ? chosen->second : si;
}

std::string unitOfBound(const Survey& survey, const Limit& limit, const ViewState& view, bool difference) {
    if (!limit.form->shownIn.empty())
        return std::string(limit.form->shownIn);
    const bool other = limit.form->parameter == LimitParameter::OtherGauge;
    if (limit.target.kind == TargetKind::Gauge && (limit.form->isValue || other)) {
        const auto gauge = std::ranges::find(survey.gauges, limit.target.name, &Gauge::id);
        const auto unit = gauge == survey.gauges.end() ? std::string() : unitOfGauge(*gauge);
        return isTemperatureUnit(unit) && (difference || other) ? "K" : unit;
    }
    return limit.form->isValue && !difference ? temperatureUnit(view) : std::string(boundUnit(limit));
}

} // namespace

std::string withUnit(const std::string& typed, const std::string& unit) {
    const auto number = splitMeasured(typed);
    return number && number->unit.empty() && !unit.empty() ? typed + " " + unit : typed;
}

std::string unitOfText(const std::string& text) {
    const auto number = splitMeasured(text);
    return number ? number->unit : std::string();
}

std::string typedUnit(const Survey& survey, const Limit& limit, LimitField field, const ViewState& view) {
    switch (field) {
    case LimitField::Max:
    case LimitField::Min:
        return unitOfBound(survey, limit, view, false);
    case LimitField::Margin:
        return unitOfBound(survey, limit, view, true);
    case LimitField::Level: {
        Limit plain = limit;
        plain.form = &valueForm;
        return unitOfBound(survey, plain, view, false);
    }
    case LimitField::Above:
        return limit.form->parameter == LimitParameter::Ambient ? temperatureUnit(view) : std::string();
    case LimitField::Target:
    case LimitField::Source:
    case LimitField::Kind:
        return {};
    }
    return {};
}

std::string typedUnit(const Gauge& gauge, const std::string& key, const ViewState& view) {
    const auto* known = gaugeKeyNamed(key);
    switch (known == nullptr ? TypedIn::Nothing : known->typedIn) {
    case TypedIn::Nothing:
        return {};
    case TypedIn::Unit:
        return std::string(known->unit);
    case TypedIn::Temperature:
        return temperatureUnit(view);
    case TypedIn::Quantity:
        return unitOfValues(gauge, view);
    case TypedIn::QuantityDifference: {
        const auto unit = unitOfValues(gauge, view);
        return isTemperatureUnit(unit) ? "K" : unit;
    }
    }
    return {};
}

std::string typedUnit(BoundaryField field, const ViewState& view) {
    switch (field) {
    case BoundaryField::Temperature:
        return temperatureUnit(view);
    case BoundaryField::SurfaceResistance:
        return "m2.K/W";
    case BoundaryField::FilmCoefficient:
        return "W/(m2.K)";
    case BoundaryField::Label:
    case BoundaryField::Kind:
        return {};
    }
    return {};
}

} // namespace pyro

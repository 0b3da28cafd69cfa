#include "core/survey/gauge_edit.h"

#include "core/feedback/counted.h"
#include "core/gauge/where_shape.h"
#include "core/quantities/gauge_keys.h"
#include "core/quantities/gauge_quantity.h"
#include "core/statistics/statistic_kind.h"
#include "core/survey/element_text.h"
#include "core/survey/gauge_places.h"
#include "core/survey/names.h"
#include "core/survey/survey_file.h"
#include "core/units/display.h"
#include "core/units/millimetres.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <functional>

namespace pyro {
namespace {

Gauge* gaugeAt(Survey& survey, std::size_t at) { return at < survey.gauges.size() ? &survey.gauges[at] : nullptr; }

tl::unexpected<Error> noGauge() { return fail(ErrorCode::NameUnknown, "there is no such gauge"); }

bool isInUnitOfQuantity(const std::string& key) {
    const auto* known = gaugeKeyNamed(key);
    return known != nullptr && known->isInUnitOfQuantity();
}

// Whether one key can be read. Levels, prominences and drops are in the unit of the quantity: of one that is the
// solver's own any unit will do here, and what does not fit its array is told by the evaluation.
Done keyFits(const Gauge& gauge, const std::string& key) {
    Gauge alone = gauge;
    alone.rest = Json{{key, gauge.rest[key]}};
    auto unit = std::string(siUnitOf(gauge.quantity.empty() ? "temperature" : levelQuantity(gauge.quantity)));
    if (unit.empty() && isInUnitOfQuantity(key)) {
        const auto& value = gauge.rest[key];
        const auto number = splitMeasured(value.is_string() ? value.get<std::string>() : value.dump());
        if (!number)
            return tl::unexpected(number.error());
        if (!number->unit.empty() && !isUnit(number->unit))
            return fail(ErrorCode::WrongUnit, fmt::format("the unit \"{}\" is not known", number->unit), key,
                        "Write it in UDUNITS spelling, for example Pa or m/s");
        unit = number->unit;
    }
    const auto options = optionsOf(alone, unit);
    return options ? Done() : tl::unexpected(options.error());
}

void dropWhatNoLongerFits(Gauge& gauge) {
    std::vector<std::string> gone;
    for (const auto& [key, value] : gauge.rest.items())
        if (!gaugeReads(gauge, key) || (isInUnitOfQuantity(key) && !keyFits(gauge, key)))
            gone.push_back(key);
    for (const auto& key : gone)
        gauge.rest.erase(key);
}

// What was chosen for another quantity goes to its default: a unit of another dimension, decimals, a component, keys
// that it does not read.
void takeQuantity(Gauge& gauge, const std::string& quantity) {
    const auto before = std::string(siUnitOf(gauge.quantity));
    const auto now = std::string(siUnitOf(quantity));
    gauge.quantity = quantity;
    const bool isTime = tellsTime(gauge.statistic);
    if (!isTime && (before.empty() || now.empty() || !sameDimension(before, now)))
        gauge.unit.clear();
    gauge.component.clear();
    gauge.rest.erase("decimals");
    dropWhatNoLongerFits(gauge);
}

// A time that is told of a maximum stays one of the maximum: the statistic in space is kept beside the one over time.
// Durations have a unit of time, whatever the values had.
void takeStatistic(Gauge& gauge, const std::string& statistic) {
    const auto before = std::exchange(gauge.statistic, statistic);
    if (tellsTime(statistic) != tellsTime(before)) {
        gauge.unit.clear();
        gauge.rest.erase("decimals");
        if (tellsTime(statistic) && !before.empty() && !gauge.rest.contains("space")) {
            gauge.rest["space"] = before;
            if (!keyFits(gauge, "space")) // a profile or a list of hotspots is no number
                gauge.rest.erase("space");
        } else if (tellsTime(before) && statistic.empty()) {
            gauge.statistic = gaugeKey(gauge, "space");
        }
    }
    dropWhatNoLongerFits(gauge);
}

// As a name can hold it.
std::string symbolIn(const Gauge& gauge) {
    std::string word;
    for (const char c : symbolOf(gauge.quantity, gauge.statistic))
        word += std::isalnum(static_cast<unsigned char>(c)) != 0 ? c : '_';
    return word.empty() || std::isdigit(static_cast<unsigned char>(word[0])) != 0 ? "gauge" : word;
}

std::string stemOf(const Gauge& gauge) {
    if (!gauge.formula.empty())
        return "formula";
    if (isEnvelopeQuantity(gauge.quantity))
        return symbolIn(gauge);
    const auto shape = shapeOf(gauge.where);
    if (!shape)
        return "gauge";
    static constexpr std::array<const char*, 8> stems{"gauge",   "point",     "line",     "line",
                                                      "section", "interface", "isotherm", "surface"};
    const auto kind = shape->shape.index();
    auto stem = symbolIn(gauge) + "_";
    if (kind != 0)
        return stem + stems[kind];
    const auto& names = shape->boundaries.empty() ? shape->parts : shape->boundaries;
    for (const char c : names.empty() ? std::string("all") : names.front())
        stem += std::isalnum(static_cast<unsigned char>(c)) != 0
                    ? static_cast<char>(std::tolower(static_cast<unsigned char>(c)))
                    : '_';
    return stem;
}

// Whether the name is one that was made here, not one that somebody gave.
bool isMadeId(const std::string& id, const std::string& stem) {
    if (!id.starts_with(stem))
        return false;
    const auto rest = std::string_view(id).substr(stem.size());
    return rest.empty() ||
           (rest.size() > 1 && rest[0] == '_' && rest.find_first_not_of("0123456789", 1) == std::string_view::npos);
}

std::string madeId(const Survey& survey, const Gauge& gauge, const std::string& stem) {
    // A place with a name of its own needs no number unless the name is taken.
    const bool named = isEnvelopeQuantity(gauge.quantity) ||
                       (gauge.formula.empty() && shapeOf(gauge.where) &&
                        std::holds_alternative<RegionShape>(shapeOf(gauge.where)->shape));
    const bool taken = std::ranges::find(survey.gauges, stem, &Gauge::id) != survey.gauges.end();
    return named && !taken ? stem : freeGaugeId(survey, stem);
}

std::string listed(const std::vector<std::string>& names) { return fmt::format("{}", fmt::join(names, ", ")); }

std::string envelopePlace(const Gauge& gauge) {
    if (gauge.rest.contains("layers"))
        return counted(gauge.rest["layers"].size(), "layer");
    if (gauge.rest.contains("sum"))
        return "sum of " + counted(gauge.rest["sum"].size(), "term");
    if (gaugeReads(gauge, "humidity"))
        return "moist air";
    const auto& where = gauge.where.written;
    if (!where.is_object() || !where.contains("environments") || !where["environments"].is_array() ||
        where["environments"].size() != 2)
        return "between warm and cold";
    const auto side = [](const Json& names) {
        if (!names.is_array())
            return names.is_string() ? names.get<std::string>() : names.dump();
        std::vector<std::string> all;
        for (const auto& name : names)
            all.push_back(name.is_string() ? name.get<std::string>() : name.dump());
        return fmt::format("{}", fmt::join(all, " and "));
    };
    return side(where["environments"][0]) + " to " + side(where["environments"][1]);
}

} // namespace

bool isGaugeId(std::string_view text) {
    if (text.empty() || (std::isalpha(static_cast<unsigned char>(text[0])) == 0 && text[0] != '_'))
        return false;
    return std::ranges::all_of(text,
                               [](char c) { return std::isalnum(static_cast<unsigned char>(c)) != 0 || c == '_'; });
}

std::string freeGaugeId(const Survey& survey, const std::string& stem) {
    for (int number = 1;; ++number)
        if (auto id = fmt::format("{}_{}", stem, number);
            std::ranges::find(survey.gauges, id, &Gauge::id) == survey.gauges.end())
            return id;
}

Survey withGauge(Survey survey, Gauge gauge) {
    if (gauge.id.empty()) {
        const auto stem = stemOf(gauge);
        gauge.id = madeId(survey, gauge, stem);
    }
    survey.gauges.push_back(std::move(gauge));
    return survey;
}

Survey withoutGauge(Survey survey, std::size_t gauge) {
    if (gauge < survey.gauges.size())
        survey.gauges.erase(survey.gauges.begin() + static_cast<std::ptrdiff_t>(gauge));
    return survey;
}

Result<Survey> withGaugeId(Survey survey, std::size_t at, const std::string& id) {
    auto* gauge = gaugeAt(survey, at);
    if (gauge == nullptr)
        return noGauge();
    if (!isGaugeId(id))
        return fail(ErrorCode::Syntax, fmt::format("\"{}\" is no name for a gauge", id), {},
                    "Begin with a letter, then letters, digits and _ only: formulas use the name");
    for (std::size_t other = 0; other < survey.gauges.size(); ++other)
        if (other != at && survey.gauges[other].id == id)
            return fail(ErrorCode::NameUnknown, fmt::format("another gauge has the name \"{}\" already", id), {},
                        "Choose another one");
    rename(survey, NameOf::Gauge, gauge->id, id);
    gauge->id = id;
    return survey;
}

namespace {

// A change of what is measured; a name that was made from it follows.
Result<Survey> withMadeName(Survey survey, std::size_t at, const std::function<void(Gauge&)>& change) {
    auto& gauge = survey.gauges[at];
    const auto before = stemOf(gauge);
    change(gauge);
    const auto after = stemOf(gauge);
    if (before == after || !isMadeId(gauge.id, before))
        return survey;
    const auto id = madeId(survey, gauge, after);
    return withGaugeId(std::move(survey), at, id);
}

} // namespace

Result<Survey> withGaugeField(Survey survey, std::size_t at, GaugeField field, const std::string& text) {
    auto* gauge = gaugeAt(survey, at);
    if (gauge == nullptr)
        return noGauge();
    switch (field) {
    case GaugeField::Quantity:
        if (text != gauge->quantity)
            return withMadeName(std::move(survey), at, [&](Gauge& one) { takeQuantity(one, text); });
        break;
    case GaugeField::Statistic:
        if (text != gauge->statistic)
            return withMadeName(std::move(survey), at, [&](Gauge& one) { takeStatistic(one, text); });
        break;
    case GaugeField::Unit:
        if (!text.empty() && !isUnit(text))
            return fail(ErrorCode::WrongUnit, fmt::format("the unit \"{}\" is not known", text), {},
                        "Write it in UDUNITS spelling, for example degC or W/m2");
        gauge->unit = text;
        break;
    case GaugeField::Component:
        gauge->component = text;
        break;
    case GaugeField::Formula:
        gauge->formula = text;
        break;
    case GaugeField::Where: {
        Gauge next = *gauge;
        if (text.empty() && isEnvelopeQuantity(gauge->quantity)) { // all warm and cold environments
            gauge->where.written = nullptr;
            break;
        }
        try {
            next.where.written = Json::parse(text);
        } catch (const Json::parse_error&) {
            return fail(ErrorCode::Syntax, "the place is not written as JSON", "where",
                        "For example {\"boundary\": \"outlet\"}");
        }
        if (const auto shape = shapeOf(next.where); !shape && !isEnvelopeQuantity(gauge->quantity))
            return tl::unexpected(shape.error());
        *gauge = next;
        break;
    }
    case GaugeField::Group:
        if (text.empty())
            gauge->rest.erase("group");
        else
            gauge->rest["group"] = text;
        break;
    }
    return survey;
}

Result<Survey> withGaugeKey(Survey survey, std::size_t at, const std::string& key, const std::string& text) {
    auto* gauge = gaugeAt(survey, at);
    if (gauge == nullptr)
        return noGauge();
    if (text.empty()) {
        gauge->rest.erase(key);
        return survey;
    }
    const auto* known = gaugeKeyNamed(key);
    const auto kind = known == nullptr ? GaugeKeyKind::Text : known->kind;
    if (kind == GaugeKeyKind::Count) {
        if (text.size() != 1 || text[0] < '0' || text[0] > '9')
            return fail(ErrorCode::WrongType, fmt::format("{} are a number from 0 to 9", key), key,
                        "Leave it empty for as many as the value needs");
        gauge->rest[key] = text[0] - '0';
        return survey;
    }
    if (kind == GaugeKeyKind::Reference) {
        const auto meant = referenceOfText(survey, text);
        if (!meant)
            return tl::unexpected(meant.error());
        if (*meant != text)
            return withGaugeKey(std::move(survey), at, key, *meant);
    }
    if (kind == GaugeKeyKind::OtherCase && text.front() != '{') {
        if (survey.caseNamed(text) == nullptr)
            return fail(ErrorCode::NameUnknown, fmt::format("the survey has no case \"{}\"", text), key,
                        "Choose one of its cases");
        gauge->rest[key] = Json{{"case", text}};
        return survey;
    }
    if (known != nullptr && known->isElements() && text.front() != '[') {
        const auto elements = elementsOfText(kind, text);
        if (!elements)
            return tl::unexpected(elements.error());
        return withGaugeKey(std::move(survey), at, key, elements->dump());
    }
    if (text.front() == '{' || text.front() == '[' || text == "true" || text == "false") {
        try {
            gauge->rest[key] = Json::parse(text);
        } catch (const Json::parse_error&) {
            return fail(ErrorCode::Syntax, fmt::format("\"{}\" is not written as JSON", key), key,
                        "For example {\"bulk\": \"outlet\"}");
        }
    } else {
        gauge->rest[key] = text;
    }
    if (auto fits = keyFits(*gauge, key); !fits)
        return tl::unexpected(fits.error());
    return survey;
}

Result<Survey> withDecimals(Survey survey, const std::string& text) {
    Result<Survey> next = std::move(survey);
    for (std::size_t at = 0; next && at < next->gauges.size(); ++at)
        next = withGaugeKey(std::move(*next), at, "decimals", text);
    return next;
}

std::string gaugeKey(const Gauge& gauge, const std::string& key) {
    const auto found = gauge.rest.find(key);
    const auto* known = gaugeKeyNamed(key);
    if (found != gauge.rest.end() && known != nullptr && known->isElements())
        return textOfElements(known->kind, *found);
    if (found != gauge.rest.end() && known != nullptr && known->kind == GaugeKeyKind::OtherCase)
        return found->value("case", std::string());
    return found == gauge.rest.end() ? std::string() : found->is_string() ? found->get<std::string>() : found->dump();
}

std::string gaugeNumber(const Gauge& gauge, double value, bool isTemperature) {
    const auto decimals = gauge.rest.find("decimals");
    if (decimals != gauge.rest.end() && decimals->is_number_integer())
        return formatNumber(value, std::clamp(decimals->get<int>(), 0, 9));
    return isTemperature ? formatNumber(value) : fmt::format("{:.5g}", value);
}

std::string placeText(const Gauge& gauge) {
    if (!gauge.formula.empty())
        return gauge.formula;
    if (isEnvelopeQuantity(gauge.quantity))
        return envelopePlace(gauge);
    const auto shape = shapeOf(gauge.where);
    if (!shape)
        return gauge.where.written.is_null() ? "nowhere yet" : gauge.where.written.dump();
    const auto mm = [](const Point& at) {
        return fmt::format("x {:.4g}  y {:.4g}  z {:.4g} mm", millimetres(at[0]), millimetres(at[1]),
                           millimetres(at[2]));
    };
    const auto on = shape->boundaries.empty() ? std::string() : " on " + listed(shape->boundaries);
    if (const auto* point = std::get_if<PointShape>(&shape->shape))
        return "point " + mm(point->at) + on;
    if (const auto* line = std::get_if<LineShape>(&shape->shape)) {
        double length = 0;
        for (std::size_t i = 1; i < line->through.size(); ++i)
            length += std::hypot(line->through[i][0] - line->through[i - 1][0],
                                 line->through[i][1] - line->through[i - 1][1],
                                 line->through[i][2] - line->through[i - 1][2]);
        return fmt::format("line of {:.4g} mm{}", 1e3 * length, on);
    }
    if (std::holds_alternative<TraceShape>(shape->shape))
        return "trace of a plane" + on;
    if (const auto* plane = std::get_if<PlaneShape>(&shape->shape))
        return "plane at " + mm(plane->plane.origin) + (shape->parts.empty() ? "" : " in " + listed(shape->parts));
    if (const auto* face = std::get_if<InterfaceShape>(&shape->shape))
        return fmt::format("{} to {}", face->parts[0], face->parts[1]);
    if (const auto* isotherm = std::get_if<IsothermShape>(&shape->shape))
        return fmt::format("isotherm {:.4g} degC", isotherm->kelvin - 273.15);
    if (const auto* surface = std::get_if<SurfaceShape>(&shape->shape))
        return "surface " + surface->file;
    return shape->everything           ? "all parts"
           : shape->boundaries.empty() ? "part " + listed(shape->parts)
                                       : "boundary " + listed(shape->boundaries);
}

std::vector<Point> drawnPlaces(const Gauge& gauge) {
    const auto shape = shapeOf(gauge.where);
    if (!shape)
        return {};
    if (const auto* point = std::get_if<PointShape>(&shape->shape))
        return {point->at};
    if (const auto* line = std::get_if<LineShape>(&shape->shape))
        return line->through;
    return {};
}

} // namespace pyro

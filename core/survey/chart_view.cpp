#include "core/survey/chart_view.h"

#include "core/survey/json_read.h"

#include <fmt/format.h>

namespace pyro {
namespace {

constexpr std::array<std::pair<const char*, double FlowConditions::*>, 7> conditionKeys{
    {{"speed", &FlowConditions::speed},
     {"length", &FlowConditions::length},
     {"conductivity", &FlowConditions::conductivity},
     {"viscosity", &FlowConditions::viscosity},
     {"prandtl", &FlowConditions::prandtl},
     {"expansion", &FlowConditions::expansion},
     {"difference", &FlowConditions::difference}}};

std::optional<std::array<double, 2>> rangeIn(const Json& json, const char* key) {
    const auto numbers = json_read::numbers(json, key);
    return numbers.size() == 2 && numbers[0] < numbers[1] ? std::optional(std::array{numbers[0], numbers[1]})
                                                          : std::nullopt;
}

ReferenceCurve referenceFrom(const Json& json) {
    ReferenceCurve curve;
    curve.correlation = json_read::text(json, "correlation", "");
    curve.start = json_read::number(json, "start").value_or(0);
    for (const auto& [key, member] : conditionKeys)
        curve.conditions.*member = json_read::number(json, key).value_or(0);
    return curve;
}

Json toJson(const ReferenceCurve& curve) {
    Json json{{"correlation", curve.correlation}};
    if (curve.start != 0)
        json["start"] = curve.start;
    for (const auto& [key, member] : conditionKeys)
        if (curve.conditions.*member != 0)
            json[key] = curve.conditions.*member;
    return json;
}

} // namespace

bool ReferenceCurve::operator==(const ReferenceCurve& other) const { return toJson(*this) == toJson(other); }

ChartView chartOf(const Survey& survey, std::size_t at) {
    ChartView view;
    if (at >= survey.charts.size() || !survey.charts[at].is_object())
        return view;
    const auto& json = survey.charts[at];
    if (json.contains("curves") && json["curves"].is_array())
        for (const auto& curve : json["curves"])
            if (const auto id = json_read::text(curve, "gauge", ""); !id.empty())
                view.gauges.push_back(id);
    view.allCases = json_read::flag(json, "all_cases", true);
    view.difference = json_read::flag(json, "difference", false);
    view.logX = json_read::flag(json, "log_x", false);
    view.logY = json_read::flag(json, "log_y", false);
    view.title = json_read::text(json, "title", "");
    view.xTitle = json_read::text(json, "x_title", "");
    view.yTitle = json_read::text(json, "y_title", "");
    view.xRange = rangeIn(json, "x_range");
    view.yRange = rangeIn(json, "y_range");
    if (const auto axis = json_read::text(json, "x_axis", ""); axis == "x" || axis == "y" || axis == "z")
        view.xAxis = axis;
    if (json.contains("x_axis") && json["x_axis"].is_object())
        view.xOver = json_read::text(json["x_axis"], "gauge", "");
    if (json.contains("x_over") && json["x_over"].is_object())
        view.xScale = json_read::text(json["x_over"], "gauge", "");
    if (json.contains("references") && json["references"].is_array())
        for (const auto& reference : json["references"])
            if (reference.is_object())
                view.references.push_back(referenceFrom(reference));
    return view;
}

Survey withChart(Survey survey, const ChartView& view, std::size_t at) {
    while (survey.charts.size() <= at)
        survey.charts.push_back(Json::object());
    Json json = survey.charts[at].is_object() ? survey.charts[at] : Json::object();
    for (const auto* key :
         {"curves", "title", "x_title", "y_title", "x_range", "y_range", "x_axis", "x_over", "references"})
        json.erase(key);
    for (const auto& gauge : view.gauges)
        json["curves"].push_back({{"gauge", gauge}});
    json["all_cases"] = view.allCases;
    json["difference"] = view.difference;
    json["log_x"] = view.logX;
    json["log_y"] = view.logY;
    for (const auto& [key, text] :
         {std::pair{"title", &view.title}, {"x_title", &view.xTitle}, {"y_title", &view.yTitle}})
        if (!text->empty())
            json[key] = *text;
    if (view.xRange)
        json["x_range"] = *view.xRange;
    if (view.yRange)
        json["y_range"] = *view.yRange;
    if (!view.xOver.empty())
        json["x_axis"] = {{"gauge", view.xOver}};
    else if (!view.xAxis.empty())
        json["x_axis"] = view.xAxis;
    if (!view.xScale.empty())
        json["x_over"] = {{"gauge", view.xScale}};
    for (const auto& reference : view.references)
        json["references"].push_back(toJson(reference));
    survey.charts[at] = json;
    return survey;
}

Survey withoutChart(Survey survey, std::size_t at) {
    if (at < survey.charts.size())
        survey.charts.erase(at);
    return survey;
}

std::string chartName(const Survey& survey, std::size_t at) {
    const auto view = chartOf(survey, at);
    if (!view.title.empty())
        return view.title;
    if (view.gauges.empty())
        return fmt::format("Chart {}", at + 1);
    return fmt::format("{}", fmt::join(view.gauges, ", "));
}

} // namespace pyro

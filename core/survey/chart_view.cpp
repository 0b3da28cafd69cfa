#include "core/survey/chart_view.h"

#include "core/survey/survey.h"

#include <fmt/format.h>

namespace pyro {
namespace {

template <double FlowConditions::*member>
constexpr KeyRow<ReferenceCurve> condition(std::string_view key, std::string_view meaning) {
    return {key, meaning,
            [](const Json& json, const ReadPlace& place, ReferenceCurve& into) {
                KeyValue<double>::read(json, place, into.conditions.*member);
            },
            [](const ReferenceCurve& from) {
                return from.conditions.*member != 0 ? Json(from.conditions.*member) : Json();
            },
            KeyValue<double>::schema};
}

// {"gauge": id}; empty: none.
std::string gaugeIn(const Json& json, const ReadPlace& place) {
    if (!json.is_object() || !json.contains("gauge") || !json["gauge"].is_string())
        mistake(ErrorCode::WrongType, "a gauge is named here", place.where, "Write {\"gauge\": id}");
    return json["gauge"].get<std::string>();
}
Json gaugeSchema() { return {{"type", "object"}, {"properties", {{"gauge", {{"type", "string"}}}}}}; }

bool isRange(const std::optional<std::array<double, 2>>& range) { return (*range)[0] < (*range)[1]; }

} // namespace

template <>
std::span<const KeyRow<ReferenceCurve>> rowsOf<ReferenceCurve>() {
    using Row = RowsOf<ReferenceCurve>;
    static constexpr KeyRow<ReferenceCurve> rows[]{
        Row::of<&ReferenceCurve::correlation>("correlation", "which one"),
        Row::by(
            "start", "m, where on the line the leading edge lies",
            [](const Json& json, const ReadPlace& place, ReferenceCurve& into) {
                KeyValue<double>::read(json, place, into.start);
            },
            [](const ReferenceCurve& from) { return from.start != 0 ? Json(from.start) : Json(); },
            KeyValue<double>::schema),
        condition<&FlowConditions::speed>("speed", "m/s"),
        condition<&FlowConditions::length>("length", "m"),
        condition<&FlowConditions::conductivity>("conductivity", "W/(m.K)"),
        condition<&FlowConditions::viscosity>("viscosity", "kinematic, m2/s"),
        condition<&FlowConditions::prandtl>("prandtl", ""),
        condition<&FlowConditions::expansion>("expansion", "1/K"),
        condition<&FlowConditions::difference>("difference", "K"),
    };
    return rows;
}

template <>
std::span<const KeyRow<ChartView>> rowsOf<ChartView>() {
    using Row = RowsOf<ChartView>;
    static constexpr KeyRow<ChartView> rows[]{
        Row::by(
            "curves", "gauges on the chart; none: the one that is chosen",
            [](const Json& json, const ReadPlace& place, ChartView& into) {
                if (!json.is_array())
                    mistake(ErrorCode::WrongType, "a list is needed here", place.where, "See docs/formats.md");
                into.gauges.clear();
                for (std::size_t i = 0; i < json.size(); ++i)
                    if (json[i].is_object() && json[i].contains("gauge") && json[i]["gauge"].is_string())
                        into.gauges.push_back(json[i]["gauge"].get<std::string>());
            },
            [](const ChartView& from) {
                Json curves;
                for (const auto& gauge : from.gauges)
                    curves.push_back({{"gauge", gauge}});
                return curves;
            },
            [] {
                return Json{{"type", "array"}, {"items", gaugeSchema()}};
            }),
        Row::of<&ChartView::allCases>("all_cases", ""),
        Row::of<&ChartView::difference>("difference", "each curve less the first one"),
        Row::of<&ChartView::logX>("log_x", ""),
        Row::of<&ChartView::logY>("log_y", ""),
        Row::of<&ChartView::title>("title", "left out: made from what is shown"),
        Row::of<&ChartView::xTitle>("x_title", ""),
        Row::of<&ChartView::yTitle>("y_title", ""),
        Row::where(Row::of<&ChartView::xRange>("x_range", "in the units on display"), "a range from low to high",
                   [](const ChartView& one) { return isRange(one.xRange); }),
        Row::where(Row::of<&ChartView::yRange>("y_range", "in the units on display"), "a range from low to high",
                   [](const ChartView& one) { return isRange(one.yRange); }),
        Row::by(
            "x_axis", "x, y or z, or another profile of the same line; left out: the distance along the line",
            [](const Json& json, const ReadPlace& place, ChartView& into) {
                if (json == "x" || json == "y" || json == "z")
                    into.xAxis = json.get<std::string>();
                else
                    into.xOver = gaugeIn(json, place);
            },
            [](const ChartView& from) {
                return !from.xOver.empty()   ? Json{{"gauge", from.xOver}}
                       : !from.xAxis.empty() ? Json(from.xAxis)
                                             : Json();
            },
            [] {
                return Json{{"anyOf", {Json{{"enum", {"x", "y", "z"}}}, gaugeSchema()}}};
            }),
        Row::by(
            "x_over", "a gauge that lengths are divided by",
            [](const Json& json, const ReadPlace& place, ChartView& into) { into.xScale = gaugeIn(json, place); },
            [](const ChartView& from) {
                return from.xScale.empty() ? Json() : Json{{"gauge", from.xScale}};
            },
            gaugeSchema),
        Row::of<&ChartView::references>("references", "curves of correlations"),
    };
    return rows;
}

const ChartView& chartOf(const Survey& survey, std::size_t at) {
    static const ChartView fresh;
    return at < survey.charts.size() ? survey.charts[at] : fresh;
}

Survey withChart(Survey survey, const ChartView& view, std::size_t at) {
    if (survey.charts.size() <= at)
        survey.charts.resize(at + 1);
    survey.charts[at] = view;
    return survey;
}

Survey withoutChart(Survey survey, std::size_t at) {
    if (at < survey.charts.size())
        survey.charts.erase(survey.charts.begin() + static_cast<std::ptrdiff_t>(at));
    return survey;
}

std::string chartName(const Survey& survey, std::size_t at) {
    const auto& view = chartOf(survey, at);
    if (!view.title.empty())
        return view.title;
    if (view.gauges.empty())
        return fmt::format("Chart {}", at + 1);
    return fmt::format("{}", fmt::join(view.gauges, ", "));
}

} // namespace pyro

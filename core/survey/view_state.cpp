#include "core/survey/view_state.h"

#include <algorithm>

namespace pyro {

template <>
struct KeyValue<TemperatureUnit> {
    static void read(const Json& json, const ReadPlace& place, TemperatureUnit& into) {
        const auto unit = temperatureUnitFromName(json.is_string() ? json.get<std::string>() : std::string());
        if (!unit)
            mistake(ErrorCode::WrongUnit, "degC, degF or K is needed here", place.where, "Choose one of them");
        into = *unit;
    }
    static Json write(TemperatureUnit unit) { return udunitsName(unit); }
    static Json schema() { return {{"type", "string"}}; }
};

template <>
std::span<const KeyRow<CameraState>> rowsOf<CameraState>() {
    using Row = RowsOf<CameraState>;
    static constexpr KeyRow<CameraState> rows[]{
        Row::required(Row::of<&CameraState::position>("position", "m")),
        Row::required(Row::of<&CameraState::focus>("focus", "m")),
        Row::required(Row::of<&CameraState::up>("up", "")),
        Row::required(Row::where(Row::of<&CameraState::scale>("scale", "half the height of the view, m"),
                                 "a scale above zero", [](const CameraState& one) { return one.scale > 0; })),
    };
    return rows;
}

std::string_view compareShowName(CompareShow show) {
    constexpr std::array<std::string_view, 5> names{"side_by_side", "wipe", "difference", "measured", "sweep"};
    return names[static_cast<std::size_t>(show)];
}

template <>
struct KeyValue<CompareShow> : NamedKeyValue<CompareShow, compareShowName, CompareShow::SideBySide, CompareShow::Wipe,
                                             CompareShow::Difference, CompareShow::Measured, CompareShow::Sweep> {};

namespace {

constexpr const char* worseFirst() { return "worse"; }
constexpr const char* changedFirst() { return "changed"; }
constexpr const char* leastMarginFirst() { return "margin"; }
constexpr const char* asDefined() { return "defined"; }

} // namespace

template <>
std::span<const KeyRow<CompareLook>> rowsOf<CompareLook>() {
    using Row = RowsOf<CompareLook>;
    static constexpr KeyRow<CompareLook> rows[]{
        Row::of<&CompareLook::show>("show", ""),
        Row::of<&CompareLook::left>("left_out", "cases that are compared in the table but not seen"),
        Row::oneOf<&CompareLook::order, worseFirst, changedFirst, leastMarginFirst, asDefined>("order", "of the table"),
        Row::where(Row::of<&CompareLook::wipe>("wipe", "share of the width at which the second picture begins"),
                   "a share from 0 to 1", [](const CompareLook& one) { return one.wipe >= 0 && one.wipe <= 1; }),
        Row::of<&CompareLook::deviations>("deviations", "whether measured places are labelled in the pictures"),
    };
    return rows;
}

std::string_view sweepPictureName(SweepPicture picture) {
    constexpr std::array<std::string_view, 4> names{"map", "curves", "lines", "front"};
    return names[static_cast<std::size_t>(picture)];
}

template <>
struct KeyValue<SweepPicture> : NamedKeyValue<SweepPicture, sweepPictureName, SweepPicture::Map, SweepPicture::Curves,
                                              SweepPicture::Lines, SweepPicture::Front> {};

template <>
std::span<const KeyRow<SweepLook>> rowsOf<SweepLook>() {
    using Row = RowsOf<SweepLook>;
    static constexpr KeyRow<SweepLook> rows[]{
        Row::of<&SweepLook::picture>("picture", ""),
        Row::of<&SweepLook::x>("x", "parameter; of a front: a value"),
        Row::of<&SweepLook::y>("y", "parameter; of a front: a value"),
        Row::of<&SweepLook::value>("value", "drawn over them; left out: the least margin"),
        Row::of<&SweepLook::slices>("slices", "parameters that are held"),
        Row::of<&SweepLook::hidden>("hidden", "columns of the table, by their titles"),
        Row::of<&SweepLook::ranges>("ranges", "of parameters and values: the rows within them are left"),
    };
    return rows;
}

template <>
std::span<const KeyRow<ViewState>> rowsOf<ViewState>() {
    using Row = RowsOf<ViewState>;
    static constexpr KeyRow<ViewState> rows[]{
        Row::of<&ViewState::stage>("stage", ""),
        Row::of<&ViewState::caseName>("case", "the case on display"),
        Row::where(Row::of<&ViewState::step>("step", "of the case, from 0; left out: the last one"), "a number from 0",
                   [](const ViewState& one) { return *one.step >= 0; }),
        Row::of<&ViewState::quantity>("quantity", "on display"),
        Row::of<&ViewState::unit>("temperature_unit", ""),
        Row::where(Row::of<&ViewState::chart>("chart", "position in charts of the one on display"),
                   "a number from 0 to 1000", [](const ViewState& one) { return one.chart <= 1000; }),
        Row::of<&ViewState::units>("units", "of quantities other than temperature; those without are in SI"),
        Row::by(
            "decimals", "by quantity; those without: 1 for temperature, else four digits",
            [](const Json& json, const ReadPlace& place, ViewState& into) {
                KeyValue<std::map<std::string, int>>::read(json, place, into.decimals);
                std::erase_if(into.decimals,
                              [](const auto& one) { return one.second < 0 || one.second > mostDecimals; });
            },
            [](const ViewState& from) { return KeyValue<std::map<std::string, int>>::write(from.decimals); },
            KeyValue<std::map<std::string, int>>::schema),
        Row::where(
            Row::of<&ViewState::component>("component", "of a vector quantity; empty: its magnitude"), "x, y or z",
            [](const ViewState& one) {
                return one.component.empty() || one.component == "x" || one.component == "y" || one.component == "z";
            }),
        Row::of<&ViewState::hidden>("hidden", "parts that are not seen"),
        Row::of<&ViewState::boundaries>("boundaries", "drawn besides the parts"),
        Row::by(
            "opacity", "of parts that are not opaque, 0 to 1",
            [](const Json& json, const ReadPlace& place, ViewState& into) {
                KeyValue<std::map<std::string, double>>::read(json, place, into.opacity);
                for (auto& [part, opacity] : into.opacity)
                    opacity = std::clamp(opacity, 0.0, 1.0);
            },
            [](const ViewState& from) { return KeyValue<std::map<std::string, double>>::write(from.opacity); },
            KeyValue<std::map<std::string, double>>::schema),
        Row::where(Row::of<&ViewState::isolated>("isolated", "only this part is seen"), "a part",
                   [](const ViewState& one) { return !one.isolated->empty(); }),
        Row::where(Row::of<&ViewState::range>("range", "of the colours, SI; left out: fitted to what is visible"),
                   "a range from low to high", [](const ViewState& one) { return (*one.range)[0] < (*one.range)[1]; }),
        Row::of<&ViewState::camera>("camera", "left out: fitted"),
        Row::by(
            "compare", "how cases are seen beside each other",
            [](const Json& json, const ReadPlace& place, ViewState& into) {
                KeyValue<CompareLook>::read(json, place, into.compare);
            },
            [](const ViewState& from) {
                return from.compare == CompareLook{} ? Json() : KeyValue<CompareLook>::write(from.compare);
            },
            KeyValue<CompareLook>::schema),
        Row::by(
            "sweep", "how a sweep is looked at",
            [](const Json& json, const ReadPlace& place, ViewState& into) {
                KeyValue<SweepLook>::read(json, place, into.sweep);
            },
            [](const ViewState& from) {
                return from.sweep == SweepLook{} ? Json() : KeyValue<SweepLook>::write(from.sweep);
            },
            KeyValue<SweepLook>::schema),
    };
    return rows;
}

namespace {

// As earlier surveys wrote it: the values of isotherms beside their other keys, lines without how they begin.
Json asWrittenNow(Json view) {
    if (!view.is_object())
        return view;
    const auto text = [&](const Json& object, const char* key, const std::string& otherwise) {
        const auto found = object.find(key);
        return found != object.end() && found->is_string() ? found->get<std::string>() : otherwise;
    };
    if (auto isotherms = view.find("isotherms"); isotherms != view.end() && isotherms->is_object()) {
        const auto shown = isolineKey(text(view, "quantity", "temperature"), text(view, "component", ""));
        for (const auto* key : {"spacing", "marks", "marks_of", "surfaces"})
            if (const auto old = isotherms->find(key); old != isotherms->end()) {
                const Json value = *old;
                isotherms->erase(key);
                auto& values = (*isotherms)["values"];
                if (!values.is_object())
                    values = Json::object();
                if (!values.contains(shown))
                    values[shown] = Json::object();
                if (values[shown].is_object() && !values[shown].contains(key))
                    values[shown][key] = value;
            }
    }
    if (auto paths = view.find("paths");
        paths != view.end() && paths->is_object() && !paths->contains("start") && !text(*paths, "from", "").empty())
        (*paths)["start"] = startText(PathStart::Boundary);
    return view;
}

} // namespace

void KeyValue<ViewState>::read(const Json& json, const ReadPlace& place, ViewState& into) {
    const ReadPlace leniently{place.where, true};
    Json own = {};
    readFields(asWrittenNow(json), leniently, into, own);
    Json left = own.is_object() ? own : Json::object();
    Json unknown = {};
    readFields(left, leniently, into.field, unknown);
    into.rest = unknown;
}

Json KeyValue<ViewState>::write(const ViewState& view) {
    auto json = Json::object();
    writeFields(view, json);
    writeFields(view.field, json);
    for (const auto& [key, value] : view.rest.items())
        json[key] = value;
    return json;
}

// Null stands for what is left out, as earlier versions wrote it.
Json KeyValue<ViewState>::schema() {
    auto schema = schemaOfFields<ViewState>();
    const auto look = schemaOfFields<FieldLook>();
    for (const auto& [key, value] : look["properties"].items())
        schema["properties"][key] = value;
    for (auto& [key, value] : schema["properties"].items())
        value = Json{{"anyOf", {Json(value), Json{{"type", "null"}}}}};
    return schema;
}

} // namespace pyro

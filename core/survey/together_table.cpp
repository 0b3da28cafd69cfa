#include "core/survey/together.h"

namespace pyro {
namespace {

constexpr const char* reachUnit() { return "m"; }
constexpr const char* timeUnit() { return "s"; }
constexpr const char* angleUnit() { return "rad"; }

// "all", or a list of names.
void readAllOrSome(const Json& json, const ReadPlace& place, std::vector<std::string>& into) {
    into.clear();
    if (json != "all")
        KeyValue<std::vector<std::string>>::read(json, place, into);
}

// "cells", or a length for each mesh.
void readSizes(const Json& json, const ReadPlace& place, GridsWish& into) {
    into.sizes.clear();
    if (json == "cells")
        return;
    if (!json.is_array())
        mistake(ErrorCode::WrongType, "\"cells\" or a list of lengths is needed here", place.where,
                "Write [\"1 mm\", \"1.5 mm\", \"2.2 mm\"], in the order of the cases");
    for (std::size_t i = 0; i < json.size(); ++i) {
        std::optional<Written<double>> size;
        readWritten(json[i], place.at(i), size, [](const std::string& text) { return parseMeasured(text, "m"); });
        if (!(size->si > 0))
            mistake(ErrorCode::WrongType, "a length above zero is needed here", place.at(i).where,
                    "Write the size of a cell with its unit: \"1.5 mm\"");
        into.sizes.push_back(*size);
    }
}

} // namespace

void KeyValue<WrittenPlace>::read(const Json& json, const ReadPlace& place, WrittenPlace& into) {
    if (!json.is_array() || json.size() != into.coordinates.size())
        mistake(ErrorCode::WrongType, "a place needs three coordinates", place.where,
                "Write [\"10 mm\", \"20 mm\", \"0 mm\"], or numbers in metres");
    for (std::size_t axis = 0; axis < into.coordinates.size(); ++axis) {
        std::optional<Written<double>> read;
        readWritten(json[axis], place.at(axis), read, [](const std::string& text) { return parseMeasured(text, "m"); });
        into.coordinates[axis] = *read;
    }
}
Json KeyValue<WrittenPlace>::write(const WrittenPlace& place) {
    auto list = Json::array();
    for (const auto& one : place.coordinates)
        list.push_back(splitMeasured(one.text) && splitMeasured(one.text)->unit.empty() ? Json(one.si)
                                                                                        : Json(one.text));
    return list;
}
Json KeyValue<WrittenPlace>::schema() {
    return {{"type", "array"}, {"items", writtenSchema()}, {"minItems", 3}, {"maxItems", 3}};
}

template <>
std::span<const KeyRow<PlacementWish>> rowsOf<PlacementWish>() {
    using Row = RowsOf<PlacementWish>;
    static constexpr KeyRow<PlacementWish> rows[]{
        Row::of<&PlacementWish::from>("from", "three places or more of the case, m"),
        Row::where(Row::of<&PlacementWish::to>("to", "the same places on the first case, m"),
                   "as many places as \"from\" has, three at least",
                   [](const PlacementWish& one) { return one.to.size() == one.from.size() && one.to.size() >= 3; }),
        Row::of<&PlacementWish::byBoxes>("by_boxes", "instead of places: by the boxes around parts of the same names"),
        Row::of<&PlacementWish::scaled>("scaled", "whether its size is fitted as well"),
    };
    return rows;
}

template <>
std::span<const KeyRow<PixelMatch>> rowsOf<PixelMatch>() {
    using Row = RowsOf<PixelMatch>;
    static constexpr KeyRow<PixelMatch> rows[]{
        Row::required(Row::of<&PixelMatch::pixel>("pixel", "column and row, from the upper left corner")),
        Row::required(Row::of<&PixelMatch::at>("at", "place on the case that it shows, m")),
    };
    return rows;
}

template <>
std::span<const KeyRow<PixelScale>> rowsOf<PixelScale>() {
    using Row = RowsOf<PixelScale>;
    static constexpr KeyRow<PixelScale> rows[]{
        Row::required(Row::of<&PixelScale::count>("count", "as the picture holds it")),
        Row::needed<&PixelScale::value>("value", "what it stands for, with its unit"),
    };
    return rows;
}

template <>
std::span<const KeyRow<PictureWish>> rowsOf<PictureWish>() {
    using Row = RowsOf<PictureWish>;
    static constexpr KeyRow<PictureWish> rows[]{
        Row::required(Row::where(Row::of<&PictureWish::matched>("matched", "pixels and the places that they show"),
                                 "three matched places or more",
                                 [](const PictureWish& one) { return one.matched.size() >= 3; })),
        Row::where(
            Row::measured<&PictureWish::fieldOfView, angleUnit>("field_of_view", "of the camera over the width, rad"),
            "an angle between 0 and 180 degrees",
            [](const PictureWish& one) { return one.fieldOfView->si > 0 && one.fieldOfView->si < 3.14; }),
        Row::where(
            Row::of<&PictureWish::scale>("scale", "of whole numbers: two of them and what they stand for"),
            "two different counts",
            [](const PictureWish& one) { return one.scale.size() == 2 && one.scale[0].count != one.scale[1].count; }),
        Row::of<&PictureWish::parts>("parts", "that are seen; left out: all that are no fluid"),
    };
    return rows;
}

template <>
std::span<const KeyRow<SensorWish>> rowsOf<SensorWish>() {
    using Row = RowsOf<SensorWish>;
    static constexpr KeyRow<SensorWish> rows[]{
        Row::of<&SensorWish::at>("at", "m"),
        Row::of<&SensorWish::gauge>("gauge", "instead of a place"),
        Row::of<&SensorWish::part>("part", "that it sits on"),
        Row::of<&SensorWish::uncertainty>("uncertainty", "expanded, k = 2, with its unit"),
    };
    return rows;
}

template <>
std::span<const KeyRow<CompareWish>> rowsOf<CompareWish>() {
    using Row = RowsOf<CompareWish>;
    static constexpr KeyRow<CompareWish> rows[]{
        Row::of<&CompareWish::baseline>("baseline", "case that the others are held against; left out: the first"),
        Row::by(
            "of", "\"all\", or the cases that are compared",
            [](const Json& json, const ReadPlace& place, CompareWish& into) { readAllOrSome(json, place, into.of); },
            [](const CompareWish& from) { return from.of.empty() ? Json("all") : Json(from.of); },
            [] {
                return Json{{"anyOf", {Json{{"const", "all"}}, KeyValue<std::vector<std::string>>::schema()}}};
            }),
    };
    return rows;
}

template <>
std::span<const KeyRow<GridsWish>> rowsOf<GridsWish>() {
    using Row = RowsOf<GridsWish>;
    static constexpr KeyRow<GridsWish> rows[]{
        Row::required(Row::of<&GridsWish::cases>("cases", "meshes of one case, from fine to coarse")),
        Row::by(
            "size", "\"cells\": from their counts; or the size of a cell on each, m", readSizes,
            [](const GridsWish& from) {
                if (from.sizes.empty())
                    return Json("cells");
                auto list = Json::array();
                for (const auto& size : from.sizes)
                    list.push_back(size.text);
                return list;
            },
            [] {
                return Json{{"anyOf", {Json{{"const", "cells"}}, Json{{"type", "array"}, {"items", writtenSchema()}}}}};
            }),
    };
    return rows;
}

template <>
std::span<const KeyRow<MeasuredWish>> rowsOf<MeasuredWish>() {
    using Row = RowsOf<MeasuredWish>;
    static constexpr KeyRow<MeasuredWish> rows[]{
        Row::needed<&MeasuredWish::id>("id", ""),
        Row::needed<&MeasuredWish::file>("file", "CSV or spreadsheet, relative to the survey"),
        Row::of<&MeasuredWish::caseName>("case", "that was measured; left out: the first"),
        Row::of<&MeasuredWish::quantity>("quantity", "left out: temperature"),
        Row::of<&MeasuredWish::component>("component", "of a vector"),
        Row::measured<&MeasuredWish::within, reachUnit>("within", "how far beside the mesh a place may lie, m"),
        Row::temperature<&MeasuredWish::ambient>("ambient", "of the test; values are shifted to that of the case, K"),
        Row::of<&MeasuredWish::unit>("unit", "of values whose column or picture tells none"),
        Row::of<&MeasuredWish::uncertainty>("uncertainty", "expanded, k = 2, with its unit, of values that tell none"),
        Row::measured<&MeasuredWish::time, timeUnit>("time", "of a picture, s; left out: the last step"),
        Row::of<&MeasuredWish::picture>("picture", "how the matrix of an infrared picture lies on the case"),
        Row::of<&MeasuredWish::sensors>("sensors", "where each column of a logger's table was measured"),
    };
    return rows;
}

template <>
std::span<const KeyRow<SweepParameter>> rowsOf<SweepParameter>() {
    using Row = RowsOf<SweepParameter>;
    static constexpr KeyRow<SweepParameter> rows[]{
        Row::of<&SweepParameter::column>("column", "left out: that of the parameter's name"),
        Row::of<&SweepParameter::unit>("unit", "left out: that in brackets in the column's title"),
    };
    return rows;
}

template <>
std::span<const KeyRow<SweepWish>> rowsOf<SweepWish>() {
    using Row = RowsOf<SweepWish>;
    static constexpr KeyRow<SweepWish> rows[]{
        Row::of<&SweepWish::table>("table", "CSV or spreadsheet, a case on each line, relative to the survey"),
        Row::of<&SweepWish::pattern>("pattern", "of files instead, with parameters in braces: \"fin_h{h}_t{t}.vtm\""),
        Row::of<&SweepWish::file>("file", "column that names the file of each case"),
        Row::of<&SweepWish::like>("like", "case whose quantities, parts and boundaries hold for each; the first"),
        Row::of<&SweepWish::parameters>("parameters", "columns that are parameters; left out: every column of numbers"),
    };
    return rows;
}

} // namespace pyro

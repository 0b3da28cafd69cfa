#include "core/survey/together.h"

namespace pyro {
namespace {

constexpr const char* reachUnit() { return "m"; }

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
        Row::of<&SweepWish::file>("file", "column that names the file of each case"),
        Row::of<&SweepWish::like>("like", "case whose quantities, parts and boundaries hold for each; the first"),
        Row::of<&SweepWish::parameters>("parameters", "columns that are parameters; left out: every column of numbers"),
    };
    return rows;
}

} // namespace pyro

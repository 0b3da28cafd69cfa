#include "core/survey/survey_table.h"

namespace pyro {
namespace {

constexpr const char* pointWord() { return "point"; }
constexpr const char* commaWord() { return "comma"; }

constexpr const char* watt() { return "W"; }
constexpr const char* metre() { return "m"; }
constexpr const char* resistance() { return "m2.K/W"; }
constexpr const char* film() { return "W/(m2.K)"; }
constexpr const char* conductivity() { return "W/(m.K)"; }
constexpr const char* density() { return "kg/m3"; }
constexpr const char* capacity() { return "J/(kg.K)"; }
constexpr const char* viscosity() { return "Pa.s"; }

constexpr const char* solid() { return "solid"; }
constexpr const char* fluid() { return "fluid"; }
constexpr const char* wall() { return "wall"; }
constexpr const char* inlet() { return "inlet"; }
constexpr const char* outlet() { return "outlet"; }
constexpr const char* symmetry() { return "symmetry"; }

bool isLength(const std::optional<Written<double>>& length) { return length->si > 0 && std::isfinite(length->si); }
constexpr std::string_view lengthWanted = "a length above zero, with its unit,";

} // namespace

template <>
std::span<const KeyRow<PartNote>> rowsOf<PartNote>() {
    using Row = RowsOf<PartNote>;
    static constexpr KeyRow<PartNote> rows[]{
        Row::of<&PartNote::label>("label", "what it is shown as"),
        Row::of<&PartNote::material>("material", "of materials, or of the library"),
        Row::measured<&PartNote::power, watt>("power", "dissipated in the whole part, W"),
        Row::oneOf<&PartNote::kind, solid, fluid>("kind", ""),
        Row::where(Row::measured<&PartNote::thickness, metre>("thickness", "of a part that is one of shells, m"),
                   lengthWanted, [](const PartNote& one) { return isLength(one.thickness); }),
    };
    return rows;
}

template <>
std::span<const KeyRow<BoundaryNote>> rowsOf<BoundaryNote>() {
    using Row = RowsOf<BoundaryNote>;
    static constexpr KeyRow<BoundaryNote> rows[]{
        Row::of<&BoundaryNote::label>("label", "what it is shown as"),
        Row::oneOf<&BoundaryNote::kind, wall, inlet, outlet, symmetry>("kind", ""),
        Row::temperature<&BoundaryNote::temperature>("temperature", "of the environment it faces, K"),
        Row::measured<&BoundaryNote::surfaceResistance, resistance>("surface_resistance", "to it, m2.K/W"),
        Row::measured<&BoundaryNote::filmCoefficient, film>("film_coefficient", "to it, W/(m2.K)"),
    };
    return rows;
}

template <>
std::span<const KeyRow<Material>> rowsOf<Material>() {
    using Row = RowsOf<Material>;
    static constexpr KeyRow<Material> rows[]{
        Row::measured<&Material::conductivity, conductivity>("conductivity", "W/(m.K)"),
        Row::measured<&Material::density, density>("density", "kg/m3"),
        Row::measured<&Material::heatCapacity, capacity>("heat_capacity", "J/(kg.K)"),
        Row::measured<&Material::viscosity, viscosity>("viscosity", "dynamic, Pa.s"),
    };
    return rows;
}

template <>
std::span<const KeyRow<EstimateWish>> rowsOf<EstimateWish>() {
    using Row = RowsOf<EstimateWish>;
    static constexpr KeyRow<EstimateWish> rows[]{
        Row::temperature<&EstimateWish::ambient>("ambient", "K; left out: that of the case"),
        Row::by(
            "power", "share of the case's power; left out: all of it",
            [](const Json& json, const ReadPlace& place, EstimateWish& into) {
                readWritten(json, place, into.power, parseShare);
            },
            [](const EstimateWish& from) { return writeWritten(from.power); }, writtenSchema),
    };
    return rows;
}

template <>
std::span<const KeyRow<ReportSettings>> rowsOf<ReportSettings>() {
    using Row = RowsOf<ReportSettings>;
    static constexpr KeyRow<ReportSettings> rows[]{
        Row::of<&ReportSettings::preparedBy>("prepared_by", ""),
        Row::of<&ReportSettings::note>("note", ""),
        Row::of<&ReportSettings::number>("number", "of the document"),
        Row::of<&ReportSettings::logo>("logo", "a PNG, JPEG or SVG picture, beside the survey"),
        Row::by(
            "units", "that values are written in where they convert; left out: those on display, SI",
            [](const Json& json, const ReadPlace& place, ReportSettings& into) {
                KeyValue<std::vector<std::string>>::read(json, place, into.units);
                for (const auto& unit : into.units)
                    if (!isUnit(unit))
                        mistake(ErrorCode::WrongUnit, fmt::format("\"{}\" is no unit", unit), place.where,
                                "Write units as \"degF\", \"W/cm2\", \"mm\"");
            },
            [](const ReportSettings& from) { return KeyValue<std::vector<std::string>>::write(from.units); },
            KeyValue<std::vector<std::string>>::schema),
        Row::of<&ReportSettings::blocks>("blocks", "what it is made of, in order; left out: the usual ones"),
        Row::oneOf<&ReportSettings::decimal, pointWord, commaWord>("decimal", "of numbers: point or comma"),
    };
    return rows;
}

void KeyValue<QuantityChoice>::read(const Json& json, const ReadPlace& place, QuantityChoice& into) {
    if (json.is_null()) {
        into.off = true;
        return;
    }
    if (!json.is_object())
        mistake(ErrorCode::WrongType, "an object in braces is needed here", place.where, "See docs/formats.md");
    if (const auto array = json.find("array"); array != json.end() && array->is_array()) {
        if (array->size() != 3)
            mistake(ErrorCode::WrongType, "a vector needs three arrays, along x, y and z", place.at("array").where,
                    "Write one name, or a list of three");
        KeyValue<std::array<std::string, 3>>::read(*array, place.at("array"), into.alongAxes);
        into.array = joinedName(into.alongAxes);
    } else if (array != json.end()) {
        std::string name;
        KeyValue<std::string>::read(*array, place.at("array"), name);
        if (!name.empty())
            into.array = name;
    }
    if (const auto unit = json.find("unit"); unit != json.end() && *unit != "") {
        KeyValue<std::optional<std::string>>::read(*unit, place.at("unit"), into.unit);
        if (!isUnit(*into.unit))
            mistake(ErrorCode::WrongUnit, fmt::format("the unit \"{}\" is not known", *into.unit),
                    place.at("unit").where, "Write it in UDUNITS spelling, for example degC or W/m2");
    }
    if (const auto on = json.find("on"); on != json.end() && *on != "") {
        if (*on != "node" && *on != "cell")
            mistake(ErrorCode::WrongType, fmt::format("{} is not one of node, cell", on->dump()), place.at("on").where,
                    "Choose one of them");
        into.on = *on == "node" ? Location::Node : Location::Cell;
    }
}

Json KeyValue<QuantityChoice>::write(const QuantityChoice& choice) {
    if (choice.off)
        return nullptr;
    auto json = Json::object();
    if (choice.array && *choice.array == joinedName(choice.alongAxes))
        json["array"] = choice.alongAxes;
    else if (choice.array)
        json["array"] = *choice.array;
    if (choice.unit)
        json["unit"] = *choice.unit;
    if (choice.on)
        json["on"] = locationName(*choice.on);
    return json;
}

Json KeyValue<QuantityChoice>::schema() {
    const Json array{{"anyOf", {KeyValue<std::string>::schema(), KeyValue<std::array<std::string, 3>>::schema()}}};
    return {
        {"anyOf",
         {{{"type", "null"}},
          {{"type", "object"},
           {"properties", {{"array", array}, {"unit", {{"type", "string"}}}, {"on", {{"enum", {"node", "cell"}}}}}}}}}};
}

template <>
std::span<const KeyRow<CaseEntry>> rowsOf<CaseEntry>() {
    using Row = RowsOf<CaseEntry>;
    static constexpr KeyRow<CaseEntry> rows[]{
        Row::needed<&CaseEntry::name>("name", ""),
        Row::needed<&CaseEntry::file>("file", "relative to the survey"),
        Row::of<&CaseEntry::series>("series",
                                    "whether numbered siblings are its steps; left out: when they carry times"),
        Row::by(
            "split", "parts, boundaries and edges that the file does not tell",
            [](const Json& json, const ReadPlace& place, CaseEntry& into) {
                KeyValue<CaseSplit>::read(json, place, into.split);
                into.splitWritten = json;
            },
            [](const CaseEntry& from) { return from.splitWritten; }, KeyValue<CaseSplit>::schema),
        Row::where(Row::measured<&CaseEntry::depth, metre>("depth", "of a case in two dimensions, m"), lengthWanted,
                   [](const CaseEntry& one) { return isLength(one.depth); }),
        Row::temperature<&CaseEntry::ambient>("ambient", "what rises and resistances are told against, K"),
        Row::by(
            "nonlinear", "what makes its temperatures not shift with the ambient",
            [](const Json& json, const ReadPlace& place, CaseEntry& into) {
                KeyValue<std::vector<std::string>>::read(json, place, into.nonlinear);
                for (const auto& why : into.nonlinear)
                    if (std::ranges::find(nonlinearities, why) == nonlinearities.end())
                        mistake(ErrorCode::WrongType,
                                fmt::format("\"{}\" is not one of {}", why, fmt::join(nonlinearities, ", ")),
                                place.where, "Choose among them");
            },
            [](const CaseEntry& from) { return KeyValue<std::vector<std::string>>::write(from.nonlinear); },
            [] {
                return Json{{"type", "array"}, {"items", {{"enum", nonlinearities}}}};
            }),
        Row::by(
            "symmetry_factor", "how many times the case the whole is, 2 for a half model; 1: it is whole",
            [](const Json& json, const ReadPlace& place, CaseEntry& into) {
                if (!json.is_number() || !isSymmetryFactor(json.get<double>()))
                    mistake(ErrorCode::WrongType, "a number from 1 to 1000 is needed here", place.where,
                            "Write 2 for a half model, 4 for a quarter, 1 for one that is whole");
                into.symmetry = json.get<double>();
            },
            [](const CaseEntry& from) { return KeyValue<std::optional<double>>::write(from.symmetry); },
            [] {
                return Json{{"type", "number"}, {"minimum", 1}, {"maximum", 1000}};
            }),
        Row::of<&CaseEntry::history>("history", "CSV that the solver wrote; left out: found beside the case"),
        Row::of<&CaseEntry::quantities>("quantities", "which array is which, by quantity; null: none is"),
        Row::by(
            "parameters", "of a sweep, each with its unit",
            [](const Json& json, const ReadPlace& place, CaseEntry& into) {
                std::map<std::string, Json> values;
                KeyValue<std::map<std::string, Json>>::read(json, place, values);
                into.parameters.clear();
                for (const auto& [name, value] : values) {
                    std::optional<Written<double>> written;
                    readWritten(value, place.at(name), written, [](const std::string& text) {
                        return splitMeasured(text).map([](const NumberWithUnit& one) { return one.value; });
                    });
                    into.parameters[name] = written->text;
                }
            },
            [](const CaseEntry& from) { return KeyValue<std::map<std::string, std::string>>::write(from.parameters); },
            [] {
                return Json{{"type", "object"}, {"additionalProperties", writtenSchema()}};
            }),
        Row::of<&CaseEntry::placement>("placement", "of its geometry on that of the first case, if it was moved"),
        Row::of<&CaseEntry::parts>("parts", "by part"),
        Row::of<&CaseEntry::boundaries>("boundaries", "by boundary"),
    };
    return rows;
}

} // namespace pyro

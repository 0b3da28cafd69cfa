#include "core/survey/survey_file.h"

#include "core/units/unit.h"

#include <fmt/format.h>
#include <fstream>
#include <set>

namespace pyro {
namespace {

// Walks a JSON document; the first mistake is thrown out of the recursion and returned at its top.
struct SurveyMistake {
    Error error;
};

[[noreturn]] void mistake(ErrorCode code, const std::string& what, const std::string& where,
                          const std::string& remedy) {
    throw SurveyMistake{{code, what, where, remedy}};
}

std::string textOf(const Json& value, const std::string& where) {
    if (!value.is_string())
        mistake(ErrorCode::WrongType, fmt::format("text is needed here, not {}", value.dump().substr(0, 40)), where,
                "Write it in quotation marks");
    return value.get<std::string>();
}

// Takes known keys out of an object one by one; what is left is kept as unknown.
class Keys {
public:
    Keys(const Json& object, std::string where) : m_left(object), m_where(std::move(where)) {
        if (!object.is_object())
            mistake(ErrorCode::WrongType, "an object in braces is needed here", m_where, "See docs/formats.md");
    }

    // A word of the window that stands for a key of the file. Both at once are a mistake.
    void alsoAs(const char* word, const char* key) {
        const auto found = m_left.find(word);
        if (found == m_left.end())
            return;
        if (m_left.contains(key))
            mistake(ErrorCode::WrongType, fmt::format("\"{}\" and \"{}\" say the same", word, key), m_where,
                    "Keep one of them");
        m_left[key] = *found;
        m_left.erase(word);
    }

    std::optional<Json> take(const char* key) {
        const auto found = m_left.find(key);
        if (found == m_left.end())
            return std::nullopt;
        Json value = *found;
        m_left.erase(key);
        return value;
    }
    std::string text(const char* key) {
        const auto value = take(key);
        return value ? textOf(*value, at(key)) : std::string();
    }
    std::string needed(const char* key) {
        auto value = text(key);
        if (value.empty())
            mistake(ErrorCode::WrongType, fmt::format("\"{}\" is missing or empty", key), m_where, "Add it");
        return value;
    }
    Json take(const char* key, const Json& otherwise) {
        auto value = take(key);
        if (value && value->type() != otherwise.type())
            mistake(ErrorCode::WrongType, fmt::format("a JSON {} is needed here", otherwise.type_name()), at(key),
                    "See docs/formats.md");
        return value ? *value : otherwise;
    }
    template <class Si, class Parse>
    std::optional<Written<Si>> written(const char* key, Parse parse) {
        const auto value = take(key);
        if (!value)
            return std::nullopt;
        if (!value->is_string() && !value->is_number())
            mistake(ErrorCode::WrongType, "a value with unit is needed here, for example \"12 W\"", at(key),
                    "Write number and unit in quotation marks");
        const auto text = value->is_string() ? value->get<std::string>() : value->dump();
        const auto parsed = parse(text);
        if (!parsed)
            mistake(parsed.error().code, parsed.error().what, at(key), parsed.error().remedy);
        return Written<Si>{text, *parsed};
    }
    std::optional<Written<double>> measured(const char* key, std::string_view siUnit) {
        return written<double>(key, [&](const std::string& text) { return parseMeasured(text, siUnit); });
    }
    std::optional<Written<double>> temperature(const char* key) { // K
        return written<double>(key, [](const std::string& text) {
            return parseTemperature(text).map([](const Temperature& temperature) { return temperature.kelvin; });
        });
    }
    std::string oneOf(const char* key, std::initializer_list<std::string_view> allowed) {
        auto value = text(key);
        if (!value.empty() && std::ranges::find(allowed, value) == allowed.end())
            mistake(ErrorCode::WrongType, fmt::format("\"{}\" is not one of {}", value, fmt::join(allowed, ", ")),
                    at(key), "Choose one of them");
        return value;
    }

    std::string at(const std::string& key) const { return m_where + "." + key; }
    Json rest() { return std::move(m_left); }

private:
    Json m_left;
    std::string m_where;
};

QuantityChoice readChoice(const Json& json, const std::string& where) {
    QuantityChoice choice;
    if (json.is_null()) {
        choice.off = true;
        return choice;
    }
    Keys keys(json, where);
    if (const auto array = keys.take("array"); array && array->is_array()) {
        if (array->size() != 3)
            mistake(ErrorCode::WrongType, "a vector needs three arrays, along x, y and z", keys.at("array"),
                    "Write one name, or a list of three");
        for (std::size_t axis = 0; axis < 3; ++axis)
            choice.alongAxes[axis] = textOf((*array)[axis], keys.at("array"));
        choice.array = joinedName(choice.alongAxes);
    } else if (array && !textOf(*array, keys.at("array")).empty()) {
        choice.array = array->get<std::string>();
    }
    if (const auto unit = keys.text("unit"); !unit.empty()) {
        if (!isUnit(unit))
            mistake(ErrorCode::WrongUnit, fmt::format("the unit \"{}\" is not known", unit), keys.at("unit"),
                    "Write it in UDUNITS spelling, for example degC or W/m2");
        choice.unit = unit;
    }
    if (const auto on = keys.oneOf("on", {"node", "cell"}); !on.empty())
        choice.on = on == "node" ? Location::Node : Location::Cell;
    return choice;
}

std::optional<Written<double>> lengthAboveZero(Keys& keys, const char* key) {
    const auto length = keys.measured(key, "m");
    if (length && !(length->si > 0 && std::isfinite(length->si)))
        mistake(ErrorCode::WrongType, "a length above zero is needed here", keys.at(key),
                "Write it with its unit: 12 mm");
    return length;
}

PartNote readPart(const Json& json, const std::string& where) {
    Keys keys(json, where);
    PartNote note;
    note.label = keys.text("label");
    note.material = keys.text("material");
    note.power = keys.measured("power", "W");
    note.kind = keys.oneOf("kind", {"solid", "fluid"});
    note.thickness = lengthAboveZero(keys, "thickness");
    note.rest = keys.rest();
    return note;
}

BoundaryNote readBoundary(const Json& json, const std::string& where) {
    Keys keys(json, where);
    BoundaryNote note;
    note.label = keys.text("label");
    note.kind = keys.oneOf("kind", {"wall", "inlet", "outlet", "symmetry"});
    note.temperature = keys.temperature("temperature");
    note.surfaceResistance = keys.measured("surface_resistance", "m2.K/W");
    note.filmCoefficient = keys.measured("film_coefficient", "W/(m2.K)");
    note.rest = keys.rest();
    return note;
}

PatchCut readCut(const Json& json, const std::string& where) {
    Keys keys(json, where);
    PatchCut cut;
    cut.boundary = keys.needed("boundary");
    if (const auto angle = keys.measured("angle", "rad")) {
        if (!(angle->si > 0 && angle->si < std::numbers::pi))
            mistake(ErrorCode::WrongType, "an angle between 0 and 180 deg is needed here", keys.at("angle"),
                    "Write it with its unit: 10 deg");
        cut.angle = angle->si;
        return cut;
    }
    const auto plane = keys.take("plane");
    const auto three = [&](const char* key) {
        std::array<double, 3> out{};
        const auto found = plane && plane->is_object() ? plane->find(key) : Json::const_iterator();
        if (!plane || !plane->is_object() || found == plane->end() || !found->is_array() || found->size() != 3 ||
            !std::ranges::all_of(*found, [](const Json& one) { return one.is_number(); }))
            mistake(ErrorCode::WrongType, "an angle, or a plane with origin and normal, is needed here", where,
                    "Write {\"boundary\": ..., \"angle\": \"10 deg\"}");
        for (std::size_t axis = 0; axis < 3; ++axis)
            out[axis] = (*found)[axis].get<double>();
        return out;
    };
    cut.origin = three("origin");
    cut.normal = three("normal");
    if (cut.normal == std::array<double, 3>{})
        mistake(ErrorCode::WrongType, "a normal that is not zero is needed here", where, "Give at least one component");
    return cut;
}

CaseSplit readSplit(const Json& json, const std::string& where) {
    if (!json.is_object())
        mistake(ErrorCode::WrongType, "parts, angle or boundaries are told here", where,
                "Write {\"angle\": \"45 deg\"}");
    Keys keys(json, where);
    CaseSplit split;
    if (json.contains("parts"))
        split.parts = json["parts"].is_null() ? std::string() : keys.needed("parts");
    if (const auto boundaries = keys.take("boundaries")) {
        if (!boundaries->is_boolean())
            mistake(ErrorCode::WrongType, "true or false is needed here", keys.at("boundaries"), "See docs/formats.md");
        split.boundaries = boundaries->get<bool>();
    }
    if (const auto angle = keys.measured("angle", "rad")) {
        if (!(angle->si > 0 && angle->si < std::numbers::pi))
            mistake(ErrorCode::WrongType, "an angle between 0 and 180 deg is needed here", keys.at("angle"),
                    "Write it with its unit: 45 deg");
        split.angle = angle->si;
    }
    for (const auto& one : keys.take("cut", Json::array()))
        split.cuts.push_back(readCut(one, keys.at("cut")));
    for (const auto& one : keys.take("join", Json::array())) {
        Keys join(one, keys.at("join"));
        PatchJoin made{join.needed("name"), {}};
        for (const auto& name : join.take("boundaries", Json::array()))
            made.boundaries.push_back(textOf(name, join.at("boundaries")));
        if (made.boundaries.size() < 2)
            mistake(ErrorCode::WrongType, "two boundaries or more are joined", join.at("boundaries"),
                    "Name them in a list");
        split.joins.push_back(std::move(made));
    }
    return split;
}

CaseEntry readCase(const Json& json, const std::string& where) {
    Keys keys(json, where);
    CaseEntry entry;
    entry.name = keys.needed("name");
    entry.file = keys.needed("file");
    if (const auto series = keys.take("series")) {
        if (!series->is_boolean())
            mistake(ErrorCode::WrongType, "true or false is needed here", keys.at("series"), "See docs/formats.md");
        entry.series = series->get<bool>();
    }
    if (const auto split = keys.take("split")) {
        entry.split = readSplit(*split, keys.at("split"));
        entry.splitWritten = *split;
    }
    entry.depth = lengthAboveZero(keys, "depth");
    entry.ambient = keys.temperature("ambient");
    const auto nonlinear = keys.take("nonlinear", Json::array());
    for (const auto& why : nonlinear) {
        entry.nonlinear.push_back(textOf(why, keys.at("nonlinear")));
        if (const auto& last = entry.nonlinear.back();
            last != "radiation" && last != "natural_convection" && last != "properties")
            mistake(ErrorCode::WrongType,
                    fmt::format("\"{}\" is not one of radiation, natural_convection, properties", last),
                    keys.at("nonlinear"), "Choose among them");
    }
    if (const auto factor = keys.take("symmetry_factor")) {
        if (!factor->is_number() || !isSymmetryFactor(factor->get<double>()))
            mistake(ErrorCode::WrongType, "a number from 1 to 1000 is needed here", keys.at("symmetry_factor"),
                    "Write 2 for a half model, 4 for a quarter, 1 for one that is whole");
        entry.symmetry = factor->get<double>();
    }
    entry.history = keys.text("history");
    const auto quantities = keys.take("quantities", Json::object());
    for (const auto& [name, choice] : quantities.items())
        entry.quantities.emplace(name, readChoice(choice, keys.at("quantities." + name)));
    const auto parts = keys.take("parts", Json::object());
    for (const auto& [name, note] : parts.items())
        entry.parts.emplace(name, readPart(note, keys.at("parts." + name)));
    const auto boundaries = keys.take("boundaries", Json::object());
    for (const auto& [name, note] : boundaries.items())
        entry.boundaries.emplace(name, readBoundary(note, keys.at("boundaries." + name)));
    entry.rest = keys.rest();
    return entry;
}

Material readMaterial(const Json& json, const std::string& where) {
    Keys keys(json, where);
    Material material;
    material.conductivity = keys.measured("conductivity", "W/(m.K)");
    material.density = keys.measured("density", "kg/m3");
    material.heatCapacity = keys.measured("heat_capacity", "J/(kg.K)");
    material.viscosity = keys.measured("viscosity", "Pa.s");
    material.rest = keys.rest();
    return material;
}

Gauge readGauge(const Json& json, const std::string& where) {
    Keys keys(json, where);
    for (const auto& [word, key] : {std::pair{"reference_temperature", "reference"},
                                    {"divided_by_power", "per"},
                                    {"heat_flux_method", "method"},
                                    {"extent_down_to", "drop"},
                                    {"plane_elements", "flanks"},
                                    {"linear_bridges", "linear"},
                                    {"room_air", "air"},
                                    {"statistic_in_space", "space"}})
        keys.alsoAs(word, key);
    Gauge gauge;
    gauge.id = keys.needed("id");
    gauge.formula = keys.text("formula");
    if (const auto support = keys.take("where"))
        gauge.where.written = *support;
    gauge.quantity = keys.text("quantity");
    gauge.statistic = keys.text("statistic");
    gauge.unit = keys.text("unit");
    gauge.component = keys.oneOf("component", {"x", "y", "z", "normal", "magnitude"});
    gauge.rest = keys.rest();
    return gauge;
}

// "above" is a temperature or a gauge; without it the case's ambient counts.
void readAmbient(Keys& keys, Limit& limit) {
    if (const auto above = keys.take("above")) {
        if (above->is_object()) {
            Keys own(*above, keys.at("above"));
            limit.than = own.needed("gauge");
            return;
        }
        if (!above->is_string() && !above->is_number())
            mistake(ErrorCode::WrongType, "a temperature or {\"gauge\": id} is needed here", keys.at("above"),
                    "See docs/formats.md");
        const auto text = above->is_string() ? above->get<std::string>() : above->dump();
        const auto temperature = parseTemperature(text);
        if (!temperature)
            mistake(temperature.error().code, temperature.error().what, keys.at("above"), temperature.error().remedy);
        limit.above = Bound{text, temperature->kelvin};
    }
}

// The key of a form holds an object with what it needs; a limit has at most one.
void readForm(Keys& keys, Limit& limit) {
    for (const auto* form : limitForms()) {
        if (form->key.empty())
            continue;
        const std::string key(form->key);
        const auto written = keys.take(key.c_str());
        if (!written)
            continue;
        if (!limit.form->key.empty())
            mistake(ErrorCode::WrongType,
                    fmt::format("a limit has one form; \"{}\" and \"{}\" are two", limit.form->key, key), keys.at(key),
                    "Write two limits");
        limit.form = form;
        Keys own(*written, keys.at(key));
        if (form->parameter == LimitParameter::Level) {
            limit.level = own.written<double>("level",
                                              [&](const std::string& text) { return parseLevel(limit, text); });
            if (!limit.level)
                mistake(ErrorCode::WrongType, "the key \"level\" is missing", keys.at(key),
                        "Write the temperature above which it counts");
        }
        if (form->parameter == LimitParameter::OtherGauge)
            limit.than = own.needed("to");
        if (form->parameter == LimitParameter::Ambient)
            readAmbient(own, limit);
        const auto left = own.rest();
        for (const auto& [unknown, value] : left.items())
            mistake(ErrorCode::WrongType, fmt::format("\"{}\" is not known here", unknown), keys.at(key),
                    "See docs/formats.md");
    }
    if (!limit.form->fits(limit.target.kind))
        mistake(ErrorCode::WrongType,
                fmt::format("a {} has no limit of the form \"{}\"", targetKindName(limit.target.kind), limit.form->key),
                keys.at(""), "See docs/formats.md");
}

Limit readLimit(const Json& json, const std::string& where) {
    Keys keys(json, where);
    for (const auto& [word, key] :
         {std::pair{"maximum", "max"}, {"minimum", "min"}, {"required_margin", "margin"}, {"limit_type", "kind"}})
        keys.alsoAs(word, key);
    Limit limit;
    int targets = 0;
    for (const auto kind : {TargetKind::Part, TargetKind::Boundary, TargetKind::Gauge})
        if (const auto name = keys.text(std::string(targetKindName(kind)).c_str()); !name.empty()) {
            limit.target = {kind, name};
            ++targets;
        }
    if (targets != 1)
        mistake(ErrorCode::WrongType, "a limit names exactly one of part, boundary, gauge", where, "Name one");
    readForm(keys, limit);
    limit.max = keys.written<double>("max", [&](const std::string& text) { return parseBound(limit, text); });
    limit.min = keys.written<double>("min", [&](const std::string& text) { return parseBound(limit, text); });
    limit.margin = keys.written<double>("margin", [&](const std::string& text) { return parseMargin(limit, text); });
    limit.source = keys.text("source");
    limit.kind = keys.text("kind");
    limit.rest = keys.rest();
    return limit;
}

EstimateWish readEstimate(const Json& json, const std::string& where) {
    Keys keys(json, where);
    EstimateWish wish;
    wish.ambient = keys.temperature("ambient");
    wish.power = keys.written<double>("power", parseShare);
    wish.rest = keys.rest();
    return wish;
}

template <class Item, class Read>
std::vector<Item> readList(Keys& keys, const char* key, Read read) {
    std::vector<Item> items;
    const auto list = keys.take(key, Json::array());
    for (std::size_t i = 0; i < list.size(); ++i)
        items.push_back(read(list[i], keys.at(fmt::format("{}[{}]", key, i))));
    return items;
}

template <class Items, class Name>
void refuseTwins(const Items& items, Name name, const std::string& where) {
    std::set<std::string> seen;
    for (const auto& item : items)
        if (!seen.insert(name(item)).second)
            mistake(ErrorCode::WrongType, fmt::format("\"{}\" occurs twice", name(item)), where,
                    "Give each its own name");
}

Survey readSurvey(const Json& json, const std::string& where) {
    Keys keys(json, where);
    const auto version = keys.take("pyrometer");
    if (!version || !version->is_number_integer() || version->get<int>() != surveyVersion)
        mistake(ErrorCode::WrongVersion,
                version ? fmt::format("version {} is not known", version->dump())
                        : "this is no survey: the key "
                          "\"pyrometer\" is missing",
                where, fmt::format("This program reads \"pyrometer\": {}", surveyVersion));
    Survey survey;
    survey.title = keys.text("title");
    survey.cases = readList<CaseEntry>(keys, "cases", readCase);
    const auto materials = keys.take("materials", Json::object());
    for (const auto& [name, material] : materials.items())
        survey.materials.emplace(name, readMaterial(material, keys.at("materials." + name)));
    survey.gauges = readList<Gauge>(keys, "gauges", readGauge);
    survey.limits = readList<Limit>(keys, "limits", readLimit);
    if (const auto estimate = keys.take("estimate"))
        survey.estimate = readEstimate(*estimate, keys.at("estimate"));
    survey.charts = keys.take("charts", Json::array());
    survey.viewpoints = keys.take("viewpoints", Json::array());
    survey.findings = keys.take("findings", Json::array());
    survey.report = keys.take("report", Json::object());
    survey.view = keys.take("view", Json::object());
    survey.rest = keys.rest();
    refuseTwins(
        survey.cases, [](const CaseEntry& entry) { return entry.name; }, keys.at("cases"));
    return survey;
}

} // namespace

Result<Survey> surveyFromJson(const Json& json, const std::string& where) {
    try {
        return readSurvey(json, where);
    } catch (const SurveyMistake& found) {
        return tl::unexpected(found.error);
    }
}

Result<CaseSplit> splitFromJson(const Json& json, const std::string& where) {
    try {
        return readSplit(json, where);
    } catch (const SurveyMistake& found) {
        return tl::unexpected(found.error);
    }
}

Result<Survey> loadSurvey(const std::filesystem::path& file) {
    std::error_code status;
    if (!std::filesystem::exists(file, status))
        return fail(ErrorCode::FileMissing, "the survey does not exist", file.string(), "Check its name and folder");
    std::ifstream stream(file, std::ios::binary);
    if (!stream || !std::filesystem::is_regular_file(file, status))
        return fail(ErrorCode::FileUnreadable, "the survey cannot be read", file.string(), "Check its permissions");
    try {
        const auto json = Json::parse(stream);
        return surveyFromJson(json, file.filename().string());
    } catch (const Json::parse_error& problem) {
        const std::string message = problem.what();
        const auto at = message.find("line ");
        return fail(ErrorCode::Syntax,
                    "the survey is not valid JSON: " + message.substr(at == std::string::npos ? 0 : at, 160),
                    file.string(), "Correct that place; a comma or quotation mark is often missing just before it");
    }
}

} // namespace pyro

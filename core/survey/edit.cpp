#include "core/survey/edit.h"

#include "core/envelope/material_library.h"
#include "core/survey/names.h"
#include "core/survey/survey_file.h"
#include "core/survey/typed_unit.h"

#include <algorithm>
#include <charconv>
#include <filesystem>
#include <fmt/format.h>

namespace pyro {
namespace {

// With its design values; what the library does not tell stays empty.
Material materialOf(const LibraryMaterial& known) {
    const auto value = [](double si, const char* unit) {
        return si > 0 ? std::optional(Written<double>{fmt::format("{:g} {}", si, unit), si}) : std::nullopt;
    };
    Material out;
    out.conductivity = value(known.conductivity, "W/(m.K)");
    out.density = value(known.density, "kg/m3");
    out.heatCapacity = value(known.heatCapacity, "J/(kg.K)");
    out.rest["source"] = std::string(known.source);
    return out;
}

CaseEntry* entryNamed(Survey& survey, const std::string& name) {
    const auto found = std::ranges::find(survey.cases, name, &CaseEntry::name);
    return found == survey.cases.end() ? nullptr : &*found;
}

tl::unexpected<Error> noCase(const std::string& name) {
    return fail(ErrorCode::NameUnknown, fmt::format("the survey has no case \"{}\"", name));
}

Done oneOf(const std::string& text, std::initializer_list<std::string_view> allowed) {
    if (text.empty() || std::ranges::find(allowed, text) != allowed.end())
        return {};
    return fail(ErrorCode::WrongType, fmt::format("\"{}\" is not one of {}", text, fmt::join(allowed, ", ")), {},
                "Choose one of them, or leave it empty");
}

Result<std::optional<Written<double>>> written(const std::string& text, std::string_view siUnit) {
    if (text.empty())
        return std::nullopt;
    const auto value = parseMeasured(text, siUnit);
    if (!value)
        return tl::unexpected(value.error());
    return Written<double>{text, *value};
}

Result<std::optional<Written<double>>> writtenTemperature(const std::string& text) {
    if (text.empty())
        return std::nullopt;
    const auto temperature = parseTemperature(text);
    if (!temperature)
        return tl::unexpected(temperature.error());
    return Written<double>{text, temperature->kelvin};
}

using Parse = Result<double> (*)(const Limit&, const std::string&);
Result<std::optional<Bound>> bound(const Limit& limit, const std::string& text, Parse parse) {
    if (text.empty())
        return std::nullopt;
    const auto value = parse(limit, text);
    if (!value)
        return tl::unexpected(value.error());
    return Bound{text, *value};
}

template <class Value>
Done put(std::optional<Value>& target, Result<std::optional<Value>> value) {
    if (!value)
        return tl::unexpected(value.error());
    target = std::move(*value);
    return {};
}

// Whether values in this unit can be those of the quantity; any unit fits one that is not known.
Done fitsQuantity(const std::string& unit, const std::string& name) {
    for (const auto& known : knownQuantities())
        if (known.name == name)
            if (const auto fits = conversion(unit, known.siUnit); !fits)
                return tl::unexpected(fits.error());
    return {};
}

} // namespace

Survey withCase(Survey survey, const std::string& file) {
    const auto stem = std::filesystem::path(file).stem().string();
    auto name = stem;
    for (int copy = 2; survey.caseNamed(name) != nullptr; ++copy)
        name = fmt::format("{} ({})", stem, copy);
    CaseEntry entry;
    entry.name = name;
    entry.file = file;
    survey.cases.push_back(std::move(entry));
    return survey;
}

Result<Survey> withCaseFile(Survey survey, const std::string& name, const std::string& file) {
    auto* entry = entryNamed(survey, name);
    if (entry == nullptr)
        return noCase(name);
    entry->file = file;
    return survey;
}

Survey withoutCase(Survey survey, const std::string& name) {
    std::erase_if(survey.cases, [&](const CaseEntry& entry) { return entry.name == name; });
    return survey;
}

Result<Survey> withSymmetry(Survey survey, const std::string& caseName, const std::string& text) {
    auto* entry = entryNamed(survey, caseName);
    if (entry == nullptr)
        return noCase(caseName);
    entry->symmetry.reset();
    if (text.empty())
        return survey;
    double factor = 0;
    const auto [end, problem] = std::from_chars(text.data(), text.data() + text.size(), factor);
    if (problem != std::errc() || end != text.data() + text.size() || !isSymmetryFactor(factor))
        return fail(ErrorCode::WrongType, fmt::format("\"{}\" is no symmetry factor", text), caseName,
                    "Write 2 for a half model, 4 for a quarter, 1 for one that is whole");
    entry->symmetry = factor;
    return survey;
}

namespace {

Result<std::optional<Written<double>>> lengthAboveZero(const std::string& text, const std::string& where) {
    auto length = written(text, "m");
    if (length && *length && !((*length)->si > 0))
        return fail(ErrorCode::WrongType, fmt::format("\"{}\" is no length above zero", text), where,
                    "Write it with its unit: 12 mm");
    return length;
}

} // namespace

Result<Survey> withDepth(Survey survey, const std::string& caseName, const std::string& text) {
    auto* entry = entryNamed(survey, caseName);
    if (entry == nullptr)
        return noCase(caseName);
    if (auto done = put(entry->depth, lengthAboveZero(text, caseName)); !done)
        return tl::unexpected(done.error());
    return survey;
}

Result<Survey> withAmbient(Survey survey, const std::string& caseName, const std::string& text) {
    auto* entry = entryNamed(survey, caseName);
    if (entry == nullptr)
        return noCase(caseName);
    if (auto done = put(entry->ambient, writtenTemperature(text)); !done)
        return tl::unexpected(done.error());
    return survey;
}

Result<Survey> withEstimate(Survey survey, EstimateField field, const std::string& text) {
    auto wish = survey.estimate.value_or(EstimateWish{});
    const auto share = [&]() -> Result<std::optional<Written<double>>> {
        if (text.empty())
            return std::nullopt;
        return parseShare(text).map([&](double value) { return std::optional(Written<double>{text, value}); });
    };
    auto done = field == EstimateField::Ambient ? put(wish.ambient, writtenTemperature(text))
                                                : put(wish.power, share());
    if (!done)
        return tl::unexpected(done.error());
    if (field == EstimateField::Ambient && wish.ambient && wish.ambient->si < 150) // a bare "40" is 40 K
        return fail(ErrorCode::WrongUnit,
                    fmt::format("an ambient of {} would be {:.0f} degC", text, wish.ambient->si - 273.15), {},
                    "Write it with its unit, for example 40 degC");
    survey.estimate = wish == EstimateWish{} ? std::nullopt : std::optional(wish);
    return survey;
}

Survey withNonlinear(Survey survey, const std::string& caseName, const std::string& why, bool on) {
    if (auto* entry = entryNamed(survey, caseName)) {
        std::erase(entry->nonlinear, why);
        if (on)
            entry->nonlinear.push_back(why);
    }
    return survey;
}

Result<Survey> withPartField(Survey survey, const std::string& caseName, const std::string& part, PartNoteField field,
                             const std::string& text) {
    auto* entry = entryNamed(survey, caseName);
    if (entry == nullptr)
        return noCase(caseName);
    auto& note = entry->parts[part];
    Done done;
    switch (field) {
    case PartNoteField::Label:
        note.label = text;
        break;
    case PartNoteField::Material:
        note.material = text;
        if (!text.empty())
            // so that its properties can be entered
            if (const auto [made, isNew] = survey.materials.try_emplace(text); isNew)
                if (const auto* known = libraryMaterial(text))
                    made->second = materialOf(*known);
        break;
    case PartNoteField::Kind:
        done = oneOf(text, {"solid", "fluid"});
        note.kind = text;
        break;
    case PartNoteField::Power:
        done = put(note.power, written(text, "W"));
        break;
    case PartNoteField::Thickness:
        done = put(note.thickness, lengthAboveZero(text, part));
        break;
    }
    if (!done)
        return tl::unexpected(done.error());
    if (note == PartNote{})
        entry->parts.erase(part);
    return survey;
}

Result<Survey> withBoundaryField(Survey survey, const std::string& caseName, const std::string& boundary,
                                 BoundaryField field, const std::string& text) {
    auto* entry = entryNamed(survey, caseName);
    if (entry == nullptr)
        return noCase(caseName);
    auto& note = entry->boundaries[boundary];
    if (field == BoundaryField::Kind)
        if (auto done = oneOf(text, {"wall", "inlet", "outlet", "symmetry"}); !done)
            return tl::unexpected(done.error());
    Done done;
    switch (field) {
    case BoundaryField::Kind:
        note.kind = text;
        break;
    case BoundaryField::Label:
        note.label = text;
        break;
    case BoundaryField::Temperature:
        done = put(note.temperature, writtenTemperature(text));
        break;
    case BoundaryField::SurfaceResistance:
        done = put(note.surfaceResistance, written(text, "m2.K/W"));
        note.filmCoefficient.reset();
        break;
    case BoundaryField::FilmCoefficient:
        done = put(note.filmCoefficient, written(text, "W/(m2.K)"));
        note.surfaceResistance.reset();
        break;
    }
    if (!done)
        return tl::unexpected(done.error());
    if (note == BoundaryNote{})
        entry->boundaries.erase(boundary);
    return survey;
}

namespace {

// The case's split changed, read back as from a file.
template <class Change>
Result<Survey> withSplit(Survey survey, const std::string& caseName, Change change) {
    auto* entry = entryNamed(survey, caseName);
    if (entry == nullptr)
        return noCase(caseName);
    auto written = entry->splitWritten.is_null() ? Json::object() : entry->splitWritten;
    change(written);
    auto split = splitFromJson(written, "split");
    if (!split)
        return tl::unexpected(split.error());
    entry->split = std::move(*split);
    entry->splitWritten = written.empty() ? Json() : std::move(written);
    return survey;
}

Result<Survey> withSplitEntry(Survey survey, const std::string& caseName, const char* list, Json one) {
    return withSplit(std::move(survey), caseName, [&](Json& written) { written[list].push_back(std::move(one)); });
}

} // namespace

Result<Survey> withBoundaryCut(Survey survey, const std::string& caseName, const std::string& boundary,
                               const std::string& angle) {
    return withSplitEntry(std::move(survey), caseName, "cut", {{"boundary", boundary}, {"angle", angle}});
}

Result<Survey> withBoundariesJoined(Survey survey, const std::string& caseName, const std::string& name,
                                    const std::vector<std::string>& boundaries) {
    return withSplitEntry(std::move(survey), caseName, "join", {{"name", name}, {"boundaries", boundaries}});
}

Result<Survey> withPartsBy(Survey survey, const std::string& caseName, const std::optional<std::string>& array) {
    return withSplit(std::move(survey), caseName,
                     [&](Json& written) { written["parts"] = array ? Json(*array) : Json(); });
}

Result<Survey> withEdgeAngle(Survey survey, const std::string& caseName, const std::string& angle) {
    return withSplit(std::move(survey), caseName, [&](Json& written) {
        if (angle.empty())
            written.erase("angle");
        else
            written["angle"] = withUnit(angle, "deg");
    });
}

Result<Survey> withoutCutsAndJoins(Survey survey, const std::string& caseName) {
    auto* entry = entryNamed(survey, caseName);
    if (entry == nullptr)
        return noCase(caseName);
    entry->split.cuts.clear();
    entry->split.joins.clear();
    if (entry->splitWritten.is_object()) {
        entry->splitWritten.erase("cut");
        entry->splitWritten.erase("join");
        if (entry->splitWritten.empty())
            entry->splitWritten = nullptr;
    }
    return survey;
}

Survey withBaseline(Survey survey, const std::string& caseName) {
    auto wish = survey.compare.value_or(CompareWish{});
    wish.baseline = caseName;
    survey.compare = std::move(wish);
    return survey;
}

Survey withNewMaterial(Survey survey) {
    std::string name = "material";
    for (int copy = 2; survey.materials.contains(name); ++copy)
        name = fmt::format("material {}", copy);
    survey.materials.emplace(name, Material{});
    return survey;
}

Result<Survey> withMaterialName(Survey survey, const std::string& material, const std::string& name) {
    if (!survey.materials.contains(material))
        return fail(ErrorCode::NameUnknown, fmt::format("there is no material \"{}\"", material));
    if (name == material)
        return survey;
    if (name.empty() || survey.materials.contains(name))
        return fail(ErrorCode::WrongType,
                    name.empty() ? std::string("a material needs a name")
                                 : fmt::format("another material has the name \"{}\" already", name),
                    {}, "Choose another one");
    auto node = survey.materials.extract(material);
    node.key() = name;
    survey.materials.insert(std::move(node));
    rename(survey, NameOf::Material, material, name);
    return survey;
}

Result<Survey> withMaterialField(Survey survey, const std::string& material, MaterialField field,
                                 const std::string& text) {
    auto& entry = survey.materials[material];
    Done done;
    switch (field) {
    case MaterialField::Conductivity:
        done = put(entry.conductivity, written(text, "W/(m.K)"));
        break;
    case MaterialField::Density:
        done = put(entry.density, written(text, "kg/m3"));
        break;
    case MaterialField::HeatCapacity:
        done = put(entry.heatCapacity, written(text, "J/(kg.K)"));
        break;
    case MaterialField::Viscosity:
        done = put(entry.viscosity, written(text, "Pa.s"));
        break;
    }
    if (!done)
        return tl::unexpected(done.error());
    return survey;
}

Result<Survey> withQuantityRole(Survey survey, const std::string& caseName, const Quantity& quantity,
                                const std::string& role) {
    auto* entry = entryNamed(survey, caseName);
    if (entry == nullptr)
        return noCase(caseName);
    if (const auto unit = unitInName(quantity.array); !unit.empty())
        if (auto fits = fitsQuantity(unit, role); !fits)
            return tl::unexpected(fits.error());
    const auto giveUp = [](QuantityChoice& choice) {
        choice = QuantityChoice{};
        choice.off = true; // otherwise its alias would take the array again
    };
    for (auto& [name, choice] : entry->quantities)
        if (choice.array == quantity.array && name != role)
            giveUp(choice);
    if (knownQuantity(quantity.name) != nullptr && quantity.name != role) // had by its alias, without a choice
        giveUp(entry->quantities[quantity.name]);
    if (role.empty() || role == quantity.array)
        return survey;
    auto& choice = entry->quantities[role];
    choice.off = false;
    if (choice.array != quantity.array)
        choice.unit.reset(); // the unit belonged to the other array
    choice.array = quantity.array;
    choice.on = quantity.on;
    return survey;
}

Result<Survey> withQuantityUnit(Survey survey, const std::string& caseName, const Quantity& quantity,
                                const std::string& unit) {
    auto* entry = entryNamed(survey, caseName);
    if (entry == nullptr)
        return noCase(caseName);
    auto& choice = entry->quantities[quantity.name];
    choice.array = quantity.array;
    if (unit.empty()) {
        choice.unit.reset();
        return survey;
    }
    if (auto fits = fitsQuantity(unit, quantity.name); !fits)
        return tl::unexpected(fits.error());
    if (const auto known = conversion(unit, unit); !known)
        return tl::unexpected(known.error());
    choice.unit = unit;
    return survey;
}

Result<Survey> withQuantityLocation(Survey survey, const std::string& caseName, const Quantity& quantity, Location on) {
    auto* entry = entryNamed(survey, caseName);
    if (entry == nullptr)
        return noCase(caseName);
    auto& choice = entry->quantities[quantity.name];
    choice.array = quantity.array;
    choice.on = on;
    return survey;
}

namespace {

Done putAmbient(const Survey& survey, Limit& limit, const std::string& text) {
    limit.than.clear();
    limit.above.reset();
    if (text.empty())
        return {};
    if (limit.form->parameter == LimitParameter::OtherGauge) {
        limit.than = text;
        return {};
    }
    if (std::ranges::find(survey.gauges, text, &Gauge::id) != survey.gauges.end()) {
        limit.than = text;
        return {};
    }
    return put(limit.above, writtenTemperature(text));
}

} // namespace

Result<Survey> withLimitField(Survey survey, std::size_t at, LimitField field, const std::string& text) {
    if (at >= survey.limits.size())
        return fail(ErrorCode::NameUnknown, "this limit is not there any more");
    auto& limit = survey.limits[at];
    Done done;
    switch (field) {
    case LimitField::Target:
        limit.target.name = text;
        break;
    case LimitField::Max:
        done = put(limit.max, bound(limit, text, parseBound));
        break;
    case LimitField::Min:
        done = put(limit.min, bound(limit, text, parseBound));
        break;
    case LimitField::Margin:
        done = put(limit.margin, bound(limit, text, parseMargin));
        break;
    case LimitField::Source:
        limit.source = text;
        break;
    case LimitField::Kind:
        limit.kind = text;
        break;
    case LimitField::Level:
        done = put(limit.level, bound(limit, text, parseLevel));
        break;
    case LimitField::Above:
        done = putAmbient(survey, limit, text);
        break;
    }
    if (done && limit.max && limit.min && limit.max->si < limit.min->si && !boundUnit(limit).empty())
        return fail(ErrorCode::WrongType,
                    fmt::format("the maximum {} would be below the minimum {}", limit.max->text, limit.min->text), {},
                    "Change the other one first");
    if (!done)
        return tl::unexpected(done.error());
    return survey;
}

Result<Survey> withLimitAbout(Survey survey, std::size_t at, LimitTarget target, const LimitForm* form) {
    if (at >= survey.limits.size())
        return fail(ErrorCode::NameUnknown, "this limit is not there any more");
    auto& limit = survey.limits[at];
    const auto before = limit;
    limit.target = std::move(target);
    limit.form = form;
    if (boundUnit(limit) == boundUnit(before) && limit.form == before.form)
        return survey;
    limit.max.reset();
    limit.min.reset();
    limit.margin.reset();
    limit.than.clear();
    const bool level = form->parameter == LimitParameter::Level;
    if (before.max && level && before.form->isValue)
        limit.level = before.max; // what was the maximum is what may be passed for a while, or in places
    else if (!level)
        limit.level.reset();
    return survey;
}

Survey withLimit(Survey survey, Limit limit) {
    survey.limits.push_back(std::move(limit));
    return survey;
}

Survey withoutLimit(Survey survey, std::size_t limit) {
    if (limit < survey.limits.size())
        survey.limits.erase(survey.limits.begin() + static_cast<std::ptrdiff_t>(limit));
    return survey;
}

Survey withImportedLimits(Survey survey, const std::vector<Limit>& limits) {
    for (const auto& limit : limits) {
        const auto same = std::ranges::find_if(survey.limits, [&](const Limit& one) {
            return one.target == limit.target && one.form == limit.form && one.kind == limit.kind;
        });
        if (same == survey.limits.end())
            survey.limits.push_back(limit);
        else
            *same = limit;
    }
    return survey;
}

} // namespace pyro

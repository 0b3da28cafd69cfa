#include "core/survey/field_look.h"

#include "core/survey/json_read.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr std::array allStarts{PathStart::Hottest, PathStart::Boundary, PathStart::Section,
                               PathStart::Place,   PathStart::Line,     PathStart::Disk};

std::optional<SectionView> sectionIn(const Json& json) {
    const auto origin = json_read::point(json, "origin");
    const auto normal = json_read::point(json, "normal");
    if (!origin || !normal || !withUnitNormal({*origin, *normal}))
        return std::nullopt;
    SectionView section;
    section.name = json_read::text(json, "name", "Section");
    section.plane = {*origin, *normal};
    section.shown = json_read::flag(json, "shown", section.shown);
    section.fill = json_read::flag(json, "fill", section.fill);
    section.mesh = json_read::flag(json, "mesh", section.mesh);
    section.opened = json_read::flag(json, "opened", section.opened);
    section.exempt = json_read::names(json, "exempt");
    return section;
}

std::optional<Ground> groundNamed(std::string_view text) {
    for (const auto one : {Ground::Field, Ground::Plain, Ground::Materials})
        if (groundText(one) == text)
            return one;
    return std::nullopt;
}

IsolineValues isolineValuesIn(const Json& json) {
    IsolineValues values;
    if (const auto spacing = json_read::number(json, "spacing"); spacing && *spacing > 0)
        values.spacing = spacing;
    values.marks = json_read::numbers(json, "marks");
    if (const auto sources = json.find("marks_of"); sources != json.end() && sources->is_array())
        for (const auto& one : *sources)
            for (const auto& [kind, key] :
                 {std::pair{MarkSource::Kind::Gauge, "gauge"}, {MarkSource::Kind::Part, "part"}})
                if (auto name = one.is_object() ? json_read::text(one, key, "") : std::string(); !name.empty())
                    values.marksOf.push_back({kind, std::move(name)});
    values.surfaces = json_read::numbers(json, "surfaces");
    if (values.surfaces.size() > mostSurfaces)
        values.surfaces.resize(mostSurfaces);
    return values;
}

// `shown`: the quantity on display, whose values stood beside the other keys in earlier surveys.
IsothermView isothermsIn(const Json& json, const std::string& shown) {
    IsothermView isotherms;
    isotherms.shown = json_read::flag(json, "shown", isotherms.shown);
    isotherms.labels = json_read::flag(json, "labels", isotherms.labels);
    if (const auto every = json_read::number(json, "heavy_every"); every && *every >= 0 && *every <= 1000)
        isotherms.heavyEvery = static_cast<int>(*every);
    isotherms.ground = groundNamed(json_read::text(json, "ground", "field")).value_or(Ground::Field);
    if (auto old = isolineValuesIn(json); !(old == IsolineValues{}))
        isotherms.values.emplace(shown, std::move(old));
    if (const auto values = json.find("values"); values != json.end() && values->is_object())
        for (const auto& [key, one] : values->items())
            if (one.is_object())
                isotherms.values.insert_or_assign(key, isolineValuesIn(one));
    return isotherms;
}

Json isolineValuesToJson(const std::map<std::string, IsolineValues>& all) {
    auto json = Json::object();
    for (const auto& [key, values] : all) {
        if (values == IsolineValues{})
            continue;
        auto& one = json[key] = {{"marks", values.marks}, {"surfaces", values.surfaces}};
        if (values.spacing)
            one["spacing"] = *values.spacing;
        for (const auto& source : values.marksOf)
            one["marks_of"].push_back({{source.kind == MarkSource::Kind::Gauge ? "gauge" : "part", source.name}});
    }
    return json;
}

PathView pathsIn(const Json& json) {
    PathView paths;
    paths.shown = json_read::flag(json, "shown", paths.shown);
    paths.quantity = json_read::text(json, "quantity", paths.quantity);
    paths.from = json_read::text(json, "from", paths.from);
    paths.start = paths.from.empty() ? PathStart::Hottest : PathStart::Boundary;
    const auto start = json_read::text(json, "start", "");
    for (const auto known : allStarts)
        if (start == startText(known))
            paths.start = known;
    paths.at = json_read::point(json, "at").value_or(paths.at);
    paths.to = json_read::point(json, "to").value_or(paths.to);
    if (const auto radius = json_read::number(json, "radius"); radius && *radius > 0)
        paths.radius = *radius;
    if (const auto longest = json_read::number(json, "longest"); longest && *longest >= 0)
        paths.longest = *longest;
    paths.forwards = json_read::flag(json, "forwards", paths.forwards);
    paths.backwards = json_read::flag(json, "backwards", paths.backwards);
    paths.ghost = json_read::flag(json, "ghost", paths.ghost);
    paths.plain = json_read::flag(json, "plain", paths.plain);
    paths.tubes = json_read::flag(json, "tubes", paths.tubes);
    paths.moving = json_read::flag(json, "moving", paths.moving);
    if (const auto lines = json_read::number(json, "lines"); lines && *lines >= 1 && *lines <= mostPaths)
        paths.lines = static_cast<int>(*lines);
    return paths;
}

ArrowView arrowsIn(const Json& json) {
    ArrowView arrows;
    arrows.shown = json_read::flag(json, "shown", arrows.shown);
    arrows.quantity = json_read::text(json, "quantity", arrows.quantity);
    arrows.sections = json_read::flag(json, "sections", arrows.sections);
    arrows.boundaries = json_read::names(json, "boundaries");
    if (const auto spacing = json_read::number(json, "spacing"); spacing && *spacing >= 0)
        arrows.spacing = *spacing;
    arrows.scaled = json_read::flag(json, "scaled", arrows.scaled);
    return arrows;
}

StripView stripIn(const Json& json) {
    StripView strip;
    const auto palette = json_read::text(json, "palette", "");
    for (const auto known : {PaletteName::Ember, PaletteName::Ash, PaletteName::Tide})
        if (palette == paletteText(known))
            strip.palette = known;
    strip.reversed = json_read::flag(json, "reversed", strip.reversed);
    strip.logarithmic = json_read::flag(json, "logarithmic", strip.logarithmic);
    strip.tint = json_read::flag(json, "tint", strip.tint);
    strip.common = json_read::flag(json, "common", strip.common);
    if (const auto bands = json_read::number(json, "bands"); bands && *bands >= 2 && *bands <= mostBands)
        strip.bands = static_cast<int>(*bands);
    return strip;
}

} // namespace

std::string_view groundText(Ground ground) {
    return ground == Ground::Field ? "field" : ground == Ground::Plain ? "plain" : "materials";
}

std::string_view paletteText(PaletteName palette) {
    switch (palette) {
    case PaletteName::Ember:
        return "ember";
    case PaletteName::Ash:
        return "ash";
    case PaletteName::Tide:
        return "tide";
    }
    return "ember";
}

std::string_view startText(PathStart start) {
    switch (start) {
    case PathStart::Hottest:
        return "hottest";
    case PathStart::Boundary:
        return "boundary";
    case PathStart::Section:
        return "section";
    case PathStart::Place:
        return "place";
    case PathStart::Line:
        return "line";
    case PathStart::Disk:
        return "disk";
    }
    return "hottest";
}

std::string FieldLook::freeSectionName() const {
    for (char letter = 'A'; letter <= 'Z'; ++letter) {
        auto name = fmt::format("Section {}", letter);
        if (std::ranges::find(sections, name, &SectionView::name) == sections.end())
            return name;
    }
    return fmt::format("Section {}", sections.size() + 1);
}

const IsolineValues& IsothermView::of(const std::string& key) const {
    static const IsolineValues none;
    const auto found = values.find(key);
    return found == values.end() ? none : found->second;
}

std::string isolineKey(const std::string& quantity, const std::string& component) {
    return component.empty() ? quantity : quantity + " " + component;
}

FieldLook fieldLookFrom(const Json& view) {
    FieldLook field;
    if (const auto sections = view.find("sections"); sections != view.end() && sections->is_array())
        for (const auto& json : *sections)
            if (const auto section = json.is_object() ? sectionIn(json) : std::nullopt)
                field.sections.push_back(*section);
    if (const auto isotherms = view.find("isotherms"); isotherms != view.end() && isotherms->is_object())
        field.isotherms = isothermsIn(*isotherms, isolineKey(json_read::text(view, "quantity", "temperature"),
                                                             json_read::text(view, "component", "")));
    if (const auto paths = view.find("paths"); paths != view.end() && paths->is_object())
        field.paths = pathsIn(*paths);
    if (const auto arrows = view.find("arrows"); arrows != view.end() && arrows->is_object())
        field.arrows = arrowsIn(*arrows);
    if (const auto strip = view.find("strip"); strip != view.end() && strip->is_object())
        field.strip = stripIn(*strip);
    if (const auto labels = view.find("labels"); labels != view.end() && labels->is_array())
        for (const auto& json : *labels)
            if (const auto place = json.is_object() ? json_read::point(json, "at") : std::nullopt)
                field.labels.push_back(*place);
    return field;
}

void putFieldLook(Json& view, const FieldLook& field) {
    view["sections"] = Json::array();
    for (const auto& section : field.sections)
        view["sections"].push_back({{"name", section.name},
                                    {"origin", section.plane.origin},
                                    {"normal", section.plane.normal},
                                    {"shown", section.shown},
                                    {"fill", section.fill},
                                    {"mesh", section.mesh},
                                    {"opened", section.opened},
                                    {"exempt", section.exempt}});
    view["labels"] = Json::array();
    for (const auto& place : field.labels)
        view["labels"].push_back({{"at", place}});
    view["isotherms"] = {{"shown", field.isotherms.shown},
                         {"labels", field.isotherms.labels},
                         {"heavy_every", field.isotherms.heavyEvery},
                         {"ground", groundText(field.isotherms.ground)},
                         {"values", isolineValuesToJson(field.isotherms.values)}};
    const auto& paths = field.paths;
    view["paths"] = {{"shown", paths.shown},
                     {"quantity", paths.quantity},
                     {"start", startText(paths.start)},
                     {"from", paths.from},
                     {"at", paths.at},
                     {"to", paths.to},
                     {"radius", paths.radius},
                     {"lines", paths.lines},
                     {"forwards", paths.forwards},
                     {"backwards", paths.backwards},
                     {"longest", paths.longest},
                     {"ghost", paths.ghost},
                     {"plain", paths.plain},
                     {"tubes", paths.tubes},
                     {"moving", paths.moving}};
    view["arrows"] = {{"shown", field.arrows.shown},       {"quantity", field.arrows.quantity},
                      {"sections", field.arrows.sections}, {"boundaries", field.arrows.boundaries},
                      {"spacing", field.arrows.spacing},   {"scaled", field.arrows.scaled}};
    view["strip"] = {{"palette", paletteText(field.strip.palette)},
                     {"reversed", field.strip.reversed},
                     {"logarithmic", field.strip.logarithmic},
                     {"tint", field.strip.tint},
                     {"bands", field.strip.bands},
                     {"common", field.strip.common}};
}

} // namespace pyro

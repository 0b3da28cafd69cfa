// The keys of what the stage Field adds to the surfaces.
#include "core/survey/field_look.h"

namespace pyro {

template <>
struct KeyValue<Ground> : NamedKeyValue<Ground, groundText, Ground::Field, Ground::Plain, Ground::Materials> {};
template <>
struct KeyValue<PathStart> : NamedKeyValue<PathStart, startText, PathStart::Hottest, PathStart::Boundary,
                                           PathStart::Section, PathStart::Place, PathStart::Line, PathStart::Disk> {};
template <>
struct KeyValue<PaletteName>
    : NamedKeyValue<PaletteName, paletteText, PaletteName::Ember, PaletteName::Ash, PaletteName::Tide> {};

// {"gauge": id} or {"part": name}
template <>
struct KeyValue<MarkSource> {
    static void read(const Json& json, const ReadPlace& place, MarkSource& into) {
        for (const auto& [kind, key] : {std::pair{MarkSource::Kind::Gauge, "gauge"}, {MarkSource::Kind::Part, "part"}})
            if (json.is_object() && json.contains(key) && json[key].is_string() && json[key] != "") {
                into = {kind, json[key].get<std::string>()};
                return;
            }
        mistake(ErrorCode::WrongType, "a gauge or a part is named here", place.where, "See docs/formats.md");
    }
    static Json write(const MarkSource& source) {
        return {{source.kind == MarkSource::Kind::Gauge ? "gauge" : "part", source.name}};
    }
    static Json schema() {
        const Json text{{"type", "string"}};
        return {{"type", "object"}, {"properties", {{"gauge", text}, {"part", text}}}};
    }
};

template <>
std::span<const KeyRow<SectionView>> rowsOf<SectionView>() {
    using Row = RowsOf<SectionView>;
    constexpr auto origin = [](auto& section) -> auto& { return section.plane.origin; };
    constexpr auto normal = [](auto& section) -> auto& { return section.plane.normal; };
    static constexpr KeyRow<SectionView> rows[]{
        Row::of<&SectionView::name>("name", ""),
        Row::required(Row::of<origin>("origin", "a place on it, m")),
        Row::required(Row::where(Row::of<normal>("normal", "of any length but zero"), "a normal that is not zero",
                                 [](const SectionView& one) { return withUnitNormal(one.plane).has_value(); })),
        Row::of<&SectionView::shown>("shown", ""),
        Row::of<&SectionView::fill>("fill", "coloured by the quantity on display"),
        Row::of<&SectionView::mesh>("mesh", "with the edges of the cut cells"),
        Row::of<&SectionView::opened>("opened", "what lies on the side of the normal is cut away"),
        Row::of<&SectionView::exempt>("exempt", "parts that are neither cut nor shown in it"),
    };
    return rows;
}

template <>
std::span<const KeyRow<IsolineValues>> rowsOf<IsolineValues>() {
    using Row = RowsOf<IsolineValues>;
    static constexpr KeyRow<IsolineValues> rows[]{
        Row::where(Row::of<&IsolineValues::spacing>("spacing", "in the unit on display; left out: a round one"),
                   "a spacing above zero", [](const IsolineValues& one) { return *one.spacing > 0; }),
        Row::of<&IsolineValues::marks>("marks", "single values with a colour of their own, SI"),
        Row::of<&IsolineValues::marksOf>("marks_of", "gauges and limits of parts whose values are marked"),
        Row::where(Row::of<&IsolineValues::surfaces>("surfaces", "values whose surfaces are drawn, SI"),
                   "at most 8 values", [](const IsolineValues& one) { return one.surfaces.size() <= mostSurfaces; }),
    };
    return rows;
}

template <>
std::span<const KeyRow<IsothermView>> rowsOf<IsothermView>() {
    using Row = RowsOf<IsothermView>;
    static constexpr KeyRow<IsothermView> rows[]{
        Row::of<&IsothermView::shown>("shown", "on the surfaces and sections that are seen"),
        Row::of<&IsothermView::labels>("labels", "with their values"),
        Row::where(Row::of<&IsothermView::heavyEvery>("heavy_every", "which of them are drawn heavier; 0: none"),
                   "a number from 0 to 1000",
                   [](const IsothermView& one) { return one.heavyEvery >= 0 && one.heavyEvery <= 1000; }),
        Row::of<&IsothermView::ground>("ground", "what the surfaces show"),
        Row::of<&IsothermView::values>("values", "by quantity on display"),
    };
    return rows;
}

template <>
std::span<const KeyRow<PathView>> rowsOf<PathView>() {
    using Row = RowsOf<PathView>;
    static constexpr KeyRow<PathView> rows[]{
        Row::of<&PathView::shown>("shown", ""),
        Row::of<&PathView::quantity>("quantity", "heat_flux or velocity"),
        Row::of<&PathView::start>("start", "where the lines begin"),
        Row::of<&PathView::from>("from", "the boundary or section they begin on"),
        Row::of<&PathView::at>("at", "the place they begin at, m"),
        Row::of<&PathView::to>("to", "the end of the line they begin along, m"),
        Row::where(Row::of<&PathView::radius>("radius", "around the place, m"), "a radius above zero",
                   [](const PathView& one) { return one.radius > 0; }),
        Row::where(Row::of<&PathView::lines>("lines", "how many"), "a number from 1 to 2000",
                   [](const PathView& one) { return one.lines >= 1 && one.lines <= mostPaths; }),
        Row::of<&PathView::forwards>("forwards", ""),
        Row::of<&PathView::backwards>("backwards", ""),
        Row::where(Row::of<&PathView::longest>("longest", "of each direction, m; 0: twice the largest part"),
                   "a length that is not negative", [](const PathView& one) { return one.longest >= 0; }),
        Row::of<&PathView::ghost>("ghost", "parts turn translucent meanwhile"),
        Row::of<&PathView::plain>("plain", "in one colour"),
        Row::of<&PathView::tubes>("tubes", "drawn round"),
        Row::of<&PathView::moving>("moving", "with particles that run along them"),
    };
    return rows;
}

template <>
std::span<const KeyRow<ArrowView>> rowsOf<ArrowView>() {
    using Row = RowsOf<ArrowView>;
    static constexpr KeyRow<ArrowView> rows[]{
        Row::of<&ArrowView::shown>("shown", ""),
        Row::of<&ArrowView::quantity>("quantity", "velocity or heat_flux"),
        Row::of<&ArrowView::sections>("sections", "on all sections shown"),
        Row::of<&ArrowView::boundaries>("boundaries", "and on these"),
        Row::where(Row::of<&ArrowView::spacing>("spacing", "m; 0: one that fits the model"),
                   "a spacing that is not negative", [](const ArrowView& one) { return one.spacing >= 0; }),
        Row::of<&ArrowView::scaled>("scaled", "length by magnitude"),
    };
    return rows;
}

template <>
std::span<const KeyRow<StripView>> rowsOf<StripView>() {
    using Row = RowsOf<StripView>;
    static constexpr KeyRow<StripView> rows[]{
        Row::of<&StripView::palette>("palette", ""),
        Row::of<&StripView::reversed>("reversed", ""),
        Row::of<&StripView::logarithmic>("logarithmic", ""),
        Row::of<&StripView::tint>("tint", "what lies outside of the range gets a colour of its own"),
        Row::where(Row::of<&StripView::bands>("bands", "0: continuous"), "0, or a number from 2 to 64",
                   [](const StripView& one) { return one.bands == 0 || (one.bands >= 2 && one.bands <= mostBands); }),
        Row::of<&StripView::common>("common", "one range for all cases and steps that were shown"),
    };
    return rows;
}

namespace {

// A place whose reading is pinned to it: {"at": [x, y, z]}.
struct PinnedPlace {
    Point at{};
    Json rest = {};
};

} // namespace

template <>
std::span<const KeyRow<PinnedPlace>> rowsOf<PinnedPlace>() {
    static constexpr KeyRow<PinnedPlace> rows[]{
        RowsOf<PinnedPlace>::required(RowsOf<PinnedPlace>::of<&PinnedPlace::at>("at", "m"))};
    return rows;
}

template <>
std::span<const KeyRow<DeformedView>> rowsOf<DeformedView>() {
    using Row = RowsOf<DeformedView>;
    static constexpr KeyRow<DeformedView> rows[]{
        Row::of<&DeformedView::shown>("shown", ""),
        Row::of<&DeformedView::caseName>("case", "with the field, on the same mesh; left out: the one on display"),
        Row::of<&DeformedView::quantity>("quantity", "a vector of lengths"),
        Row::where(Row::of<&DeformedView::factor>("factor", "left out: the largest is a twentieth of the model"),
                   "a factor from -1e9 to 1e9", [](const DeformedView& one) { return std::abs(*one.factor) <= 1e9; }),
        Row::of<&DeformedView::ghost>("ghost", "whether edges of the undeformed shape are seen"),
        Row::of<&DeformedView::moving>("moving", "whether it swings between both shapes"),
    };
    return rows;
}

template <>
std::span<const KeyRow<FieldLook>> rowsOf<FieldLook>() {
    using Row = RowsOf<FieldLook>;
    static constexpr KeyRow<FieldLook> rows[]{
        Row::of<&FieldLook::sections>("sections", ""),
        Row::of<&FieldLook::isotherms>("isotherms", ""),
        Row::of<&FieldLook::paths>("paths", "lines that follow a vector field"),
        Row::of<&FieldLook::arrows>("arrows", ""),
        Row::of<&FieldLook::deformed>("deformed", "outer faces moved by a displacement field"),
        Row::by(
            "outer_shell", "whether the outer shell of the whole assembly is seen as a ghost",
            [](const Json& json, const ReadPlace& place, FieldLook& into) {
                KeyValue<bool>::read(json, place, into.shell);
            },
            [](const FieldLook& from) { return from.shell ? Json(true) : Json(); }, KeyValue<bool>::schema),
        Row::of<&FieldLook::strip>("strip", "the heat strip's way of colouring"),
        Row::by(
            "labels", "places whose reading is pinned to them",
            [](const Json& json, const ReadPlace& place, FieldLook& into) {
                std::vector<PinnedPlace> pinned;
                KeyValue<std::vector<PinnedPlace>>::read(json, place, pinned);
                into.labels.clear();
                for (const auto& one : pinned)
                    into.labels.push_back(one.at);
            },
            [](const FieldLook& from) {
                std::vector<PinnedPlace> pinned;
                for (const auto& at : from.labels)
                    pinned.push_back({at});
                return KeyValue<std::vector<PinnedPlace>>::write(pinned);
            },
            KeyValue<std::vector<PinnedPlace>>::schema),
    };
    return rows;
}

} // namespace pyro

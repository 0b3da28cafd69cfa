// How the window looks at a survey: part of the document, so that it reopens exactly as left.
#pragma once

#include "core/survey/field_look.h"
#include "core/survey/field_table.h"
#include "core/units/display.h"

#include <set>

namespace pyro {

struct CameraState { // parallel projection; metres
    Point position{};
    Point focus{};
    Point up{0, 0, 1};
    double scale = 1; // half the height of the view
    Json rest = {};
    bool operator==(const CameraState&) const = default;
};

// How cases are seen beside each other.
enum class CompareShow { SideBySide, Wipe, Difference, Measured, Sweep };
std::string_view compareShowName(CompareShow show); // "side_by_side", "wipe", "difference", "measured", "sweep"

struct CompareLook {
    CompareShow show = CompareShow::SideBySide;
    std::set<std::string> left; // cases that are compared in the table but not seen
    std::string order;          // of the table: "worse", "changed", "margin", "defined"; empty: the first
    double wipe = 0.5;          // share of the width at which the second picture begins
    bool deviations = true;     // of measured places, as labels in the pictures
    Json rest = {};
    bool operator==(const CompareLook&) const = default;
};

// How a sweep is looked at. Values are named as core/compare/sweep_values.h has it.
enum class SweepPicture { Map, Curves, Lines, Front };
std::string_view sweepPictureName(SweepPicture picture); // "map", "curves", "lines", "front"

struct SweepLook {
    SweepPicture picture = SweepPicture::Map;
    std::string x;                                       // parameter; of a front: a value; empty: the first
    std::string y;                                       // the second
    std::string value;                                   // drawn over them; empty: the least margin
    std::map<std::string, double> slices;                // parameters that are held, by name
    std::set<std::string> hidden;                        // columns, by their titles
    std::map<std::string, std::array<double, 2>> ranges; // rows that are left, by value, in its unit
    Json rest = {};
    bool operator==(const SweepLook&) const = default;
};

struct ViewState {
    std::string stage = "Cases";
    std::string caseName;
    std::optional<int> step;               // of the case, from 0; nothing: the last one
    std::set<std::string> hidden;          // parts
    std::optional<std::string> isolated;   // only this part is seen, whatever is hidden
    std::map<std::string, double> opacity; // parts that are not opaque, 0..1
    std::set<std::string> boundaries;      // drawn besides the parts, whatever parts are hidden
    std::string quantity = "temperature";
    std::optional<std::array<double, 2>> range; // SI; nothing: fitted to what is visible
    TemperatureUnit unit = TemperatureUnit::Celsius;
    std::size_t chart = 0;                    // position in Survey::charts of the one on display
    std::map<std::string, std::string> units; // of quantities other than temperature; those without are in SI
    std::map<std::string, int> decimals;      // by quantity; those without: 1 for temperature, else four digits
    std::string component;                    // of a vector quantity: "x", "y", "z"; empty: its magnitude
    std::optional<CameraState> camera;        // nothing: fitted
    FieldLook field;
    CompareLook compare;
    SweepLook sweep;
    Json rest = {}; // what this version does not know
    bool operator==(const ViewState&) const = default;

    bool shows(const std::string& part) const { return isolated ? *isolated == part : !hidden.contains(part); }
};

constexpr int mostDecimals = 6;

// Keys that are missing or malformed take their default: a view is never a reason not to open a survey.
template <>
std::span<const KeyRow<CompareLook>> rowsOf<CompareLook>();
template <>
std::span<const KeyRow<SweepLook>> rowsOf<SweepLook>();
template <>
struct KeyValue<ViewState> {
    static void read(const Json& json, const ReadPlace& place, ViewState& into);
    static Json write(const ViewState& view);
    static Json schema();
};
template <>
std::span<const KeyRow<ViewState>> rowsOf<ViewState>();

} // namespace pyro

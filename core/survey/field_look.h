// What the stage Field adds to the plain surfaces: sections, isotherms, arrows, paths. Part of the view, saved in the
// survey.
#pragma once

#include "core/field/cut.h"
#include "core/survey/field_table.h"

#include <map>
#include <set>

namespace pyro {

struct SectionView {
    std::string name;
    Plane plane; // normal of any length
    bool shown = true;
    bool fill = true;
    bool mesh = false;                 // the edges of the cut cells
    bool opened = false;               // what lies on the side of the normal is cut away
    std::set<std::string> exempt = {}; // parts that are neither cut nor shown in the section
    Json rest = {};
    bool operator==(const SectionView&) const = default;
};

// What the surfaces of parts show.
enum class Ground {
    Field,     // the quantity on display
    Plain,     // one light tone, under lines alone
    Materials, // a tone for each material; parts without a material count as one each
};
std::string_view groundText(Ground ground); // "field", "plain", "materials"

// Whose value is marked, whatever it comes to be: a gauge by its id, or the temperature limits of a part.
struct MarkSource {
    enum class Kind { Gauge, Part } kind = Kind::Gauge;
    std::string name;
    bool operator==(const MarkSource&) const = default;
};

// What is drawn of one quantity: values of another one mean nothing there.
struct IsolineValues {
    std::optional<double> spacing; // in the unit on display; nothing: a round one that fits the range
    std::vector<double> marks;     // single values, SI, with a colour of their own
    std::vector<MarkSource> marksOf;
    std::vector<double> surfaces; // values, SI, whose surfaces are drawn, whether or not lines are shown
    Json rest = {};
    bool operator==(const IsolineValues&) const = default;
};

struct IsothermView {
    bool shown = false; // on the surfaces and sections that are seen
    bool labels = true;
    int heavyEvery = 4;
    Ground ground = Ground::Field;
    std::map<std::string, IsolineValues> values; // by quantity on display, see isolineKey
    Json rest = {};
    bool operator==(const IsothermView&) const = default;

    const IsolineValues& of(const std::string& key) const;
};
// "temperature", "velocity", "velocity x".
std::string isolineKey(const std::string& quantity, const std::string& component);

constexpr std::size_t mostSurfaces = 8;

// Where lines that follow a vector field begin.
enum class PathStart {
    Hottest,  // around the hottest visible place
    Boundary, // on a named boundary, a little within
    Section,  // on a section, by its name
    Place,    // around `at`, within `radius`
    Line,     // evenly from `at` to `to`
    Disk,     // around `at` within `radius`, normal to the flow found there
};
std::string_view startText(PathStart start); // "hottest", "boundary" ...

// Lines that follow a vector field.
struct PathView {
    bool shown = false;
    std::string quantity = "heat_flux"; // or "velocity"
    PathStart start = PathStart::Hottest;
    std::string from; // the boundary or the section
    Point at{};       // metres
    Point to{};
    double radius = 0.005; // m
    int lines = 60;
    bool forwards = true;
    bool backwards = true;
    double longest = 0;  // m, of each direction; 0: twice the largest part
    bool ghost = true;   // parts turn translucent meanwhile, so that paths inside of them are seen
    bool plain = false;  // one colour instead of the quantity on display
    bool tubes = false;  // drawn round
    bool moving = false; // particles run along them
    Json rest = {};
    bool operator==(const PathView&) const = default;
};
constexpr int mostPaths = 2000;

// Arrows of a vector quantity on what is cut and on boundaries.
struct ArrowView {
    bool shown = false;
    std::string quantity = "velocity"; // or "heat_flux"
    bool sections = true;              // on all sections shown
    std::set<std::string> boundaries;  // and on these
    double spacing = 0;                // m; 0: one that fits the model
    bool scaled = true;                // length by magnitude; else all alike
    Json rest = {};
    bool operator==(const ArrowView&) const = default;
};

enum class PaletteName { Ember, Ash, Tide };
std::string_view paletteText(PaletteName palette); // "ember", "ash", "tide"

// The heat strip's way of colouring.
struct StripView {
    PaletteName palette = PaletteName::Ember;
    bool reversed = false;
    bool logarithmic = false; // used where the whole range is above zero and the quantity is no temperature
    bool tint = false;        // what lies outside the range gets a colour of its own
    int bands = 0;            // 0: continuous
    bool common = true;       // without a range of its own: one for all cases and steps that were shown
    Json rest = {};
    bool operator==(const StripView&) const = default;
};
constexpr int mostBands = 64;

// Outer faces moved by a displacement field.
struct DeformedView {
    bool shown = false;
    std::string caseName;                  // that the field is of, on the same mesh; empty: the case on display
    std::string quantity = "displacement"; // a vector of lengths
    std::optional<double> factor;          // nothing: such that the largest is a twentieth of the model
    bool ghost = true;                     // whether the edges of the undeformed shape are seen
    bool moving = false;                   // swings between both shapes
    Json rest = {};
    bool operator==(const DeformedView&) const = default;
};

struct FieldLook {
    std::vector<SectionView> sections;
    IsothermView isotherms;
    PathView paths;
    ArrowView arrows;
    StripView strip;
    DeformedView deformed;
    bool shell = false;        // the outer shell of the whole assembly as a ghost, whatever parts are hidden
    std::vector<Point> labels; // places whose reading is pinned to them, metres
    bool operator==(const FieldLook&) const = default;

    // "Section A", "Section B" ...: the first name that is free.
    std::string freeSectionName() const;
};

// The tables of all of them; malformed entries of lists are left out, a plane without a normal too.
template <>
std::span<const KeyRow<FieldLook>> rowsOf<FieldLook>();

} // namespace pyro

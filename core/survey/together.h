// What a survey wants to know of several cases as one subject: compared with a baseline, over a sweep of parameters,
// over meshes of different fineness, and against measured data (docs/compare.md).
#pragma once

#include "core/survey/field_table.h"

namespace pyro {

// A place with each coordinate as it was written: a number in metres, or a text with a unit.
struct WrittenPlace {
    std::array<Written<double>, 3> coordinates;
    Point at() const { return {coordinates[0].si, coordinates[1].si, coordinates[2].si}; } // m
    bool operator==(const WrittenPlace&) const = default;
};

// Where the geometry of a case lies on that of the first one, if it was moved or scaled.
struct PlacementWish {
    std::vector<WrittenPlace> from; // three places or more of the case, not on one line
    std::vector<WrittenPlace> to;   // the same on the first case
    bool byBoxes = false;           // instead: the middles of the boxes around the parts of the same names
    bool scaled = false;            // its size is fitted as well
    Json rest = {};
    bool operator==(const PlacementWish&) const = default;
};

struct CompareWish {
    std::string baseline;        // empty: the first case
    std::vector<std::string> of; // empty: all
    Json rest = {};
    bool operator==(const CompareWish&) const = default;
};

// Meshes of one case, from fine to coarse.
struct GridsWish {
    std::vector<std::string> cases;
    std::vector<Written<double>> sizes; // m, of a cell on each; empty: from the counts of cells
    Json rest = {};
    bool operator==(const GridsWish&) const = default;
};

// A place on the case that a pixel of a picture shows.
struct PixelMatch {
    std::array<double, 2> pixel{}; // column and row, from the upper left corner; the first pixel's middle is 0.5, 0.5
    WrittenPlace at;
    Json rest = {};
    bool operator==(const PixelMatch&) const = default;
};
// What a number of a picture of whole numbers stands for.
struct PixelScale {
    double count = 0;
    std::string value; // "20 degC"
    Json rest = {};
    bool operator==(const PixelScale&) const = default;
};
// An infrared picture: a matrix of values, and how it lies on the case.
struct PictureWish {
    std::vector<PixelMatch> matched;            // three: at right angles to their plane; four and more: by a camera
    std::optional<Written<double>> fieldOfView; // rad, over the width; left out: found by the matched places
    std::vector<PixelScale> scale;              // two; only of pictures of whole numbers
    std::vector<std::string> parts;             // that are seen; empty: all that are no fluid
    Json rest = {};
    bool operator==(const PictureWish&) const = default;
};
// A column of a logger's table.
struct SensorWish {
    std::optional<WrittenPlace> at;
    std::string gauge; // instead of a place
    std::string part;
    std::string uncertainty; // expanded, k = 2, with its unit
    Json rest = {};
    bool operator==(const SensorWish&) const = default;
};

struct MeasuredWish {
    std::string id;
    std::string file;     // relative to the survey
    std::string caseName; // empty: the first case
    std::string quantity = "temperature";
    std::string component;
    std::optional<Written<double>> within;  // m: how far from the mesh a place may lie; nothing: see defaultReach
    std::optional<Written<double>> ambient; // K, of the test
    std::string unit;                       // of values whose column or picture tells none
    std::string uncertainty;                // expanded, k = 2, with its unit: "2 K"; of values that tell none
    std::optional<Written<double>> time;    // s, of a picture; nothing: the last step
    std::optional<PictureWish> picture;
    std::map<std::string, SensorWish> sensors; // by the titles of their columns
    Json rest = {};
    bool operator==(const MeasuredWish&) const = default;
};

// A column of the table of a sweep that is a parameter.
struct SweepParameter {
    std::string column; // empty: of the parameter's name, with or without a unit in brackets
    std::string unit;   // empty: as the column says in brackets, else none
    Json rest = {};
    bool operator==(const SweepParameter&) const = default;
};
struct SweepWish {
    std::string table;                                // relative to the survey; empty: only cases that are written out
    std::string pattern;                              // of files, relative to the survey: "runs/fin_h{h}_t{t}.vtm"
    std::string file = "file";                        // column that names the file of each case, relative to the table
    std::string like;                                 // case that each is read as; empty: the first
    std::map<std::string, SweepParameter> parameters; // empty: every other column of numbers
    Json rest = {};
    bool operator==(const SweepWish&) const = default;
};

template <>
struct KeyValue<WrittenPlace> {
    static void read(const Json& json, const ReadPlace& place, WrittenPlace& into);
    static Json write(const WrittenPlace& place);
    static Json schema();
};
template <>
std::span<const KeyRow<CompareWish>> rowsOf<CompareWish>();
template <>
std::span<const KeyRow<GridsWish>> rowsOf<GridsWish>();
template <>
std::span<const KeyRow<PixelMatch>> rowsOf<PixelMatch>();
template <>
std::span<const KeyRow<PixelScale>> rowsOf<PixelScale>();
template <>
std::span<const KeyRow<PictureWish>> rowsOf<PictureWish>();
template <>
std::span<const KeyRow<SensorWish>> rowsOf<SensorWish>();
template <>
std::span<const KeyRow<PlacementWish>> rowsOf<PlacementWish>();
template <>
std::span<const KeyRow<MeasuredWish>> rowsOf<MeasuredWish>();
template <>
std::span<const KeyRow<SweepParameter>> rowsOf<SweepParameter>();
template <>
std::span<const KeyRow<SweepWish>> rowsOf<SweepWish>();

} // namespace pyro

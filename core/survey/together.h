// What a survey wants to know of several cases as one subject: compared with a baseline, over a sweep of parameters,
// over meshes of different fineness, and against measured data (docs/compare.md).
#pragma once

#include "core/survey/field_table.h"

namespace pyro {

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

struct MeasuredWish {
    std::string id;
    std::string file;     // relative to the survey
    std::string caseName; // empty: the first case
    std::string quantity = "temperature";
    std::string component;
    std::optional<Written<double>> within;  // m: how far from the mesh a place may lie; nothing: see defaultReach
    std::optional<Written<double>> ambient; // K, of the test
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
    std::string file = "file";                        // column that names the file of each case, relative to the table
    std::string like;                                 // case that each is read as; empty: the first
    std::map<std::string, SweepParameter> parameters; // empty: every other column of numbers
    Json rest = {};
    bool operator==(const SweepWish&) const = default;
};

template <>
std::span<const KeyRow<CompareWish>> rowsOf<CompareWish>();
template <>
std::span<const KeyRow<GridsWish>> rowsOf<GridsWish>();
template <>
std::span<const KeyRow<MeasuredWish>> rowsOf<MeasuredWish>();
template <>
std::span<const KeyRow<SweepParameter>> rowsOf<SweepParameter>();
template <>
std::span<const KeyRow<SweepWish>> rowsOf<SweepWish>();

} // namespace pyro

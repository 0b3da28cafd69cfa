// survey: the document a user saves. A value type: edits are functions that return a changed copy, so undo keeps
// whole surveys. What this version does not know stays in `rest` objects and is written back unchanged.
#pragma once

#include "core/case/quantity.h"
#include "core/gauge/gauge.h"
#include "core/limits/limit.h"
#include "core/units/written.h"

namespace pyro {

struct PartNote {
    std::string label; // empty: the part's own name is shown
    std::string material;
    std::optional<Written<double>> power;
    std::string kind; // "solid", "fluid" or empty
    Json rest = Json::object();
    std::optional<Written<double>> thickness = {}; // m, of a part that is one of shells in the file
    bool operator==(const PartNote&) const = default;
};

struct BoundaryNote {
    std::string label;
    std::string kind; // "wall", "inlet", "outlet", "symmetry" or empty
    // The environment it faces:
    std::optional<Written<double>> temperature;       // K
    std::optional<Written<double>> surfaceResistance; // m2.K/W
    std::optional<Written<double>> filmCoefficient;   // W/(m2.K); only one of the two
    Json rest = Json::object();
    bool operator==(const BoundaryNote&) const = default;
};

// Of a model against the whole: a half, a quarter, a wedge of a circle.
inline bool isSymmetryFactor(double factor) { return factor >= 1 && factor <= 1000; }

struct CaseEntry {
    std::string name;
    std::string file; // relative to the survey
    QuantityChoices quantities;
    std::map<std::string, PartNote> parts;
    std::map<std::string, BoundaryNote> boundaries;
    Json rest = Json::object();
    std::optional<Written<double>> ambient = {}; // K, what rises and thermal resistances are told against
    // What makes its temperatures not shift with the ambient: "radiation", "natural_convection", "properties".
    std::vector<std::string> nonlinear = {};
    std::string history = {}; // CSV of the solver's own history, relative to the survey; empty: found beside the case
    // how many times the case the whole is, 2 for a half model; 1 settles that it is none
    std::optional<double> symmetry = {};
    CaseSplit split = {};                      // as `splitWritten` tells it; see wholeSplit
    Json splitWritten = {};                    // as it stands in the survey; null: nothing is said
    std::optional<Written<double>> depth = {}; // m, of a case in two dimensions
    std::optional<bool> series = {}; // whether numbered siblings are its steps; nothing: when they carry times
    double symmetryFactor() const { return symmetry.value_or(1); }
    CaseSplit wholeSplit() const; // with what stands beside it: the depth, and how thick parts are
    bool operator==(const CaseEntry&) const = default;
};

struct Material {
    std::optional<Written<double>> conductivity; // W/(m.K)
    std::optional<Written<double>> density;      // kg/m3
    std::optional<Written<double>> heatCapacity; // J/(kg.K)
    std::optional<Written<double>> viscosity;    // dynamic, Pa.s
    Json rest = Json::object();
    bool operator==(const Material&) const = default;
};

// Another state of each case that its limits are estimated at, see core/evaluate/estimate.h.
struct EstimateWish {
    std::optional<Written<double>> ambient; // K; nothing: that of the case
    std::optional<Written<double>> power;   // share of the case's power; nothing: 1
    Json rest = Json::object();
    bool operator==(const EstimateWish&) const = default;
};

struct Survey {
    std::string title;
    std::vector<CaseEntry> cases;
    std::map<std::string, Material> materials;
    std::vector<Gauge> gauges;
    std::vector<Limit> limits;
    std::optional<EstimateWish> estimate = {};
    Json charts = Json::array(); // of gauges, see chart_view.h
    Json viewpoints = Json::array();
    Json findings = Json::array();
    Json report = Json::object();
    Json view = Json::object(); // how the window was left: camera, visibility, range, units, stage
    Json rest = Json::object();
    bool operator==(const Survey&) const = default;

    const CaseEntry* caseNamed(std::string_view name) const;
};

// The label a part is shown with: the user's, else its own name.
std::string shownName(const CaseEntry& entry, std::string_view part);
std::string shownBoundary(const CaseEntry& entry, const std::string& boundary); // likewise

constexpr int surveyVersion = 1;

} // namespace pyro

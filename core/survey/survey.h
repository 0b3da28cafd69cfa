// survey: the document a user saves. A value type: edits are functions that return a changed copy, so undo keeps
// whole surveys. What this version does not know stays in `rest` objects and is written back unchanged.
#pragma once

#include "core/case/quantity.h"
#include "core/gauge/gauge.h"
#include "core/limits/limit.h"
#include "core/survey/chart_view.h"
#include "core/survey/findings.h"
#include "core/survey/report_block.h"
#include "core/survey/together.h"
#include "core/survey/view_state.h"
#include "core/survey/viewpoints.h"

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

constexpr std::array<std::string_view, 3> nonlinearities{"radiation", "natural_convection", "properties"};

struct CaseEntry {
    std::string name;
    std::string file; // relative to the survey
    QuantityChoices quantities;
    std::map<std::string, PartNote> parts;
    std::map<std::string, BoundaryNote> boundaries;
    Json rest = Json::object();
    std::optional<Written<double>> ambient = {}; // K, what rises and thermal resistances are told against
    // Of nonlinearities: what makes its temperatures not shift with the ambient.
    std::vector<std::string> nonlinear = {};
    std::string history = {}; // CSV of the solver's own history, relative to the survey; empty: found beside the case
    // how many times the case the whole is, 2 for a half model; 1 settles that it is none
    std::optional<double> symmetry = {};
    CaseSplit split = {};                      // as `splitWritten` tells it; see wholeSplit
    Json splitWritten = {};                    // as it stands in the survey; null: nothing is said
    std::optional<Written<double>> depth = {}; // m, of a case in two dimensions
    std::optional<bool> series = {}; // whether numbered siblings are its steps; nothing: when they carry times
    std::map<std::string, std::string> parameters = {}; // of a sweep, each with its unit: "2 L/min"
    std::optional<PlacementWish> placement = {};        // of its geometry on that of the first case
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

struct ReportSettings {
    std::string preparedBy;
    std::string note;
    std::string number;              // of the document; empty: none
    std::string logo;                // a PNG, JPEG or SVG, beside the survey; empty: none
    std::vector<std::string> units;  // that values are written in where they convert; empty: those on display, SI
    std::vector<ReportBlock> blocks; // empty: the usual ones
    std::string decimal;             // "comma"; empty: a point
    Json rest = Json::object();
    bool operator==(const ReportSettings&) const = default;
};

struct Survey {
    std::string title;
    std::vector<CaseEntry> cases;
    std::map<std::string, Material> materials;
    std::vector<Gauge> gauges;
    std::vector<Limit> limits;
    std::optional<EstimateWish> estimate = {};
    std::optional<CompareWish> compare = {};
    std::optional<SweepWish> sweep = {};
    std::vector<GridsWish> grids = {};
    std::vector<MeasuredWish> measured = {};
    std::vector<ChartView> charts; // of gauges
    std::vector<Viewpoint> viewpoints;
    std::vector<Finding> findings;
    ReportSettings report;
    ViewState view; // how the window was left: camera, visibility, range, units, stage
    // Entries of charts, viewpoints and findings that cannot be read, by key; they stay in the file.
    std::map<std::string, Json> unread = {};
    Json rest = Json::object();
    std::string savedBy = {}; // version of the program that wrote the file; empty: none did, or one before 0.2
    bool operator==(const Survey&) const = default;

    const CaseEntry* caseNamed(std::string_view name) const;
};

inline const ViewState& viewOf(const Survey& survey) { return survey.view; }
inline Survey withView(Survey survey, const ViewState& view) {
    survey.view = view;
    return survey;
}

// The label a part is shown with: the user's, else its own name.
std::string shownName(const CaseEntry& entry, std::string_view part);
std::string shownBoundary(const CaseEntry& entry, const std::string& boundary); // likewise

constexpr int surveyVersion = 1;

} // namespace pyro

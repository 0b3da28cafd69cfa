// The assembly as a diagram: parts as nodes, heat as bands between them, environments at the rim. Layout only; drawn by
// render.
#pragma once

#include "core/readings/readings.h"
#include "core/survey/survey.h"

namespace pyro {

// Lengths are shares of the picture, 0..1, x to the right and y downwards.
struct HeatNode {
    std::string name;  // part or boundary
    std::string label; // for people
    bool isBoundary = false;
    std::optional<double> temperature; // K: mean of a part, the environment of a boundary
    std::optional<double> highest;     // K, of a part
    double produced = 0;               // W
    double stored = 0;                 // W, growing heat content
    // W: the larger of what comes in (with what is produced) and what leaves (with what is stored)
    double through = 0;
    double x = 0;      // left edge
    double y = 0;      // upper edge
    double height = 0; // in proportion to `through`
};

// Heat from the right edge of one node to the left edge of another; bands at a node lie side by side, so that they add
// up there.
struct HeatBand {
    std::size_t from = 0; // positions in HeatFlowDiagram::nodes
    std::size_t to = 0;
    double heat = 0;                  // W, positive
    std::optional<double> difference; // K
    std::optional<double> resistance; // K/W
    double width = 0;                 // share of the height, in proportion to heat
    double yFrom = 0;                 // upper edge where it leaves
    double yTo = 0;                   // upper edge where it arrives
};

struct HeatFlowDiagram {
    std::vector<HeatNode> nodes;
    std::vector<HeatBand> bands;
    int columns = 0;
    double nodeWidth = 0;
    double leftOut = 0; // W, sum of links that are too small to be drawn
};

// Nodes stand in columns in the direction in which the heat goes; boundaries through which it leaves at the right,
// those through which it comes in at the left. Links below a thousandth of the largest are left out and told. Errors:
// NotSupported without balances or without heat.
Result<HeatFlowDiagram> heatFlowDiagram(const Readings& readings, const CaseEntry& entry);

} // namespace pyro

// Every gauge and every limit of a survey over meshes of one case.
#pragma once

#include "core/compare/case_outcome.h"
#include "core/compare/grid_convergence.h"
#include "core/survey/survey.h"

#include <span>

namespace pyro {

struct GridRow {
    std::string gauge;           // id; empty: the limit below
    std::size_t limit = noLimit; // position in the survey
    LimitTarget target = {};     // of the limit
    std::string unit;            // of value, extrapolated and, as a difference, uncertainty
    bool isTemperature = false;
    std::vector<std::optional<double>> values; // of the meshes, from fine to coarse
    std::optional<double> zero = {};  // in `unit`: what the shares of a temperature are told from; nothing: see note
    GridConvergence found;            // shares on the rise above `zero`; `extrapolated` in `unit`
    std::string uncertaintyUnit = {}; // K of temperatures, else `unit`
    std::string why = {};             // set when nothing can be said
    static constexpr std::size_t noLimit = ~std::size_t{0};
};

struct GridStudy {
    std::vector<std::string> cases; // from fine to coarse
    std::vector<double> sizes;      // of a cell, in one unit
    std::vector<GridRow> rows;      // gauges, then limits, in the order of the survey
    std::string why = {};           // set when nothing can be said of any
};

// Sizes from counts: cells to the power -1/3, of cases in two dimensions -1/2.
GridStudy studyGrids(const Survey& survey, const GridsWish& wish, std::span<const CaseOutcome> outcomes);

// How far a gauge of a case may be off by its mesh, in its unit (temperatures: K): from the study whose finest mesh is
// that case. Nothing where none tells.
std::optional<double> uncertaintyOf(std::span<const GridStudy> studies, const std::string& caseName,
                                    const std::string& gauge);
// The same for verdicts, in the order of the survey; a margin that is smaller than it leaves a limit tight.
void addUncertainties(std::vector<LimitReading>& limits, std::span<const GridStudy> studies,
                      const std::string& caseName);

// What the study of a case's meshes says for the check "mesh-convergence" of that case.
struct MeshAnswer {
    bool finest = false;    // of the study; coarser meshes are told for their finest one
    bool converges = false; // every value that can be told monotonically, the index below `mostIndex`
    std::string figure;
    std::string meaning;
    static constexpr double mostIndex = 0.05; // common practice, no source
};
// Nothing where no study has the case, or its study says nothing.
std::optional<MeshAnswer> meshAnswerOf(std::span<const GridStudy> studies, const std::string& caseName);

} // namespace pyro

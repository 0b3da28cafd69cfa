// Tables for people: readings as the window, the command line and the report write them, with labels, units and signs
// of the trade; where something is not known it says so. For files see tables/, which keep every digit.
#pragma once

#include "core/compare/compare_cases.h"
#include "core/compare/grids.h"
#include "core/compare/measured.h"
#include "core/compare/sweep.h"
#include "core/readings/estimate_reading.h"
#include "core/readings/readings.h"
#include "core/survey/survey.h"
#include "core/units/reader_units.h"

namespace pyro {

struct ShownColumn {
    std::string title;
    bool isNumber = false;
};

struct ShownTable {
    std::vector<ShownColumn> columns;
    std::vector<std::vector<std::string>> rows;
};

// Columns as wide as their widest cell, numbers to the right; a line each, `indent` spaces first.
std::string textOf(const ShownTable& table, std::size_t indent = 0);

// Smallest margin first. `limits`: in the order of the survey.
ShownTable shownLimits(const Survey& survey, const CaseEntry& entry, const std::vector<LimitReading>& limits,
                       const ReaderUnits& unit);
ShownTable shownEstimate(const Survey& survey, const CaseEntry& entry, const Estimate& estimate,
                         const ReaderUnits& unit);
// What enters and leaves each part, and of several the whole; no rows without balances.
ShownTable shownBalances(const CaseEntry& entry, const Readings& readings, const ReaderUnits& unit = {});
// What passes each boundary, and of several all together.
ShownTable shownFlows(const Readings& readings, const ReaderUnits& unit);
// Which way the heat goes, and where it meets resistance: the parts as the nodes of a network.
ShownTable shownLinks(const CaseEntry& entry, const Readings& readings, const ReaderUnits& unit = {});
// What a gauge is the sum of; origins in full.
ShownTable shownTerms(const GaugeReading& gauge, const ReaderUnits& unit = {});
// What a row of a comparison is called: "Amplifier, max".
std::string comparedName(const Survey& survey, const Comparison& comparison, const ComparedRow& row);
// Values of each case, and against the baseline their difference, per cent and change of the verdict.
ShownTable shownCompare(const Survey& survey, const Comparison& comparison, const std::vector<ComparedRow>& rows,
                        const ReaderUnits& unit);
ShownTable shownGrids(const Survey& survey, const GridStudy& study, const ReaderUnits& unit);
ShownTable shownMeasured(const MeasuredReading& reading, const ReaderUnits& unit);
// "7 of 8 values: bias 0.3 K, rms 1.2 K, largest 4.8 K (TC3); 88 % within their uncertainty", or why there is nothing.
std::string measuredText(const MeasuredReading& reading, const ReaderUnits& unit = {});
// "2.5 mm".
std::string shownParameter(const SweepPlan::Parameter& parameter, double value, const ReaderUnits& unit = {});
ShownTable shownSweep(const Survey& survey, const SweepReading& sweep, const ReaderUnits& unit);
// How many hold every limit, the best, where limits are just met; or why nothing can be told.
std::vector<std::string> sweepSentences(const Survey& survey, const SweepReading& sweep, const ReaderUnits& unit = {});
ShownTable shownSensitivities(const SweepReading& sweep, const ReaderUnits& unit = {});
ShownTable shownSurfaces(const SweepReading& sweep, const ReaderUnits& unit = {});
ShownTable shownSpots(const CaseEntry& entry, const Readings& readings, const GaugeReading& gauge,
                      const ReaderUnits& unit = {});

} // namespace pyro

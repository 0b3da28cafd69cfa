// How an estimate is told, the same in window and command line.
#pragma once

#include "core/readings/estimate_reading.h"
#include "core/survey/survey.h"
#include "core/units/reader_units.h"

namespace pyro {

// "at 40.0 °C and 80 % of the power"
std::string estimateAt(const Estimate& estimate, const ReaderUnits& unit);
// What it comes to, a sentence each: how many limits are over, which one a rising ambient and a rising power reach
// first, which environments were moved and on which cases it rests; or why nothing can be told.
std::vector<std::string> estimateSentences(const Survey& survey, const CaseEntry& entry, const Estimate& estimate,
                                           const ReaderUnits& unit);

// "52.3 °C", "84.2 %", or a dash.
std::string ambientAtLimit(const EstimatedLimit& limit, const ReaderUnits& unit);
std::string powerAtLimit(const EstimatedLimit& limit);

} // namespace pyro

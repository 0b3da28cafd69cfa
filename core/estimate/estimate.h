// Every limit of a survey at another ambient temperature and another power, without solving anew.
#pragma once

#include "core/estimate/combined_case.h"
#include "core/readings/estimate_reading.h"
#include "core/survey/survey.h"

#include <functional>

namespace pyro {

// What an estimate asks of the evaluation that it is a part of.
struct EstimateTools {
    // The survey on a field, without checks and without another estimate; `balances`: those of all parts as well.
    std::function<Result<Readings>(const Survey&, const CaseEntry&, const OpenedCase&, const Step&, bool balances,
                                   Progress&)>
        evaluate;
    // Another case of the survey; empty: none can be had.
    std::function<Result<OpenedCase>(const CaseEntry&, Progress&)> otherCase;
    bool changes = false; // the case has several times
};

// With the same cooling every temperature of a linear steady case moves as all its environments do, and is a sum of one
// response to each environment and to each power. All environments are moved alike by what is wanted of the ambient;
// the power needs to be told apart from the environments: they have one temperature, or other cases of the survey on
// this mesh differ in them. The survey is then evaluated on the field that results, so that every form of limit is told
// as on a solved case. `readings`: of this step, with balances. What cannot be told says why. Errors: Cancelled.
Result<Estimate> estimateOf(const Survey& survey, const CaseEntry& entry, const OpenedCase& opened, const Step& step,
                            const Readings& readings, const EstimateTools& tools, Progress& progress);

} // namespace pyro

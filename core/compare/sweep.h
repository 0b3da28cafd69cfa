// A sweep over parameters: which cases hold every limit, what each parameter does, and where a limit is just met.
#pragma once

#include "core/readings/limit_reading.h"
#include "core/survey/survey.h"

#include <map>

namespace pyro {

// What is kept of one case of a sweep.
struct SweepCase {
    std::string name;
    std::string file;
    std::map<std::string, double> parameters; // in the unit of each
    struct Value {
        std::optional<double> value; // in `unit`
        std::string unit;
        bool isTemperature = false;
    };
    std::map<std::string, Value> gauges;
    std::vector<LimitReading> limits; // the worst over the steps, in the order of the survey
    std::string why;                  // set when it could not be read or evaluated
    Verdict verdict() const { return why.empty() ? verdictOf(limits) : Verdict::Unknown; }
};

// Cases of a sweep as its table tells them, before they are read.
struct SweepPlan {
    struct Parameter {
        std::string name;
        std::string unit; // empty: none is told
    };
    std::vector<Parameter> parameters;
    struct Item {
        CaseEntry entry;                          // named by the stem of its file, else as the case `like`
        std::map<std::string, double> parameters; // in the unit of each
        std::string why;                          // it cannot be evaluated
        std::string lonePart = {};                // see RunOptions; empty: its own
    };
    std::vector<Item> items;
    std::vector<std::string> remarks; // equal lines, parameters of one value
    std::string why;                  // set when there is no sweep to speak of
};
// The lines of the wish's table, then the survey's own cases with parameters. Nothing where neither is there. `folder`:
// of the survey; files are relative to the table, and become relative to the survey.
std::optional<SweepPlan> planSweep(const Survey& survey, const std::filesystem::path& folder);

struct SweepReading {
    std::vector<SweepPlan::Parameter> parameters;
    std::vector<SweepCase> cases;  // in the order of the plan
    std::vector<std::string> best; // within every limit, by their least margin falling
    // Of the plane that fits a gauge best over all cases (least squares): change per unit of the parameter, and the
    // share of the variance that it explains, slope times covariance over variance; the shares sum to what the plane
    // explains.
    struct Sensitivity {
        std::string gauge;
        std::string parameter;
        double slope = 0;
        std::string unit;
        double share = 0;
    };
    std::vector<Sensitivity> sensitivities;
    // Where a limit is just met between neighbouring values of one parameter, all others the same; by monotone cubic
    // interpolation of the margin (Fritsch and Carlson 1980).
    struct Crossing {
        std::size_t limit = 0; // position in the survey
        std::string parameter;
        double value = 0;
        std::string unit;
        std::map<std::string, double> others;
    };
    std::vector<Crossing> crossings;
    std::vector<std::string> remarks;
    std::string why;
};
// The least of a case's margins: of limits in one unit the smallest; of several units that with the smallest share of
// what is required or allowed. Nothing where none is known.
const LimitReading* leastMargin(const SweepCase& one);

SweepReading analyse(SweepPlan plan, std::vector<SweepCase> cases);

} // namespace pyro

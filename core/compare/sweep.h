// A sweep over parameters: which cases hold every limit, what each parameter does, and where a limit is just met.
#pragma once

#include "core/compare/response_surface.h"
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
    // Polynomials of every gauge and margin over the parameters, in the unit of the value.
    struct Surface {
        std::string value; // see SweepValue::key
        std::string unit;
        std::string errorUnit; // of the errors and the effect: K of temperatures, else `unit`
        ResponseSurface found;
        std::string why; // there is none
        // No telling by it where its error is as large as what it is to tell.
        bool holds() const { return why.empty() && found.holds(); }
    };
    std::vector<Surface> surfaces;
    // By the surfaces of all limits, within the ranges of the parameters: the combination whose least margin is
    // largest; where it is better than the best case by no more than the surface's error, that case.
    struct Optimum {
        std::map<std::string, double> parameters;
        double leastMargin = 0; // below zero: no combination holds every limit
        std::string unit;
        std::string limit;    // that has it, as Surface::value
        double error = 0;     // of that surface; 0 of a case
        std::string caseName; // empty: no case was computed there
        std::string why;      // there is none
    };
    std::optional<Optimum> optimum; // nothing without limits or parameters
    // The combination to compute next: of the region around the case that its neighbours tell least well, the place
    // farthest from it (Xu, Liang, Liu and Wang 2014).
    struct Next {
        std::map<std::string, double> parameters;
        std::string nearest; // that case
        std::string value;   // that is told least well there, as Surface::value
        double error = 0;
        std::string unit;
    };
    std::optional<Next> next;
    std::vector<std::string> remarks;
    std::string why;
};
// The least of a case's margins: of limits in one unit the smallest; of several units that with the smallest share of
// what is required or allowed. Nothing where none is known.
const LimitReading* leastMargin(const SweepCase& one);

// `survey`: whose limits and gauges they are.
SweepReading analyse(const Survey& survey, SweepPlan plan, std::vector<SweepCase> cases);

} // namespace pyro

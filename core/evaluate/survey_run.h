// A survey evaluated on its cases and steps, with the outcome of each case beside the others.
#pragma once

#include "core/compare/compare_cases.h"
#include "core/compare/grids.h"
#include "core/compare/measured.h"
#include "core/compare/sweep.h"
#include "core/evaluate/case_verdicts.h"
#include "core/evaluate/evaluate.h"

namespace pyro {

// Of a step what measured data are held against.
struct MeasuredStep {
    std::optional<double> time; // s
    std::vector<Probes> probes; // of the tables that speak of the case
    std::optional<double> ambient;
    std::vector<std::string> nonlinear;
};
std::vector<MeasuredStep> measuredSteps(std::span<const Readings> steps);

struct CaseRun {
    std::string name;
    std::string file;
    std::optional<Error> error; // of the case, or of the first step that could not be evaluated
    std::vector<Readings> steps;
    std::vector<MeasuredReading> measured = {};   // told by tellTogether
    std::vector<MeasuredStep> measuredSteps = {}; // what each step that was evaluated tells for it
    Remarks seriesRemarks = {};                   // on the files of the steps
    std::vector<GaugeReading> overSteps = {};     // of the gauges that run over all steps, in their order

    std::vector<LimitReading> worstLimits() const; // over the steps, in the order of the survey
    Remarks remarks() const;                       // of all steps, each once
    // Steps as iterations, judged whether they have settled; empty for fewer than two.
    std::vector<MonitoredValue> settledOverSteps() const;
};

struct SurveyRun {
    std::string surveyFile;
    std::vector<CaseRun> cases;
    // Of several cases as one subject, see tellTogether:
    std::optional<Comparison> compare = {};
    std::vector<GridStudy> grids = {}; // in the order of the survey
    std::optional<SweepReading> sweep = {};

    // Each case with the worst of its steps.
    std::vector<CaseVerdicts> verdicts() const;
    Verdict verdict() const; // of all cases
    // 2 a case could not be read, 1 over, 4 unknown, 0 otherwise.
    int exitStatus() const;
};

struct RunOptions {
    std::string onlyCase;    // empty: all
    std::optional<int> step; // nothing: the last; -1: all
    OpenOptions open;
    bool balances = false; // of all parts and boundaries
    // Readings of steps that were evaluated before with the same survey, and still hold: those of the same time are
    // taken as they are.
    std::shared_ptr<const std::vector<Readings>> known = {};
    // Of the only part of a file without blocks, which is named after the file, where that of another case is meant.
    std::string lonePart = {};
};

// What cases tell together: adds comparison, grid convergence and measured data as the survey asks for them, and to the
// limits how far the mesh may have them off. Cases that were left out count as not there. Once for each run.
void tellTogether(const Survey& survey, SurveyRun& run);

// One case with the steps that are wanted; what cannot be read is told within. Errors: Cancelled; Usage for a step that
// is not there.
Result<CaseRun> runCase(const Survey& survey, const CaseEntry& entry, const std::filesystem::path& surveyFile,
                        const RunOptions& options, Progress& progress);

// Errors: NameUnknown for a case or step that is not there; Cancelled. A case that cannot be read is no error
// here but carries its own.
Result<SurveyRun> runSurvey(const Survey& survey, const std::filesystem::path& surveyFile, const RunOptions& options,
                            Progress& progress);

} // namespace pyro

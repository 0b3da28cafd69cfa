#include "cli/evaluate.h"

#include "cli/output.h"
#include "core/quantities/gauge_keys.h"
#include "core/readings/estimate_reading.h"
#include "core/report/estimate_text.h"
#include "core/report/junit.h"
#include "core/report/readings_json.h"
#include "core/report/shown/shown_table.h"
#include "core/report/tables/table_writers.h"
#include "core/survey/edit.h"
#include "core/survey/survey_file.h"
#include "core/survey/survey_origin.h"
#include "core/thermal/whole_heat.h"

#include <charconv>
#include <fmt/ostream.h>
#include <fmt/ranges.h>

namespace pyro::cli {
namespace {

Result<std::optional<int>> stepFrom(const std::string& text) {
    if (text == "last")
        return std::optional<int>();
    if (text == "all")
        return std::optional<int>(-1);
    int step = 0;
    const auto [end, status] = std::from_chars(text.data(), text.data() + text.size(), step);
    if (status != std::errc() || end != text.data() + text.size() || step < 0)
        return fail(ErrorCode::Usage, fmt::format("\"{}\" is no step", text), "--step",
                    "Give last, all or a number from 0");
    return std::optional<int>(step);
}

TemperatureUnit unitOf(const Survey& survey) { return survey.view.unit; }

// A reading with all that it is worth: method, what the plain gradient says, the reference, what lies outside.
std::string readingText(const GaugeReading& gauge) {
    if (!gauge.read())
        return "not available: " + gauge.why;
    auto text = gauge.value ? formatSi(*gauge.value, gauge.unit)
                            : fmt::format("profile of {} points in {}", gauge.profile->s.size(), gauge.unit);
    if (!gauge.method.empty())
        text += ", " + gauge.method;
    if (gauge.spread)
        text += fmt::format(" (\u00b1 {} from the first to the second layer of cells)",
                            formatSi(*gauge.spread, gauge.unit));
    if (gauge.gradientValue)
        text += fmt::format(" (gradient {})", formatSi(*gauge.gradientValue, gauge.unit));
    if (!gauge.reference.empty())
        text += ", reference: " + gauge.reference;
    if (gauge.covered && *gauge.covered < 1)
        text += fmt::format(", {} of the place lies in both cases", formatShare(*gauge.covered));
    if (gauge.outside)
        text += fmt::format(", {} outside of the mesh", formatShare(*gauge.outside));
    return text;
}

// What did not hold, one line each; the rest as a number.
void printChecks(const std::vector<Check>& checks, std::ostream& out) {
    std::size_t held = 0;
    for (const auto& check : checks)
        if (check.state == CheckState::Passed)
            ++held;
        else
            fmt::print(out, "trust    {:<13} {}: {}; required {}. {}\n", checkStateText(check.state), check.title,
                       check.figure.empty() ? "not known" : check.figure, check.threshold, check.meaning);
    if (!checks.empty())
        fmt::print(out, "trust    {} of {} checks passed\n", held, checks.size());
}

void printEstimate(const Survey& survey, const CaseEntry& entry, const Estimate& estimate, TemperatureUnit unit,
                   std::ostream& out) {
    fmt::print(out, "\n");
    for (const auto& sentence : estimateSentences(survey, entry, estimate, unit))
        fmt::print(out, "{}\n", sentence);
    out << textOf(shownEstimate(survey, entry, estimate, unit));
}

// Under a gauge: what it is made of.
void printDerivation(const CaseEntry& entry, const Readings& step, const GaugeReading& gauge, std::ostream& out) {
    constexpr std::size_t indent = 21; // behind the names of gauges
    if (gauge.derivation && !gauge.derivation->spots.empty())
        out << textOf(shownSpots(entry, step, gauge), indent);
    if (gauge.derivation && !gauge.derivation->terms.empty())
        out << textOf(shownTerms(gauge), indent);
}

void printStep(const Survey& survey, const CaseEntry& entry, const Readings& step, TemperatureUnit unit,
               std::ostream& out) {
    fmt::print(out, "\n{}, step {}{}\n", entry.name, step.step, step.time ? fmt::format(", t = {} s", *step.time) : "");
    if (step.symmetry != 1)
        fmt::print(out, "the case is 1/{:g} of the whole, for which flows, powers and chi are told\n", step.symmetry);
    if (step.balance)
        fmt::print(out, "heat {}\n", balanceText(*step.balance));
    for (const auto& gauge : step.gauges) {
        const auto written = std::ranges::find(survey.gauges, gauge.id, &Gauge::id);
        // its value stands behind the steps
        const bool over = written != survey.gauges.end() && readsOverSteps(survey.gauges, *written);
        fmt::print(out, "{:<20} {}{}\n", gauge.id, readingText(gauge), over ? ", on this step" : "");
        printDerivation(entry, step, gauge, out);
    }
    if (step.balances) {
        out << textOf(shownBalances(entry, step));
        if (!step.balances->links.empty())
            out << textOf(shownLinks(entry, step));
    }
    printChecks(step.checks, out);
    if (!step.limits.empty())
        out << textOf(shownLimits(survey, entry, step.limits, unit));
}

// What several cases tell together.
void printTogether(const Survey& survey, const SurveyRun& run, std::ostream& out) {
    if (run.compare) {
        const auto& comparison = *run.compare;
        fmt::print(out, "\ncompared with {}\n", comparison.why.empty() ? comparison.baseline : comparison.why);
        for (const auto& remark : comparison.remarks)
            fmt::print(out, "note: {}\n", remark);
        if (comparison.why.empty())
            out << textOf(shownCompare(survey, comparison, comparedRows(survey, comparison, CompareOrder::Worse),
                                       unitOf(survey)));
    }
    if (run.sweep) {
        fmt::print(out, "\nsweep\n");
        for (const auto& sentence : sweepSentences(survey, *run.sweep))
            fmt::print(out, "{}\n", sentence);
        if (run.sweep->why.empty())
            out << textOf(shownSweep(survey, *run.sweep, unitOf(survey))) << textOf(shownSensitivities(*run.sweep))
                << textOf(shownSurfaces(*run.sweep));
    }
    for (const auto& study : run.grids) {
        fmt::print(out, "\ngrid convergence over {}{}\n", fmt::join(study.cases, ", "),
                   study.why.empty() ? std::string() : ": " + study.why);
        if (study.why.empty())
            out << textOf(shownGrids(survey, study, unitOf(survey)));
    }
    for (const auto& one : run.cases)
        for (const auto& reading : one.measured) {
            fmt::print(out, "\nmeasured, {}, against {}: {}\n", reading.id, one.name, measuredText(reading));
            for (const auto& note : reading.notes)
                fmt::print(out, "note: {}\n", note);
            if (reading.why.empty())
                out << textOf(shownMeasured(reading, unitOf(survey)));
        }
}

void print(const Survey& survey, const SurveyRun& run, std::ostream& out, std::ostream& err) {
    if (!survey.title.empty())
        fmt::print(out, "{}\n", survey.title);
    for (const auto& one : run.cases) {
        if (one.error) {
            fmt::print(err, "pyrometer-cli: case {}: {}\n", one.name, one.error->text());
            if (one.steps.empty())
                continue;
        }
        for (const auto& step : one.steps)
            printStep(survey, *survey.caseNamed(one.name), step, unitOf(survey), out);
        if (one.steps.size() > 1 && !survey.limits.empty()) {
            fmt::print(out, "worst over the steps\n");
            out << textOf(shownLimits(survey, *survey.caseNamed(one.name), one.worstLimits(), unitOf(survey)));
        }
        for (const auto& gauge : one.overSteps)
            fmt::print(out, "{:<20} {} over all steps\n", gauge.id, readingText(gauge));
        if (!one.steps.empty() && one.steps.back().estimate)
            printEstimate(survey, *survey.caseNamed(one.name), *one.steps.back().estimate, unitOf(survey), out);
        printRemarks(one.remarks(), one.file, err);
    }
    printTogether(survey, run, out);
    fmt::print(out, "\nverdict: {}\n", verdictName(run.verdict()));
}

// The survey with the estimate that is asked for on the command line.
Result<Survey> withAsked(Survey survey, const EvaluateWords& words) {
    if (words.ambient.empty() && words.power.empty())
        return survey;
    survey.estimate.reset();
    return withEstimate(std::move(survey), EstimateField::Ambient, words.ambient).and_then([&](Survey next) {
        return withEstimate(std::move(next), EstimateField::Power, words.power);
    });
}

// Whoever asks whether the limits hold elsewhere is answered in the status too.
int withEstimates(int status, const SurveyRun& run) {
    for (const auto& one : run.cases)
        if (!one.steps.empty() && one.steps.back().estimate) {
            const auto verdict = one.steps.back().estimate->verdict();
            if (verdict == Verdict::Over && (status == 0 || status == 4))
                status = 1;
            if (verdict == Verdict::Unknown && status == 0 && !one.steps.back().limits.empty())
                status = 4;
        }
    return status;
}

} // namespace

int evaluate(const EvaluateWords& words, std::ostream& out, std::ostream& err) {
    const auto step = stepFrom(words.step);
    if (!step)
        return complain(step.error(), err);
    const auto survey = loadSurvey(words.survey).and_then([&](Survey read) {
        return withAsked(std::move(read), words);
    });
    if (!survey)
        return complain(survey.error(), err);
    NoProgress progress;
    const auto run = runSurvey(*survey, words.survey, {words.onlyCase, *step, {}, true}, progress);
    if (!run)
        return complain(run.error(), err);
    print(*survey, *run, out, err);
    printRemarks(newerRemarks(*survey, words.survey), words.survey, err);
    if (writeJson(runToJson(*run), words.json, out, err) != 0)
        return 2;
    if (!words.csvFolder.empty())
        if (const auto written = writeTablesCsv({*survey, *run, unitOf(*survey)}, words.csvFolder); !written)
            return complain(written.error(), err);
    if (!words.junit.empty())
        if (const auto written = writeFileAtomically(words.junit, junitXml(*run)); !written)
            return complain(written.error(), err);
    return words.ambient.empty() && words.power.empty() ? run->exitStatus() : withEstimates(run->exitStatus(), *run);
}

} // namespace pyro::cli

#include "cli/command.h"

#include "cli/evaluate.h"
#include "cli/inspect.h"
#include "cli/run_pages.h"

#include <CLI/CLI.hpp>

namespace pyro::cli {

int run(const std::vector<std::string>& words, std::ostream& out, std::ostream& err) try {
    CLI::App app("Evaluates temperature fields: what is in a case, and whether its limits hold.", "pyrometer-cli");
    app.require_subcommand(1);

    InspectWords inspectWords;
    auto* inspecting = app.add_subcommand("inspect", "list parts, boundaries, quantities, units, ranges and steps");
    inspecting->add_option("CASE", inspectWords.file, "a case file: .vtu, .vtk, .vtm, .xdmf, .e ...")->required();
    inspecting->add_option("--json", inspectWords.json, "write the list as JSON to this file, - for standard output");

    EvaluateWords evaluateWords;
    auto* evaluating = app.add_subcommand("evaluate", "read all gauges and judge all limits of a survey");
    evaluating->add_option("SURVEY", evaluateWords.survey, "a .survey.json file")->required();
    evaluating->add_option("--case", evaluateWords.onlyCase, "only the case of this name");
    evaluating->add_option("--step", evaluateWords.step, "last, all, or a number from 0");
    evaluating->add_option("--json", evaluateWords.json, "write the readings to this file, - for standard output");
    evaluating->add_option(
        "--csv", evaluateWords.csvFolder,
        "write every table as .csv into this folder: limits, gauges, profiles, terms, hotspots, powers, "
        "materials, balances, checks, findings, and estimate where one is asked for");
    evaluating->add_option("--junit", evaluateWords.junit, "write the verdicts as JUnit XML to this file");
    evaluating->add_option("--ambient", evaluateWords.ambient,
                           "estimate all limits at this ambient temperature, \"40 degC\"; all environments move alike");
    evaluating->add_option("--power", evaluateWords.power, "estimate all limits at this share of the power, \"80 %\"");

    app.add_subcommand("report", "evaluate a survey and write its report: PDF, ODT, HTML, Markdown, spreadsheet");
    app.add_subcommand("render", "draw viewpoints of a survey, without a display");
    if (!words.empty() && (words.front() == "report" || words.front() == "render"))
        return runPages(words, err);
    if (!words.empty() && !words.front().starts_with("-") && words.front() != inspecting->get_name() &&
        words.front() != evaluating->get_name()) {
        err << "pyrometer-cli: \"" << words.front()
            << "\" is not known here. Write inspect, evaluate, report or render; --help tells what they take.\n";
        return 2;
    }
    try {
        app.parse(std::vector<std::string>(words.rbegin(), words.rend()));
    } catch (const CLI::ParseError& wrong) {
        return app.exit(wrong, out, err) == 0 ? 0 : 2;
    }
    return inspecting->parsed() ? inspect(inspectWords, out, err) : evaluate(evaluateWords, out, err);
} catch (const std::exception& problem) {
    err << "pyrometer-cli: an internal failure: " << problem.what() << ". Please report it.\n";
    return 3;
}

} // namespace pyro::cli

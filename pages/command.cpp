#include "pages/command.h"

#include "pages/report_command.h"

#include <CLI/CLI.hpp>

namespace pyro::pages {

int complain(const Error& error, std::ostream& err) {
    err << "pyrometer-cli: " << error.text() << "\n";
    return 2;
}

int run(const std::vector<std::string>& words, std::ostream& out, std::ostream& err) try {
    CLI::App app("Writes reports and pictures of a survey, without a window.", "pyrometer-cli");
    app.require_subcommand(1);

    ReportWords report;
    auto* reporting = app.add_subcommand("report", "evaluate a survey and write its report");
    reporting->add_option("SURVEY", report.survey, "a .survey.json file")->required();
    reporting
        ->add_option("-o,--output", report.outputs,
                     "what is written, by its ending: .pdf, .odt, .html, .md, .xlsx; several are possible")
        ->required();
    reporting->add_option("--template", report.templateFile,
                          "blocks (.report.json), or a document of yours with {{fields}} (.odt, .html)");
    reporting->add_option("--case", report.onlyCase, "only the case of this name");
    reporting->add_option("--step", report.step, "only this step of a series, from 0; else the worst of all is judged");

    RenderWords render;
    auto* rendering = app.add_subcommand("render", "draw viewpoints of a survey");
    rendering->add_option("SURVEY", render.survey, "a .survey.json file")->required();
    rendering->add_option("--viewpoint", render.viewpoints, "the viewpoint of this name; several are put side by side");
    rendering->add_option("--case", render.caseName, "on this case, else on that of the viewpoint or the first");
    rendering->add_option("--step", render.step, "a number from 0; else the last");
    rendering->add_option("--size", render.size, "pixels, 1600x1000");
    rendering->add_option("--scale", render.scale, "times as many pixels");
    rendering->add_option("--points", render.points, "size of letters at 96 pixels to the inch, 9")
        ->check(CLI::Range(4.0, 72.0));
    rendering->add_option("--ground", render.ground, "what lies behind: white, graphite or transparent")
        ->check(CLI::IsMember({"white", "graphite", "transparent"}));
    rendering->add_option("--scale-at", render.scaleAt, "the scale of colours: beneath, beside, inside or none")
        ->check(CLI::IsMember({"beneath", "beside", "inside", "none"}));
    rendering->add_flag("--legend", render.legend, "parts bear numbers, a legend tells their names");
    rendering->add_flag("!--no-labels", render.labels, "parts are not labelled");
    rendering->add_flag("--every-step", render.everyStep, "numbered pictures, one for each step of the series");
    rendering->add_option("--rate", render.framesPerSecond, "pictures of a film in a second, 5")
        ->check(CLI::Range(1, 60));
    rendering->add_option("-o,--output", render.output,
                          "a .png, .svg or .pdf; an .ogv or .webp is a film over all steps");
    rendering->add_option("--all", render.all, "every viewpoint on every case, into this folder");

    try {
        app.parse(std::vector<std::string>(words.rbegin(), words.rend()));
    } catch (const CLI::ParseError& wrong) {
        return app.exit(wrong, out, err) == 0 ? 0 : 2;
    }
    return reporting->parsed() ? writeReports(report, err) : drawViewpoints(render, out, err);
} catch (const std::exception& problem) {
    err << "pyrometer-cli: an internal failure: " << problem.what() << ". Please report it.\n";
    return 3;
}

} // namespace pyro::pages

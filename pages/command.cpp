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

    RenderWords render;
    auto* rendering = app.add_subcommand("render", "draw viewpoints of a survey");
    rendering->add_option("SURVEY", render.survey, "a .survey.json file")->required();
    rendering->add_option("--viewpoint", render.viewpoint, "the viewpoint of this name");
    rendering->add_option("--case", render.caseName, "on this case, else on that of the viewpoint or the first");
    rendering->add_option("--step", render.step, "a number from 0; else the last");
    rendering->add_option("--size", render.size, "pixels, 1600x1000");
    rendering->add_option("--scale", render.scale, "times as many pixels");
    rendering->add_flag("--dark", render.dark, "on graphite, else on white");
    rendering->add_option("-o,--output", render.output, "a .png file");
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

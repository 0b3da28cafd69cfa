// The words of the four programs.
#include "manual/manual.h"

namespace pyro {
namespace {

const std::vector<ExitStatus> cliStatuses{
    {0, "nothing is over its limit"},
    {1, "some limit is exceeded"},
    {2, "the input or the words are wrong; the message tells what, where, and what to do"},
    {3, "a failure of the program itself"},
    {4, "nothing is over, but some limit cannot be judged"},
};

const std::vector<std::pair<std::string, std::string>> userFiles{
    {"$XDG_CACHE_HOME/pyrometer, else ~/.cache/pyrometer",
     "cases as they were read, and the demos as solved; may be deleted at any time"},
    {"$XDG_CONFIG_HOME/pyrometer, else ~/.config/pyrometer",
     "settings of the window, and the journal of what is not saved yet"},
};

// "FILE" and "FOLDER" are what completions propose files and folders for.
CLI::Option* file(CLI::Option* option) { return option->type_name("FILE"); }
CLI::Option* folder(CLI::Option* option) { return option->type_name("FOLDER"); }
CLI::Option* text(CLI::Option* option, const char* what) { return option->type_name(what); }

void declare(CLI::App& app, InspectWords& words) {
    auto* inspect = app.add_subcommand("inspect", "list parts, boundaries, quantities, units, ranges and steps");
    file(inspect->add_option("CASE", words.file, "a case file: .vtu, .vtk, .vtm, .xdmf, .cgns, .e ..."))->required();
    file(inspect->add_option("--json", words.json, "write the list as JSON to this file, - for standard output"));
}

void declare(CLI::App& app, EvaluateWords& words) {
    auto* evaluate = app.add_subcommand("evaluate", "read all gauges and judge all limits of a survey");
    file(evaluate->add_option("SURVEY", words.survey, "a .survey.json file"))->required();
    text(evaluate->add_option("--case", words.onlyCase, "only the case of this name"), "NAME");
    text(evaluate->add_option("--step", words.step, "last, all, or a number from 0"), "STEP");
    file(evaluate->add_option("--json", words.json, "write the readings to this file, - for standard output"));
    folder(evaluate->add_option(
        "--csv", words.csvFolder,
        "write every table as .csv into this folder: limits, gauges, profiles, terms, hotspots, powers, "
        "materials, balances, checks, findings, and estimate where one is asked for"));
    file(evaluate->add_option("--junit", words.junit, "write the verdicts as JUnit XML to this file"));
    text(evaluate->add_option("--ambient", words.ambient,
                              "estimate all limits at this ambient temperature, \"40 degC\"; all environments move "
                              "alike"),
         "TEMPERATURE");
    text(evaluate->add_option("--power", words.power, "estimate all limits at this share of the power, \"80 %\""),
         "SHARE");
}

void declare(CLI::App& app, ReportWords& words) {
    auto* report = app.add_subcommand("report", "evaluate a survey and write its report, without a display");
    file(report->add_option("SURVEY", words.survey, "a .survey.json file"))->required();
    file(report->add_option("-o,--output", words.outputs,
                            "what is written, by its ending: .pdf, .odt, .html, .md, .xlsx; several are possible"))
        ->required();
    file(report->add_option("--template", words.templateFile,
                            "blocks (.report.json), or a document of yours with {{fields}} (.odt, .html)"));
    text(report->add_option("--case", words.onlyCase, "only the case of this name"), "NAME");
    text(
        report->add_option("--step", words.step, "only this step of a series, from 0; else the worst of all is judged"),
        "NUMBER");
}

void declare(CLI::App& app, RenderWords& words) {
    auto* render = app.add_subcommand("render", "draw viewpoints of a survey, without a display");
    file(render->add_option("SURVEY", words.survey, "a .survey.json file"))->required();
    text(
        render->add_option("--viewpoint", words.viewpoints, "the viewpoint of this name; several are put side by side"),
        "NAME");
    text(render->add_option("--case", words.caseName, "on this case, else on that of the viewpoint or the first"),
         "NAME");
    text(render->add_option("--step", words.step, "a number from 0; else the last"), "NUMBER");
    text(render->add_option("--size", words.size, "pixels, 1600x1000"), "SIZE");
    text(render->add_option("--scale", words.scale, "times as many pixels"), "FACTOR");
    text(render->add_option("--points", words.points, "size of letters at 96 pixels to the inch, 4 to 72; else 9"),
         "POINTS")
        ->check(CLI::Range(4.0, 72.0).description(""));
    text(render->add_option("--ground", words.ground, "what lies behind: white, graphite or transparent"), "GROUND")
        ->check(CLI::IsMember({"white", "graphite", "transparent"}));
    text(render->add_option("--scale-at", words.scaleAt, "the scale of colours: beneath, beside, inside or none"),
         "PLACE")
        ->check(CLI::IsMember({"beneath", "beside", "inside", "none"}));
    render->add_flag("--legend", words.legend, "parts bear numbers, a legend tells their names");
    render->add_flag("!--no-labels", words.labels, "parts are not labelled");
    render->add_flag("--every-step", words.everyStep, "numbered pictures, one for each step of the series");
    text(render->add_option("--rate", words.framesPerSecond, "pictures of a film in a second, 1 to 60; else 5"),
         "NUMBER")
        ->check(CLI::Range(1, 60).description(""));
    file(render->add_option("-o,--output", words.output,
                            "a .png, .svg or .pdf; an .ogv or .webp is a film over all steps"));
    folder(render->add_option("--all", words.all, "every viewpoint on every case, into this folder"));
}

Manual manualOf(const char* name, std::string summary) {
    Manual made{std::make_unique<CLI::App>(summary, name), summary, {}, {}, {}, {}};
    made.app->set_version_flag("--version", buildText, "tell version, commit, compiler and libraries");
    made.app->set_help_flag("-h,--help", "tell what can be asked for, with examples");
    return made;
}

// Behind the list of words: what --help and the man page have in common.
void addFooter(Manual& manual) {
    std::string footer;
    for (const auto& one : manual.examples)
        footer += (footer.empty() ? "Examples:\n  " : "\n  ") + one.words + "\n      " + one.meaning;
    for (std::size_t at = 0; at < manual.statuses.size(); ++at)
        footer += (at == 0 ? "\n\nExit status:\n  " : "\n  ") + std::to_string(manual.statuses[at].status) + "  " +
                  manual.statuses[at].meaning;
    manual.app->footer(footer);
}

} // namespace

Manual cliManual(CliWords& words) {
    auto made = manualOf("pyrometer-cli", "evaluate temperature fields on the command line");
    made.description =
        "Reads the results of heat-transfer and cooling simulations, reads all gauges and judges all limits of a "
        "survey, and writes reports and pictures of it, without a window or a display.\n\n"
        "A survey is what the window saves; the readings are the same.";
    made.app->require_subcommand(1);
    declare(*made.app, words.inspect);
    declare(*made.app, words.evaluate);
    declare(*made.app, words.report);
    declare(*made.app, words.render);
    made.examples = {
        {"pyrometer-cli inspect cases/baseline.vtm", "what is in a case"},
        {"pyrometer-cli evaluate telemetry.survey.json --json readings.json --junit verdicts.xml",
         "verdicts for a night's run: read on by programs, and by a CI system"},
        {"pyrometer-cli evaluate telemetry.survey.json --ambient \"45 degC\" --power \"80 %\"",
         "what would be over elsewhere"},
        {"pyrometer-cli report telemetry.survey.json -o telemetry.pdf -o telemetry.xlsx",
         "the report and its spreadsheet"},
        {"pyrometer-cli render telemetry.survey.json --viewpoint \"Hot core\" -o hot.png --size 1200x800",
         "a picture for a page"},
    };
    made.statuses = cliStatuses;
    made.files = userFiles;
    addFooter(made);
    return made;
}

Manual windowManual(WindowWords& words) {
    auto made = manualOf("pyrometer", "evaluate temperature fields of thermal simulations");
    made.description =
        "Opens the result of a heat-transfer or cooling simulation and tells whether it can be trusted, where it is "
        "hottest, which component is over its limit and by how much, and where the heat goes.\n\n"
        "A file that is open already comes to the front in its window. Without a file the start page offers what was "
        "open lately, and the demos.";
    file(made.app->add_option("FILE", words.files,
                              "a survey (.survey.json), cases (.vtu, .vtk, .vtm, .xdmf, .e ...), or a folder of them"));
    text(made.app->add_option("--demo", words.demo,
                              "open the demo of this name; it is solved first where it is not yet"),
         "DEMO");
    folder(made.app->add_option("--tour", words.tour, "walk through the stages, store a picture of each, and end"));
    made.app->add_flag("--self-check", words.selfCheck,
                       "check renderer, write access, helpers and a small solved case, and end");
    text(made.app->add_option("--only", words.onlyCheck, "with --self-check: this check alone"), "CHECK")->group("");
    made.examples = {
        {"pyrometer telemetry.survey.json", "open a survey"},
        {"pyrometer cases/baseline.vtm cases/more-flow.vtm", "open two results, to be compared"},
        {"pyrometer --demo roof-edge", "open a demo"},
        {"pyrometer --self-check", "what is to be sent with a report of a problem"},
    };
    made.statuses = {
        {0, "the window was closed, or what was asked for is done"},
        {1, "a check of --self-check failed, or a stage of --tour did not show"},
        {2, "the words are wrong, or no display can be reached"},
    };
    made.files = userFiles;
    addFooter(made);
    return made;
}

Manual rigManual(RigWords& words) {
    auto made = manualOf("pyrometer-rig", "solve small cases of heat conduction");
    made.description = "The stand-in for a solver that comes with Pyrometer: steady and transient heat conduction in "
                       "boxes, with channels that carry heat away. It makes the demos and the cases of the tests.";
    auto* input = file(made.app->add_option("INPUT", words.input, "a .rig.json file"));
    file(made.app->add_option("-o,--output", words.output, "the .vtm file to write"))->needs(input);
    file(made.app->add_option("--history", words.history,
                              "a .csv file that grows by a line per step, or per grid when it refines"));
    auto* demo = text(made.app->add_option("--demo", words.demo,
                                           "solve what the demo of this name needs and is not there yet, and put its "
                                           "survey beside it; \"list\" tells the names"),
                      "DEMO");
    folder(made.app->add_option("--folder", words.folder, "where the demo is put; else the cache"))->needs(demo);
    made.app->add_flag("--progress", words.progressLines, "tell progress in lines, \"progress 0.25 what is done\"");
    demo->excludes(input);
    made.app->callback([&words] {
        if (words.demo.empty() && words.input.empty())
            throw CLI::RequiredError("INPUT or --demo");
        if (!words.input.empty() && words.output.empty())
            throw CLI::RequiredError("--output");
    });
    made.examples = {
        {"pyrometer-rig roof-edge.rig.json -o cases/roof-edge.vtm", "solve one case"},
        {"pyrometer-rig warm-up.rig.json -o cases/warm-up.vtm --history cases/warm-up.csv",
         "solve a transient and keep its history"},
        {"pyrometer-rig --demo mast-foot --folder demo", "solve a demo, to be opened with its survey"},
    };
    made.statuses = {{0, "solved and written"},
                     {2, "the input or the words are wrong, or something cannot be written; the message tells what"}};
    made.files = userFiles;
    addFooter(made);
    return made;
}

Manual readerManual() {
    auto made = manualOf("pyrometer-reader", "read one case file into a case store");
    made.description =
        "The other programs start it, so that a file that breaks a reader breaks nothing else; nobody needs to call "
        "it.\n\n"
        "It tells in lines on standard output how far it is (\"progress 0.5 text\"), and at last \"done\" or "
        "\"error\" with the message as JSON. \"serve\" as the only word: one job after the other, from standard input; "
        "\"times\", a memory limit and files: the times that the files carry.";
    file(made.app->add_option("FILE", "the case"))->required();
    file(made.app->add_option("STORE", "the store to write"))->required();
    text(made.app->add_option("MEMORY_LIMIT", "in bytes"), "BYTES")->required();
    text(made.app->add_option("STEP", "from 0"), "NUMBER")->required();
    text(made.app->add_option("AS", "how it is divided, as JSON"), "JSON");
    made.statuses = {
        {0, "read"}, {1, "it cannot be read; the message is on standard output"}, {2, "the words are wrong"}};
    made.internal = true;
    addFooter(made);
    return made;
}

std::optional<int> parse(const Manual& manual, const std::vector<std::string>& words, std::ostream& out,
                         std::ostream& err) {
    try {
        manual.app->parse(std::vector<std::string>(words.rbegin(), words.rend()));
    } catch (const CLI::ParseError& wrong) {
        return manual.app->exit(wrong, out, err) == 0 ? 0 : 2;
    }
    return std::nullopt;
}

} // namespace pyro

#include "pages/report_command.h"

#include "charts/chart_writer.h"
#include "core/case/lower_case.h"
#include "core/program/program.h"
#include "core/report/pages/fill_template.h"
#include "core/report/pages/report_template.h"
#include "core/survey/survey_file.h"
#include "core/survey/survey_origin.h"
#include "render/report_figures.h"
#include "render/report_files.h"

#include <fmt/format.h>
#include <fmt/ostream.h>

namespace pyro::pages {
namespace {

constexpr int allSteps = -1; // as RunOptions counts

// The survey's blocks, those of a template, or the usual ones.
Result<std::vector<ReportBlock>> blocksFor(const ReportWords& words, const Survey& survey) {
    if (!words.templateFile.empty() && lowerEnding(words.templateFile) == ".json")
        return readReportTemplate(words.templateFile);
    return blocksOf(survey);
}

} // namespace

int writeReports(const ReportWords& words, std::ostream& err) {
    const auto survey = loadSurvey(words.survey);
    if (!survey)
        return complain(survey.error(), err);
    const auto blocks = blocksFor(words, *survey);
    if (!blocks)
        return complain(blocks.error(), err);
    NoProgress progress;
    RunOptions options{words.onlyCase, words.step, {}, true};
    if (!options.step)
        options.step = allSteps; // verdicts are those of the worst
    const auto run = runSurvey(*survey, words.survey, options, progress);
    if (!run)
        return complain(run.error(), err);
    FigureDrawer drawer;
    std::vector<std::string> drawn;
    ReportInput input{*survey, *run, reportDate(), programVersion(), reportUnits(*survey), words.onlyCase, {}};
    input.pictures = figuresOf(*survey, *run, drawer, drawn, progress);
    input.pictures.chart = chartFigure;
    input.checkSum = checkSumOf;
    const bool own = !words.templateFile.empty() && lowerEnding(words.templateFile) != ".json";
    const auto document = own ? ReportDocument{} : makeReport(input, *blocks);
    auto remarks = document.remarks;
    remarks.insert(remarks.end(), drawn.begin(), drawn.end());
    for (const auto& newer : newerRemarks(*survey, words.survey))
        remarks.push_back(newer.text);
    bool failed = false;
    for (const auto& file : words.outputs) {
        std::vector<std::string> unknown;
        const auto written = own ? fillTemplate(words.templateFile, file, input, unknown)
                                 : writeReport(document, input, file, progress);
        for (const auto& name : unknown)
            remarks.push_back(fmt::format("nothing is called \"{}\"; the field stands as it is", name));
        if (!written)
            failed = complain(written.error(), err) != 0; // the others go on
    }
    for (const auto& remark : remarks)
        fmt::print(err, "pyrometer-cli: note: {}\n", remark);
    return failed ? 2 : run->exitStatus();
}

} // namespace pyro::pages

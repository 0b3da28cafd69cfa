// Reports: thirty pages with twenty figures at 300 dpi, what an edit of a page costs, and a viewpoint of a large case
// against opening that case.
#include "benchmarks/compare.h"
#include "benchmarks/large_case.h"
#include "core/feedback/whole_file.h"
#include "core/program/program.h"
#include "core/report/pages/report_template.h"
#include "core/survey/survey_file.h"
#include "render/report_figures.h"
#include "render/report_files.h"
#include "render/report_pages.h"

#include <QGuiApplication>
#include <fmt/format.h>

namespace {

using namespace pyro;
using namespace pyro::bench;

// Figures and text of a survey, over and over until there are as many as wanted.
void benchPages(const std::filesystem::path& file, const std::filesystem::path& blocksFile) {
    const auto survey = loadSurvey(file);
    const auto blocks = readReportTemplate(blocksFile);
    if (!survey || !blocks) {
        fmt::print("{}\n", (survey ? blocks.error() : survey.error()).text());
        return;
    }
    NoProgress progress;
    const auto run = runSurvey(*survey, file, {{}, std::nullopt, {}, true}, progress);
    FigureDrawer drawer;
    std::vector<std::string> remarks;
    ReportInput input{*survey, *run, reportDate(), programVersion(), reportUnits(*survey)};
    input.pictures = figuresOf(*survey, *run, drawer, remarks, progress);
    auto all = *blocks;
    for (int times = 0; times < 3; ++times)
        for (const auto& block : *blocks)
            if (block.kind == "viewpoint")
                all.push_back(block);
    ReportDocument document;
    const double drawing = secondsOf([&] { document = makeReport(input, all); });
    int figures = 0;
    for (const auto& part : document.parts)
        figures += part.picture.isThere() ? 1 : 0;
    FigureStore store;
    std::unique_ptr<ReportPages> pages;
    const double layout = secondsOf([&] { pages = std::make_unique<ReportPages>(document, store); });
    const double page = secondsOf([&] { pages->picture(2, 110); });
    const double writing = secondsOf([&] {
        const auto written = writeReport(document, input, "/tmp/pyrometer-bench-report.pdf", progress);
        if (!written)
            fmt::print("{}\n", written.error().text());
    });
    input.pictures = {};
    const double text = secondsOf([&] { document = makeReport(input, *blocks); });
    fmt::print("{} pages, {} figures: drawn {:.2f} s, written {:.2f} s, together {:.2f} s\n", pages->count(), figures,
               drawing, writing, drawing + writing);
    fmt::print("an edit of a page: text {:.0f} ms, layout {:.0f} ms, one page drawn {:.0f} ms\n", 1e3 * text,
               1e3 * layout, 1e3 * page);
}

void benchViewpoint(int perSide) {
    const std::filesystem::path folder = "/tmp/pyrometer-bench-render";
    std::filesystem::create_directories(folder);
    const auto file = folder / fmt::format("block{}.vtm", perSide);
    if (!std::filesystem::exists(file)) {
        const std::vector blocks{largeHexahedra(perSide)};
        if (const auto written = writeCase(blocks, file); !written)
            fmt::print("{}\n", written.error().text());
    }
    const Json json{{"pyrometer", 1}, {"title", "Bench"}, {"cases", {{{"name", "block"}, {"file", file.string()}}}}};
    auto survey = surveyFromJson(json, "bench");
    Viewpoint viewpoint;
    viewpoint.name = "whole";
    survey->viewpoints.push_back(viewpoint);
    NoProgress progress;
    const auto open = [&] {
        if (const auto opened = openForEvaluation(file, {}, progress); !opened)
            fmt::print("{}\n", opened.error().text());
    };
    open();
    const double opening = secondsOf(open);
    FigureDrawer drawer;
    FigureWish wish{std::make_shared<const Survey>(*survey), folder, survey->viewpoints, {}, {}, {}};
    const double drawn = secondsOf([&] {
        const auto sheet = drawer.sheet(wish, viewpoint, {1600, 1000}, {}, progress);
        if (!sheet)
            fmt::print("{}\n", sheet.error().text());
    });
    fmt::print("viewpoint of {} cells: {:.2f} s, opening alone {:.2f} s: {:.2f} times\n",
               static_cast<long>(perSide) * perSide * perSide, drawn, opening, drawn / opening);
}

} // namespace

int main(int count, char** words) {
    qputenv("QT_QPA_PLATFORM", "offscreen");
    const QGuiApplication application(count, words);
    if (count > 2)
        benchPages(words[1], words[2]);
    else
        fmt::print("bench_report SURVEY TEMPLATE: pages of a survey\n");
    benchViewpoint(160); // 4 million cells
    return 0;
}

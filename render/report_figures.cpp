#include "render/report_figures.h"

#include "core/survey/survey_file.h"
#include "render/heat_flow_picture.h"
#include "render/page_figure.h"
#include "render/paper.h"

#include <QPainter>
#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr double figureDpi = 300;
constexpr QSize diagramSize(1000, 620);
// A figure as wide as the text; wider than high, as screens are.
constexpr double figureShape = 0.625;

} // namespace

SheetLook lookOf(const ReportBlock& block) {
    SheetLook look;
    look.ground = block.ground == "graphite"      ? SheetGround::Graphite
                  : block.ground == "transparent" ? SheetGround::Transparent
                                                  : SheetGround::White;
    look.scale = block.scale == "beside"   ? ScalePlace::Beside
                 : block.scale == "inside" ? ScalePlace::Inside
                 : block.scale == "none"   ? ScalePlace::None
                                           : ScalePlace::Beneath;
    look.ratio = figureDpi / 96;
    return look;
}

QSize figureSize(const ReportBlock& block) {
    const double width = textWidthMm / 25.4 * figureDpi * block.size;
    const auto many = static_cast<double>(std::max<std::size_t>(block.rows.size(), 1));
    return {static_cast<int>(width), static_cast<int>(width / many * (many > 1 ? 0.9 : figureShape))};
}

Result<Headless*> FigureDrawer::headless() {
    if (!m_headless) {
        auto opened = Headless::open();
        if (!opened)
            return tl::unexpected(opened.error());
        m_headless = std::move(*opened);
    }
    return m_headless.get();
}

Result<DrawnCase*> FigureDrawer::caseFor(const FigureWish& wish, const CaseEntry& entry, std::optional<int> step,
                                         const ViewState& view, Progress& progress) {
    const auto told = wish.steps.find(entry.name);
    const auto toldStep = told == wish.steps.end() ? std::optional<int>() : std::optional(told->second);
    const auto given = wish.open.find(entry.name);
    const bool isGiven = given != wish.open.end() && (!step || step == toldStep);
    if (!step)
        step = toldStep;
    const auto key = isGiven ? fmt::format("{}", static_cast<const void*>(given->second.opened.solved.get()))
                             : fmt::format("{} {} {}", besideSurvey(entry.file, wish.folder).string(),
                                           step.value_or(-1), KeyValue<CaseEntry>::write(entry).dump());
    if (m_opened && m_opened->key == key)
        return &m_opened->shown;
    m_opened.reset(); // before the next one needs the memory
    if (isGiven) {
        m_opened = Opened{key, given->second};
        return &m_opened->shown;
    }
    auto opened = openDrawnCase(entry, wish.folder, step, view, progress);
    if (!opened)
        return tl::unexpected(opened.error());
    m_opened = Opened{key, std::move(*opened)};
    return &m_opened->shown;
}

Result<PictureSheet> FigureDrawer::sheet(const FigureWish& wish, const Viewpoint& viewpoint, const QSize& size,
                                         const SheetLook& look, Progress& progress) {
    const auto context = headless();
    if (!context)
        return tl::unexpected(context.error());
    const auto entry = caseOfViewpoint(*wish.survey, viewpoint, wish.caseName);
    if (!entry)
        return tl::unexpected(entry.error());
    const auto step = wish.step ? wish.step : viewpoint.withCase ? viewpoint.view.step : std::nullopt;
    SubProgress opening(progress, 0, 0.5);
    SubProgress drawing(progress, 0.5, 1);
    auto shown = caseFor(wish, **entry, step, viewpoint.view, opening);
    if (!shown)
        return tl::unexpected(shown.error());
    ViewpointWish asked{*wish.survey, viewpoint};
    const auto readings = wish.readings.find((*entry)->name);
    asked.readings = readings == wish.readings.end() ? nullptr : readings->second.get();
    asked.size = size;
    asked.look = look;
    asked.hasLegend = wish.block.legend == "parts";
    asked.namesParts = wish.block.labels != "none";
    asked.otherCase = [&](const std::string& name, Progress& other) -> Result<DrawnCase> {
        const auto* named = wish.survey->caseNamed(name);
        if (named == nullptr)
            return fail(ErrorCode::NameUnknown, "the survey has no case \"" + name + "\"", viewpoint.name,
                        "Choose one of its cases");
        return openDrawnCase(*named, wish.folder, std::nullopt, viewpoint.view, other);
    };
    return drawViewpoint(**context, **shown, asked, drawing);
}

Result<ReportPicture> FigureDrawer::draw(const FigureWish& wish, Progress& progress) {
    auto look = lookOf(wish.block);
    const auto many = static_cast<int>(std::max<std::size_t>(wish.viewpoints.size(), 1));
    const auto whole = figureSize(wish.block);
    if (many > 1)
        look.points *= 0.85;
    std::vector<PictureSheet> sheets;
    for (const auto& viewpoint : wish.viewpoints) {
        auto made = sheet(wish, viewpoint, {whole.width() / many, whole.height()}, look, progress);
        if (!made)
            return tl::unexpected(made.error());
        if (made->scale) // the page has its own caption
            made->scale->caption = many > 1 ? viewpoint.name : made->scale->about;
        sheets.push_back(std::move(*made));
    }
    return figureOf(std::move(sheets), look);
}

ReportPicture heatFlowFigure(const Survey& survey, const CaseRun& run, TemperatureUnit unit) {
    const auto* entry = survey.caseNamed(run.name);
    if (entry == nullptr || run.steps.empty())
        return withoutPicture("the case has not been evaluated");
    const auto diagram = heatFlowDiagram(run.steps.back(), *entry);
    if (!diagram)
        return withoutPicture(diagram.error().what);
    return figureOf(diagramSize, [diagram = *diagram, unit](QPainter& painter) {
        painter.setRenderHints(QPainter::Antialiasing | QPainter::TextAntialiasing);
        QFont font("Inter");
        font.setPixelSize(13);
        painter.setFont(font);
        drawHeatFlowDiagram(painter, QRectF(10, 10, diagramSize.width() - 20, diagramSize.height() - 20), diagram,
                            unit);
    });
}

ReportPictures lineFigures(const Survey& survey) {
    ReportPictures out;
    out.elements = elementFigure;
    out.heatFlowDiagram = [&survey](const CaseRun& run) { return heatFlowFigure(survey, run, survey.view.unit); };
    return out;
}

ReportPictures figuresOf(const Survey& survey, const SurveyRun& run, FigureDrawer& drawer,
                         std::vector<std::string>& remarks, Progress& progress) {
    auto out = lineFigures(survey);
    const auto folder = std::filesystem::path(run.surveyFile).parent_path();
    FigureWish all{std::make_shared<const Survey>(survey), folder, {}, {}, {}, {}};
    for (const auto& one : run.cases)
        if (!one.steps.empty())
            all.readings.emplace(one.name, std::make_shared<const Readings>(one.steps.back()));
    out.viewpoints = [all, &drawer, &remarks, &progress](const ViewpointFigure& figure) {
        auto wish = all;
        for (const auto* one : figure.viewpoints)
            wish.viewpoints.push_back(*one);
        wish.caseName = figure.caseName;
        wish.step = figure.step;
        wish.block = figure.block;
        auto made = drawer.draw(wish, progress);
        if (made)
            return std::move(*made);
        remarks.push_back(fmt::format("picture {}: {}", figure.viewpoints.front()->name, made.error().what));
        return withoutPicture(made.error().what);
    };
    return out;
}

} // namespace pyro

#include "app/stages/gauges/gauge_actions.h"
#include "app/stages/gauges/gauge_page.h"
#include "app/stages/gauges/gauges_sheet.h"
#include "app/stages/stage_desk.h"
#include "app/viewport/viewport.h"
#include "render/verdict_mark.h"

namespace pyro {
namespace {

QWidget* buildGauges(StageDesk& desk, QWidget* parent) {
    auto* sheet = new GaugesSheet(desk.session(), parent);
    QObject::connect(sheet, &GaugesSheet::pointRequested, sheet,
                     [&desk] { desk.viewport().placer().begin(GaugePlacer::Shape::Spot); });
    QObject::connect(sheet, &GaugesSheet::lineRequested, sheet, [&desk] { desk.run("lineGauge"); });
    QObject::connect(sheet, &GaugesSheet::surfaceRequested, sheet, [&desk] { desk.run("surfaceGauge"); });
    QObject::connect(sheet, &GaugesSheet::removeRequested, sheet, [&desk] { desk.run("removeGauge"); });
    return sheet;
}

QWidget* buildGaugePage(StageDesk& desk, QWidget* parent) {
    auto* page = new GaugePage(desk.session(), parent);
    QObject::connect(page, &GaugePage::heatFlowDiagramRequested, page, [&desk] { desk.run("heatFlowDiagram"); });
    QObject::connect(page, &GaugePage::exportRequested, page, [&desk] { desk.run("exportGauges"); });
    QObject::connect(page, &GaugePage::removeRequested, page, [&desk] { desk.run("removeGauge"); });
    QObject::connect(page, &GaugePage::placeRequested, page,
                     [&desk](const Point& place) { desk.session().selection().markPlace(place); });
    auto& chart = page->chart();
    QObject::connect(&chart, &ChartPanel::exportRequested, page, [&desk] { desk.run("exportChart"); });
    QObject::connect(&chart, &ChartPanel::titleRequested, page,
                     [&desk](const QString& which) { titleChart(desk, which); });
    QObject::connect(&chart, &ChartPanel::limitsRequested, page,
                     [&desk](const QString& which) { limitChart(desk, which); });
    return page;
}

// Gauges that cannot be read.
StageBadge badgeOfGauges(const Session& session) {
    const auto* state = session.activeCase();
    if (state == nullptr || !state->readings)
        return {};
    const auto unread = std::ranges::count_if(state->readings->gauges,
                                              [](const GaugeReading& gauge) { return !gauge.read(); });
    return {static_cast<int>(unread), verdictColour(Verdict::Unknown)};
}

} // namespace

constexpr Stage gaugesStage{
    .id = "Gauges",
    .icon = "gauges",
    .key = 4,
    .sheet = buildGauges,
    .ledgerPage = buildGaugePage,
    .actions = gaugeActions,
    .badge = badgeOfGauges,
    .wantedMost = {"<b>Read a place</b>: P at the cursor, L along a line by two clicks",
                   "<b>Read a part, boundary or section, psi or chi</b>: <i>Part, boundary, section \u2026</i>",
                   "<b>Change a gauge</b>: choose its row; the editor is to the left, its ends are dragged in the "
                   "viewport"},
    .help = "<p>P sets a gauge at the place under the cursor, L one along a line by two clicks, Shift+L one from the "
            "surface under the cursor straight into its part. Parts, boundaries, sections, places where two parts "
            "touch, isotherms, surfaces from files and formulas are in the menu above the editor.</p><p>Every gauge is "
            "read on all open cases and steps. The chart draws the chosen one, or those that are ticked in its menu; "
            "point at a curve to see the place in the viewport, and at the line in the viewport to see it on the "
            "curve. What cannot be read says why in its row.</p>",
    .needsBalances = true,
    .needsHistories = [](const Survey& survey) { return !survey.gauges.empty(); },
    .showsGauges = true,
    .showsMarkedPlace = true,
};

} // namespace pyro

#include "app/stages/limits/limit_actions.h"
#include "app/stages/limits/limits_page.h"
#include "app/stages/limits/limits_sheet.h"
#include "app/stages/stage_desk.h"
#include "render/verdict_mark.h"

namespace pyro {
namespace {

QWidget* buildLimits(StageDesk& desk, QWidget* parent) {
    auto* sheet = new LimitsSheet(desk.session(), parent);
    QObject::connect(sheet, &LimitsSheet::importRequested, sheet, [&desk] { desk.run("importLimits"); });
    QObject::connect(sheet, &LimitsSheet::isothermRequested, sheet, [&desk] { desk.run("limitIsotherm"); });
    QObject::connect(sheet, &LimitsSheet::removeRequested, sheet, [&desk] { desk.run("removeLimit"); });
    return sheet;
}

QWidget* buildLimitsPage(StageDesk& desk, QWidget* parent) {
    auto* page = new LimitsPage(desk.session(), parent);
    QObject::connect(page, &LimitsPage::placeChosen, page,
                     [&desk](const QString& part, const Point& place) { desk.goTo(part, place); });
    QObject::connect(page, &LimitsPage::exportRequested, page, [&desk] { desk.run("exportLimits"); });
    return page;
}

// Limits that are over, else those that cannot be judged, of all cases.
StageBadge badgeOfLimits(const Session& session) {
    const auto* state = session.activeCase();
    if (state == nullptr || !state->readings)
        return {};
    auto count = countOfCases(session.verdictsOfCases());
    const auto worst = count[Verdict::Over] > 0 ? Verdict::Over : Verdict::Unknown;
    return {count[worst], verdictColour(worst)};
}

} // namespace

constexpr Stage limitsStage{
    .id = "Limits",
    .icon = "limits",
    .key = 5,
    .sheet = buildLimits,
    .ledgerPage = buildLimitsPage,
    .actions = limitActions,
    .badge = badgeOfLimits,
    .wantedMost = {"<b>Set a limit</b>: <i>New limit</i>, then the part and the maximum; a bare number has the unit on "
                   "display",
                   "<b>Import the component list</b>: <i>Import\u2026</i>",
                   "<b>Another ambient or power</b>: the card <i>Other ambient temperature</i>"},
    .help = "<p>Double-click a cell to edit: allowed maximum as a temperature (110 degC), required margin as a "
            "difference (10 K), source as text. Choosing a row isolates its part at its hottest stored place.</p>"
            "<p>The card of the chosen limit makes it one on a boundary or a gauge, or on a rise, a gradient, a "
            "difference, a share or a time above a level. Other ambient temperature estimates every limit at another "
            "ambient and power. A transient is judged by its worst step.</p>",
    .needsBalances = true,
    .needsHistories = [](const Survey& survey) { return !survey.limits.empty(); },
    .showsVerdicts = true,
};

} // namespace pyro

#include "app/stages/stage_desk.h"
#include "app/stages/trust/trust_actions.h"
#include "app/stages/trust/trust_page.h"
#include "app/stages/trust/trust_sheet.h"
#include "render/verdict_mark.h"

namespace pyro {
namespace {

void goTo(StageDesk& desk, const Check& check) {
    if (check.at && !check.part.empty())
        desk.goTo(QString::fromStdString(check.part), *check.at);
}

QWidget* buildTrust(StageDesk& desk, QWidget* parent) {
    auto* sheet = new TrustSheet(desk.session(), parent);
    QObject::connect(sheet, &TrustSheet::placeRequested, sheet, [&desk](const Check& check) { goTo(desk, check); });
    QObject::connect(sheet, &TrustSheet::findingRequested, sheet,
                     [&desk](const Check& check) { raiseFrom(desk, check); });
    return sheet;
}

QWidget* buildTrustPage(StageDesk& desk, QWidget* parent) {
    auto* page = new TrustPage(desk.session(), parent);
    QObject::connect(page, &TrustPage::chosen, static_cast<TrustSheet*>(desk.sheetOf(trustStage)), &TrustSheet::choose);
    QObject::connect(page, &TrustPage::placeRequested, page, [&desk](const Check& check) { goTo(desk, check); });
    QObject::connect(page, &TrustPage::exportRequested, page, [&desk] { desk.run("exportFindings"); });
    QObject::connect(page, &TrustPage::findingRequested, page,
                     [&desk](const Finding& finding) { showFinding(desk.session(), finding); });
    return page;
}

// Checks that failed, else those to be looked at.
StageBadge badgeOfTrust(const Session& session) {
    const auto checks = session.checks();
    if (const auto failed = std::ranges::count(checks, CheckState::Failed, &Check::state); failed > 0)
        return {static_cast<int>(failed), verdictColour(Verdict::Over)};
    return {static_cast<int>(std::ranges::count(checks, CheckState::Review, &Check::state)),
            verdictColour(Verdict::Tight)};
}

} // namespace

constexpr Stage trustStage{
    .id = "Trust",
    .icon = "trust",
    .key = 2,
    .sheet = buildTrust,
    .ledgerPage = buildTrustPage,
    .actions = trustActions,
    .badge = badgeOfTrust,
    .wantedMost = {"<b>See what failed</b>: it stands first; choose the row for what it means",
                   "<b>Go to the place</b>: double-click the row", "<b>Keep it for follow-up</b>: R raises a finding"},
    .help = "<p>Checks of the case before anyone believes it: values that are plausible, heat and mass that balance, "
            "parts that touch where they should, a mesh that is fine enough, limits that can be judged. What failed "
            "stands first. Choosing a row tells what it means and marks its place and its cells; a double click goes "
            "there. Raise a finding keeps it for follow-up, with this view.</p><p>A case that is still being computed "
            "is watched: new steps and lines of its history come in by themselves.</p>",
    .needsBalances = true,
    .needsHistories = [](const Survey&) { return true; },
    .judgesSettling = true,
    .showsMarkedCells = true,
    .showsMarkedPlace = true,
};

} // namespace pyro

// What is done about the trust in a case: findings, the heat flow diagram, following a case that is still computed.
#include "app/stages/trust/trust_actions.h"

#include "app/session/dialogs.h"
#include "app/stages/stage_desk.h"
#include "app/stages/trust/heat_flow_dialog.h"
#include "app/stages/trust/trust_page.h"
#include "core/report/tables/table.h"
#include "core/survey/edit.h"

namespace pyro {
namespace {

Severity severityOf(CheckState state) {
    return state == CheckState::Failed   ? Severity::Serious
           : state == CheckState::Review ? Severity::Warning
                                         : Severity::Note;
}

Finding findingHere(const Session& session) {
    Finding finding;
    if (const auto* entry = session.activeEntry())
        finding.caseName = entry->name;
    if (const auto* state = session.activeCase(); state != nullptr && state->series.steps.size() > 1)
        finding.step = state->step;
    finding.view = session.view();
    return finding;
}

void raiseFinding(StageDesk& desk) {
    auto& session = desk.session();
    auto finding = findingHere(session);
    finding.part = session.selection().selectedPart();
    finding.at = session.selection().markedPlace();
    const auto text = dialogs::askText(desk.dialogParent(), "Raise a finding", "What is to be followed up?", {});
    if (!text || text->trimmed().isEmpty())
        return;
    finding.text = text->trimmed().toStdString();
    session.edit("Raise finding", withFinding(session.survey(), finding));
}

void showHeatFlowDiagram(StageDesk& desk) {
    auto& session = desk.session();
    auto* dialog = new HeatFlowDialog(session, desk.dialogParent());
    QObject::connect(dialog, &HeatFlowDialog::exportRequested, dialog, [&desk, dialog] {
        const auto file = dialogs::saveFile(desk.dialogParent(), "Save heat flow diagram",
                                            desk.proposal("-heat-map.svg"), "Pictures (*.svg *.png *.pdf)");
        if (!file.isEmpty())
            desk.tellWritten(dialog->write(file), file);
    });
    session.wantBalances();
    dialog->show();
}

} // namespace

std::span<const StageAction> trustActions() {
    static constexpr std::array actions{
        StageAction{"raiseFinding", "Raise a finding\u2026", "R", StageMenu::Survey, raiseFinding},
        StageAction{"exportFindings", "Export findings\u2026", "", StageMenu::Survey,
                    [](StageDesk& desk) { exportTable(desk, findingsTable, "Export findings", "-findings.csv"); }},
        StageAction{"heatFlowDiagram", "Heat flow diagram", "M", StageMenu::Survey, showHeatFlowDiagram},
        StageAction{.id = "watchCase",
                    .text = "Watch the case for new steps",
                    .keys = "",
                    .menu = StageMenu::Survey,
                    .run = [](StageDesk& desk) { desk.session().setWatching(!desk.session().isWatching()); },
                    .isOn = [](const Session& session) { return session.isWatching(); }},
    };
    return actions;
}

void raiseFrom(StageDesk& desk, const Check& check) {
    auto& session = desk.session();
    auto finding = findingHere(session);
    finding.text = check.title + ": " + check.figure;
    finding.severity = severityOf(check.state);
    finding.check = check.key;
    finding.part = check.part;
    finding.at = check.at;
    session.edit("Raise finding", withFinding(session.survey(), finding));
    static_cast<TrustPage*>(desk.ledgerPageOf(trustStage))->showFindings();
}

void showFinding(Session& session, const Finding& finding) {
    if (finding.view) {
        auto view = *finding.view;
        view.stage = session.view().stage;
        if (session.survey().caseNamed(finding.caseName) != nullptr)
            view.caseName = finding.caseName;
        view.step = finding.step;
        session.editView("Look at finding", view);
        if (view.camera)
            session.moveCamera(*view.camera);
    }
    session.selection().markPlace(finding.at);
}

} // namespace pyro

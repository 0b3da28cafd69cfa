// What the window does about limits, findings and the heat flow diagram.
#include "app/main_window.h"

#include "app/ledger/heat_flow_dialog.h"
#include "app/ledger/trust_page.h"
#include "app/session/dialogs.h"
#include "app/stages/limits/limit_import_dialog.h"
#include "core/report/tables/table_writers.h"
#include "core/survey/edit.h"

#include <QFileInfo>
#include <fmt/format.h>

namespace pyro {
namespace {

// As file dialogs take it: a line for each form of tables.
QString tableFilter() {
    QStringList lines;
    for (const auto& format : tableFormats())
        lines.append(QString("%1 (*%2)").arg(q(format.title), q(format.ending)));
    return lines.join(";;");
}

LimitNames namesOf(const Session& session) {
    LimitNames names;
    const auto* entry = session.activeEntry();
    if (const auto* state = session.activeCase(); state != nullptr && state->opened) {
        for (const auto& part : state->opened->solved->parts) {
            const auto label = shownName(*entry, part.name);
            names.parts.emplace(part.name, label == part.name ? std::string() : label);
        }
        for (const auto& boundary : state->opened->solved->boundaries) {
            const auto note = entry->boundaries.find(boundary.name);
            names.boundaries.emplace(boundary.name,
                                     note == entry->boundaries.end() ? std::string() : note->second.label);
        }
    }
    for (const auto& gauge : session.survey().gauges)
        names.gauges.push_back(gauge.id);
    return names;
}

Severity severityOf(CheckState state) {
    return state == CheckState::Failed   ? Severity::Serious
           : state == CheckState::Review ? Severity::Warning
                                         : Severity::Note;
}

} // namespace

void MainWindow::importLimits() {
    const auto name = dialogs::openFile(this, "Import limits", "Tables (*.csv *.txt *.xlsx *.ods)");
    if (name.isEmpty())
        return;
    auto sheets = readSheets(name.toStdString());
    if (!sheets)
        return showMessage(sheets.error());
    auto* dialog = new LimitImportDialog(std::move(*sheets), namesOf(m_session), QFileInfo(name).fileName(), this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    connect(dialog, &QDialog::accepted, this, [this, dialog] {
        m_session.edit("Import limits", withImportedLimits(m_session.survey(), dialog->chosen()));
    });
    dialog->open();
}

void MainWindow::removeLimit() {
    const auto at = m_session.selection().selectedLimit();
    if (!at)
        return;
    m_session.selection().selectLimit(std::nullopt);
    m_session.edit("Remove limit", withoutLimit(m_session.survey(), *at));
}

void MainWindow::drawLimit() {
    const auto at = m_session.selection().selectedLimit();
    if (!at)
        return;
    const auto& limit = m_session.survey().limits[*at];
    const auto level = limit.max ? limit.max : limit.min;
    const bool temperature = isTemperatureLimit(limit);
    if (!temperature || !level)
        return m_session.complain({ErrorCode::NotSupported, "this limit is no temperature that a line could show",
                                   limit.target.name, "Choose a limit on the temperature of a part or boundary"});
    auto view = m_session.view();
    view.quantity = "temperature";
    view.component.clear();
    auto& values = view.field.isotherms.values["temperature"];
    const MarkSource source{MarkSource::Kind::Part, limit.target.name}; // follows the limit when it is changed
    const bool byName = limit.target.kind == TargetKind::Part;
    const bool drawn = byName ? values.marksOf == std::vector{source} : values.marks == std::vector{level->si};
    const bool off = view.field.isotherms.shown && drawn;
    values.marks.clear();
    values.marksOf.clear();
    if (!off && byName)
        values.marksOf = {source};
    else if (!off)
        values.marks = {level->si};
    view.field.isotherms.shown = !off;
    m_session.editView("Limit as isotherm", view);
}

void MainWindow::writeCsv() {
    const auto file = dialogs::saveFile(this, "Export verdicts", proposal("-limits.csv"), tableFilter());
    if (file.isEmpty())
        return;
    writeTableFile(limitsTable, file);
}

Finding MainWindow::findingHere() const {
    Finding finding;
    if (const auto* entry = m_session.activeEntry())
        finding.caseName = entry->name;
    if (const auto* state = m_session.activeCase(); state != nullptr && state->series.steps.size() > 1)
        finding.step = state->step;
    finding.view = m_session.view();
    return finding;
}

void MainWindow::raiseFrom(const Check& check) {
    auto finding = findingHere();
    finding.text = check.title + ": " + check.figure;
    finding.severity = severityOf(check.state);
    finding.check = check.key;
    finding.part = check.part;
    finding.at = check.at;
    m_session.edit("Raise finding", withFinding(m_session.survey(), finding));
    m_ledger->trust().showFindings();
}

void MainWindow::raiseFinding() {
    auto finding = findingHere();
    finding.part = m_session.selection().selectedPart();
    finding.at = m_session.selection().markedPlace();
    const auto text = dialogs::askText(this, "Raise a finding", "What is to be followed up?", {});
    if (!text || text->trimmed().isEmpty())
        return;
    finding.text = text->trimmed().toStdString();
    m_session.edit("Raise finding", withFinding(m_session.survey(), finding));
}

// Its case and step, seen as it was seen when it was raised.
void MainWindow::showFinding(const Finding& finding) {
    if (finding.view) {
        auto view = *finding.view;
        view.stage = m_session.view().stage;
        if (m_session.survey().caseNamed(finding.caseName) != nullptr)
            view.caseName = finding.caseName;
        view.step = finding.step;
        m_session.editView("Look at finding", view);
        if (view.camera)
            m_session.moveCamera(*view.camera);
    }
    m_session.selection().markPlace(finding.at);
}

void MainWindow::exportFindings() {
    const auto file = dialogs::saveFile(this, "Export findings", proposal("-findings.csv"), tableFilter());
    if (file.isEmpty())
        return;
    writeTableFile(findingsTable, file);
}

void MainWindow::showHeatFlowDiagram() {
    auto* dialog = new HeatFlowDialog(m_session, this);
    connect(dialog, &HeatFlowDialog::exportRequested, this, [this, dialog] {
        const auto file = dialogs::saveFile(this, "Save heat flow diagram", proposal("-heat-map.svg"),
                                            "Pictures (*.svg *.png *.pdf)");
        if (!file.isEmpty())
            tellWritten(dialog->write(file), file);
    });
    m_session.wantBalances();
    dialog->show();
}

} // namespace pyro

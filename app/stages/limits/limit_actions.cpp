// What is done about limits: imported, deleted, drawn as an isotherm, written.
#include "app/stages/limits/limit_actions.h"

#include "app/session/dialogs.h"
#include "app/stages/limits/limit_import_dialog.h"
#include "app/stages/stage_desk.h"
#include "core/report/tables/table.h"
#include "core/survey/edit.h"

#include <QFileInfo>

namespace pyro {
namespace {

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

void importLimits(StageDesk& desk) {
    auto& session = desk.session();
    const auto name = dialogs::openFile(desk.dialogParent(), "Import limits", "Tables (*.csv *.txt *.xlsx *.ods)");
    if (name.isEmpty())
        return;
    auto sheets = readSheets(name.toStdString());
    if (!sheets)
        return session.complain(sheets.error());
    auto* dialog = new LimitImportDialog(std::move(*sheets), namesOf(session), QFileInfo(name).fileName(),
                                         desk.dialogParent());
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    QObject::connect(dialog, &QDialog::accepted, dialog, [&session, dialog] {
        session.edit("Import limits", withImportedLimits(session.survey(), dialog->chosen()));
    });
    dialog->open();
}

void removeLimit(StageDesk& desk) {
    auto& session = desk.session();
    const auto at = session.selection().selectedLimit();
    if (!at)
        return;
    session.selection().selectLimit(std::nullopt);
    session.edit("Remove limit", withoutLimit(session.survey(), *at));
}

void drawLimit(StageDesk& desk) {
    auto& session = desk.session();
    const auto at = session.selection().selectedLimit();
    if (!at)
        return;
    const auto& limit = session.survey().limits[*at];
    const auto level = limit.max ? limit.max : limit.min;
    const bool temperature = isTemperatureLimit(limit);
    if (!temperature || !level)
        return session.complain({ErrorCode::NotSupported, "this limit is no temperature that a line could show",
                                 limit.target.name, "Choose a limit on the temperature of a part or boundary"});
    auto view = session.view();
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
    session.editView("Limit as isotherm", view);
}

} // namespace

std::span<const StageAction> limitActions() {
    static constexpr std::array actions{
        StageAction{"limitIsotherm", "Show or hide the chosen limit as an isotherm", "", StageMenu::None, drawLimit},
        StageAction{"removeLimit", "Delete the chosen limit", "", StageMenu::None, removeLimit},
        StageAction{"importLimits", "Import limits from a table\u2026", "", StageMenu::Survey, importLimits},
        StageAction{"exportLimits", "Export verdicts\u2026", "", StageMenu::Survey,
                    [](StageDesk& desk) { exportTable(desk, limitsTable, "Export verdicts", "-limits.csv"); }},
    };
    return actions;
}

} // namespace pyro

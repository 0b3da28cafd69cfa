#include "app/stages/stage_desk.h"

#include "app/session/dialogs.h"
#include "core/report/tables/table_writers.h"
#include "render/text.h"

namespace pyro {
namespace {

// As file dialogs take it: a line for each form of tables.
QString tableFilter() {
    QStringList lines;
    for (const auto& format : tableFormats())
        lines.append(QString("%1 (*%2)").arg(q(format.title), q(format.ending)));
    return lines.join(";;");
}

} // namespace

void writeTableFile(StageDesk& desk, const TableKind& table, const QString& file) {
    auto& session = desk.session();
    const auto run = session.openRun();
    desk.tellWritten(writeTable(table, {session.survey(), run, session.view().unit}, file.toStdString()), file);
}

void exportTable(StageDesk& desk, const TableKind& table, const QString& title, const QString& ending) {
    const auto file = dialogs::saveFile(desk.dialogParent(), title, desk.proposal(ending), tableFilter());
    if (!file.isEmpty())
        writeTableFile(desk, table, file);
}

} // namespace pyro

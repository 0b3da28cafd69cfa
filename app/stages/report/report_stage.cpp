#include "app/stages/report/report_sheet.h"
#include "app/stages/report/report_view.h"
#include "app/stages/stage_desk.h"

namespace pyro {
namespace {

ReportSheet& sheetOf(StageDesk& desk) { return *static_cast<ReportSheet*>(desk.sheetOf(reportStage)); }

std::span<const StageAction> reportActions() {
    static constexpr std::array actions{
        StageAction{"exportReport", "Export report\u2026", "Ctrl+P", StageMenu::Survey,
                    [](StageDesk& desk) {
                        desk.showStage(reportStage.id);
                        sheetOf(desk).exportReport();
                    }},
    };
    return actions;
}

} // namespace

constexpr Stage reportStage{
    .id = "Report",
    .icon = "report",
    .key = 7,
    .sheet = [](StageDesk& desk, QWidget* parent) -> QWidget* { return new ReportSheet(desk, parent); },
    .page = [](StageDesk& desk, QWidget* parent) -> QWidget* { return new ReportView(sheetOf(desk), parent); },
    .actions = reportActions,
    .wantedMost = {"<b>Export the report</b>: Ctrl+P; PDF, ODT, HTML, Markdown or spreadsheet by the file's ending",
                   "<b>Add a block</b>: <i>Add</i> below the list; drag it to its place, untick what is left out",
                   "<b>Use a template</b>: <i>Template</i>; the same list of blocks on the next survey"},
    .help =
        "<p>The pages are those that will be printed. A click on a page chooses the block that made what stands "
        "there; below the list is what can be set up of it. Right-click a table, a figure or a text to copy it.</p>"
        "<p>Pictures are viewpoints drawn anew for paper: keep them under Field. In texts, <i>{{T_amp}}</i> is the "
        "value of the gauge T_amp.</p><p>Ctrl and wheel: larger and smaller. Alt+Up, Alt+Down: move the block. Del: "
        "delete it.</p>",
    .mouseHelp = false,
    .needsBalances = true,
    .needsHistories = [](const Survey&) { return true; }, // verdicts are the worst over all steps, charts run over them
};

} // namespace pyro

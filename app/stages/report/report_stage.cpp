#include "app/stages/report/report_sheet.h"
#include "app/stages/report/report_view.h"
#include "app/stages/stage_desk.h"

namespace pyro {
namespace {

QWidget* buildReport(StageDesk& desk, QWidget* parent) {
    auto* sheet = new ReportSheet(desk.session(), parent);
    QObject::connect(sheet, &ReportSheet::pdfRequested, sheet, [&desk] { desk.run("writePdf"); });
    QObject::connect(sheet, &ReportSheet::csvRequested, sheet, [&desk] { desk.run("exportLimits"); });
    return sheet;
}

std::span<const StageAction> reportActions() {
    static constexpr std::array actions{
        StageAction{"writePdf", "Export report as PDF\u2026", "Ctrl+P", StageMenu::Survey,
                    [](StageDesk& desk) {
                        desk.showStage(reportStage.id);
                        static_cast<ReportView*>(desk.pageOf(reportStage))->writePdf();
                    }},
    };
    return actions;
}

} // namespace

constexpr Stage reportStage{
    .id = "Report",
    .icon = "report",
    .key = 7,
    .sheet = buildReport,
    .page = [](StageDesk& desk, QWidget* parent) -> QWidget* { return new ReportView(desk, parent); },
    .actions = reportActions,
    .wantedMost = {"<b>Export the page</b>: Ctrl+P",
                   "<b>Change the picture</b>: go back to Field or Limits and turn it; it is taken as you leave",
                   "<b>Export the tables</b>: <i>Export CSV\u2026</i>"},
    .help = "<p>The page holds the case, the picture as you left it, and the verdicts. PDF and CSV hold the same "
            "readings as the window.</p>",
    .mouseHelp = false,
    .needsBalances = true,
};

} // namespace pyro

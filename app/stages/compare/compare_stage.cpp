#include "app/stages/compare/compare_area.h"
#include "app/stages/compare/compare_page.h"
#include "app/stages/compare/compare_sheet.h"
#include "app/stages/compare/set_up/set_up.h"
#include "app/stages/stage_desk.h"
#include "core/report/tables/table.h"

namespace pyro {
namespace {

QWidget* buildComparePage(StageDesk& desk, QWidget* parent) {
    auto* page = new ComparePage(desk.session(), parent);
    QObject::connect(page, &ComparePage::exportRequested, page, [&desk] { desk.run("exportCompare"); });
    QObject::connect(page, &ComparePage::setUpRequested, page, [&desk](const QString& what) { desk.run(what); });
    return page;
}

void showAs(StageDesk& desk, CompareShow how) {
    desk.showStage(compareStage.id);
    auto view = desk.session().view();
    view.compare.show = how;
    desk.session().editView("Show cases", view);
}

std::span<const StageAction> compareActions() {
    static constexpr std::array actions{
        StageAction{"compareSideBySide", "Cases side by side", "", StageMenu::View,
                    [](StageDesk& desk) { showAs(desk, CompareShow::SideBySide); }},
        StageAction{"compareWipe", "Wipe between cases", "", StageMenu::View,
                    [](StageDesk& desk) { showAs(desk, CompareShow::Wipe); }},
        StageAction{"compareDifference", "Difference from the baseline", "Ctrl+Shift+D", StageMenu::View,
                    [](StageDesk& desk) { showAs(desk, CompareShow::Difference); }},
        StageAction{"compareMeasured", "Measured data beside the cases", "", StageMenu::View,
                    [](StageDesk& desk) { showAs(desk, CompareShow::Measured); }},
        StageAction{"compareSweep", "Picture of the sweep", "", StageMenu::View,
                    [](StageDesk& desk) { showAs(desk, CompareShow::Sweep); }},
        StageAction{"setUpGrids", "Meshes of one case\u2026", "", StageMenu::Survey, showGridsForm, true},
        StageAction{"addMeasured", "Measured data\u2026", "", StageMenu::Survey, showMeasuredForm},
        StageAction{"setUpSweep", "Sweep\u2026", "", StageMenu::Survey, showSweepForm},
        StageAction{"placeCase", "Placement of a case\u2026", "", StageMenu::Survey, showPlacementForm},
        StageAction{"exportCompare", "Export comparison\u2026", "", StageMenu::Survey,
                    [](StageDesk& desk) { exportTable(desk, compareTable, "Export comparison", ".compare.csv"); }},
    };
    return actions;
}

} // namespace

constexpr Stage compareStage{
    .id = "Compare",
    .icon = "compare",
    .key = 6,
    .sheet = [](StageDesk& desk, QWidget* parent) -> QWidget* { return new CompareSheet(desk.session(), parent); },
    .ledgerPage = buildComparePage,
    .panes = [](StageDesk& desk, QWidget* parent) -> QWidget* { return new CompareArea(desk.session(), parent); },
    .actions = compareActions,
    .wantedMost = {"<b>What got worse</b>: the table, worse first",
                   "<b>Where it differs</b>: <i>Difference</i> (Ctrl+Shift+D)",
                   "<b>Another baseline</b>: the list at the top of the sheet"},
    .help = "<p>Every gauge, every limit and the hottest place of every part stands beside the baseline's. Pictures "
            "share camera, range, sections and time; the value under the mouse is told in all of them.</p>"
            "<p>A difference is case minus baseline at the same places, on any meshes; parts are matched by name, and "
            "what has no partner is hatched.</p>",
    .needsBalances = true,
    .needsHistories = [](const Survey& survey) { return !survey.measured.empty(); },
    .showsCompared = true,
};

} // namespace pyro

#include "app/stages/cases/cases_page.h"
#include "app/stages/cases/cases_sheet.h"
#include "app/stages/stage_desk.h"
#include "render/verdict_mark.h"

namespace pyro {
namespace {

QWidget* buildCases(StageDesk& desk, QWidget* parent) {
    auto* sheet = new CasesSheet(desk.session(), parent);
    QObject::connect(sheet, &CasesSheet::openRequested, sheet, [&desk] { desk.run("openCase"); });
    QObject::connect(sheet, &CasesSheet::folderRequested, sheet, [&desk] { desk.run("openFolder"); });
    QObject::connect(sheet, &CasesSheet::heatRequested, sheet, [&desk](const QString& boundary) {
        desk.showStage(gaugesStage.id);
        desk.session().addHeatThrough(boundary.toStdString());
    });
    return sheet;
}

// Cases that could not be read, and remarks that are more than a note.
StageBadge badgeOfCases(const Session& session) {
    int broken = 0;
    for (const auto& entry : session.survey().cases) {
        const auto* state = session.stateOf(entry);
        broken += state != nullptr && state->error ? 1 : 0;
    }
    const auto* state = session.activeCase();
    int serious = 0;
    if (state != nullptr && state->readings)
        serious = static_cast<int>(std::ranges::count_if(
            state->readings->remarks, [](const Remark& remark) { return remark.severity != Severity::Note; }));
    return {broken + serious, verdictColour(broken > 0 ? Verdict::Over : Verdict::Tight)};
}

} // namespace

constexpr Stage casesStage{
    .id = "Cases",
    .icon = "cases",
    .key = 1,
    .sheet = buildCases,
    .ledgerPage = [](StageDesk& desk, QWidget* parent) -> QWidget* { return new CasesPage(desk.session(), parent); },
    .badge = badgeOfCases,
    .wantedMost = {"<b>Open a result</b>: Ctrl+O; several files at once open all",
                   "<b>Correct a unit, name or material</b>: double-click its cell in the tables below",
                   "<b>See whether the file was read whole</b>: table <i>Remarks</i>"},
    .help = "<p>Ctrl+O opens a case: VTK files of any kind, XDMF, Exodus II, VTK HDF, surfaces. Labels, kinds, "
            "materials, powers and units are corrected in the table below and kept in the survey.</p>",
    .picksBoundaries = true,
};

} // namespace pyro

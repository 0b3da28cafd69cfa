// What is done about gauges: placing, taking away, decimals, files of tables and of the chart.
#include "app/stages/gauges/gauge_actions.h"

#include "app/session/dialogs.h"
#include "app/stages/stage_desk.h"
#include "app/viewport/viewport.h"
#include "charts/chart_writer.h"
#include "core/gauge/where_shape.h"
#include "core/report/readings_json.h"
#include "core/report/tables/table.h"
#include "core/survey/gauge_edit.h"
#include "core/survey/survey_file.h"

#include <cmath>

namespace pyro {
namespace {

// At the cursor at once, where it is over something; else by the next click.
void placePoint(StageDesk& desk) {
    auto& session = desk.session();
    desk.showStage(gaugesStage.id);
    if (const auto place = desk.viewport().placeAtCursor())
        session.addGauge(pointWhere(*place));
    else
        desk.viewport().placer().begin(GaugePlacer::Shape::Spot);
}

void placeLine(StageDesk& desk) {
    desk.showStage(gaugesStage.id);
    desk.viewport().placer().begin(GaugePlacer::Shape::Line);
}

// From the surface under the cursor straight into its part, to the far side of it.
void lineIntoPart(StageDesk& desk) {
    auto& session = desk.session();
    const auto place = desk.viewport().placeAtCursor();
    const auto normal = desk.viewport().normalAtCursor();
    const auto part = desk.viewport().partAtCursor();
    const auto* state = session.activeCase();
    if (!place || !normal || !part || state == nullptr)
        return session.complain({ErrorCode::NotSupported, "there is no surface under the cursor", "line",
                                 "Move the cursor over a visible part, then press Shift+L"});
    const auto& box = state->opened->index->parts[*part].box;
    double reach = 1e300; // where the line leaves the part's box
    for (std::size_t axis = 0; axis < 3; ++axis)
        if (const double along = -(*normal)[axis]; std::abs(along) > 1e-9)
            reach = std::min(reach, ((along > 0 ? box[2 * axis + 1] : box[2 * axis]) - (*place)[axis]) / along);
    auto to = *place;
    for (std::size_t axis = 0; axis < 3; ++axis)
        to[axis] -= std::max(reach, 1e-6) * (*normal)[axis];
    desk.showStage(gaugesStage.id);
    session.addGauge(lineWhere(*place, to));
}

void removeGauge(StageDesk& desk) {
    auto& session = desk.session();
    if (const auto at = session.selection().selectedGaugeAt())
        session.edit("Delete gauge", withoutGauge(session.survey(), *at));
}

void addSurfaceGauge(StageDesk& desk) {
    auto& session = desk.session();
    const auto file = dialogs::openFile(desk.dialogParent(), "Surface to read values on",
                                        "Surfaces (*.stl *.obj *.ply)");
    if (file.isEmpty())
        return;
    const auto unit = dialogs::askText(desk.dialogParent(), "Surface", "Unit of its lengths", "mm");
    if (!unit)
        return;
    const auto folder = std::filesystem::path(session.file().toStdString()).parent_path();
    const auto path = std::filesystem::path(file.toStdString());
    const auto written = session.file().isEmpty() ? path : path.lexically_relative(folder);
    session.addGauge({{"surface", {{"file", written.string()}, {"unit", unit->toStdString()}}}});
}

void chooseDecimals(StageDesk& desk) {
    auto& session = desk.session();
    const auto text = dialogs::askText(
        desk.dialogParent(), "Decimals of all gauges",
        "0 to 9 (empty: as many as each value needs); those of one gauge are in its editor", "1");
    if (text)
        session.editOrComplain("Decimals of all gauges", withDecimals(session.survey(), text->trimmed().toStdString()));
}

void exportGauges(StageDesk& desk) {
    auto& session = desk.session();
    const auto file = dialogs::saveFile(desk.dialogParent(), "Export gauges", desk.proposal(".xlsx"),
                                        "Tables (*.xlsx *.csv *.json)");
    if (file.isEmpty())
        return;
    // JSON holds more than a table: all readings, as the command line writes them.
    if (file.endsWith(".json", Qt::CaseInsensitive))
        return desk.tellWritten(writeFileAtomically(file.toStdString(), runToJson(session.openRun()).dump(2) + "\n"),
                                file);
    writeTableFile(desk, gaugesTable, file);
}

void exportChart(StageDesk& desk) {
    auto& session = desk.session();
    const auto file = dialogs::saveFile(desk.dialogParent(), "Export chart", desk.proposal(".png"),
                                        "Charts (*.png *.svg *.pdf *.csv *.xlsx)");
    if (!file.isEmpty())
        desk.tellWritten(writeChart(session.chart(), chartOf(session.survey(), session.view().chart), file), file);
}

} // namespace

std::span<const StageAction> gaugeActions() {
    static constexpr std::array actions{
        StageAction{"pointGauge", "Gauge at the place under the cursor", "P", StageMenu::View, placePoint},
        StageAction{"lineGauge", "Gauge along a line, by two clicks", "L", StageMenu::View, placeLine},
        StageAction{"lineIntoPart", "Gauge along a line from the surface under the cursor straight into its part",
                    "Shift+L", StageMenu::View, lineIntoPart},
        StageAction{"surfaceGauge", "Gauge on a surface from a file\u2026", "", StageMenu::None, addSurfaceGauge},
        StageAction{"removeGauge", "Delete the chosen gauge", "", StageMenu::None, removeGauge},
        StageAction{"decimalsOfGauges", "Decimals of all gauges\u2026", "", StageMenu::Edit, chooseDecimals},
        StageAction{"exportGauges", "Export gauges\u2026", "", StageMenu::Survey, exportGauges},
        StageAction{"exportChart", "Export the chart of the gauges\u2026", "", StageMenu::Survey, exportChart},
    };
    return actions;
}

} // namespace pyro

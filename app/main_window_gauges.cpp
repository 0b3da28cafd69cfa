// What the actions of the stage Gauges do: placing, taking away, titles and files of the chart, tables.
#include "app/main_window.h"

#include "app/charts/chart_writer.h"
#include "app/ledger/gauge_page.h"
#include "app/session/dialogs.h"
#include "core/gauge/where_shape.h"
#include "core/report/readings_json.h"
#include "core/report/tables/table_writers.h"
#include "core/survey/gauge_edit.h"
#include "core/survey/survey_file.h"

#include <QFileInfo>
#include <QStatusBar>
#include <fmt/format.h>

namespace pyro {

// At the cursor at once, where it is over something; else by the next click.
void MainWindow::placePoint() {
    showStage(gaugesStage.id);
    if (const auto place = m_viewport->placeAtCursor())
        m_session.addGauge(pointWhere(*place));
    else
        m_viewport->placer().begin(GaugePlacer::Shape::Spot);
}

void MainWindow::placeLine() {
    showStage(gaugesStage.id);
    m_viewport->placer().begin(GaugePlacer::Shape::Line);
}

// From the surface under the cursor straight into its part, to the far side of it.
void MainWindow::lineIntoPart() {
    const auto place = m_viewport->placeAtCursor();
    const auto normal = m_viewport->normalAtCursor();
    const auto part = m_viewport->partAtCursor();
    const auto* state = m_session.activeCase();
    if (!place || !normal || !part || state == nullptr)
        return m_session.complain({ErrorCode::NotSupported, "there is no surface under the cursor", "line",
                                   "Move the cursor over a visible part, then press Shift+L"});
    const auto& box = state->opened->index->parts[*part].box;
    double reach = 1e300; // where the line leaves the part's box
    for (std::size_t axis = 0; axis < 3; ++axis)
        if (const double along = -(*normal)[axis]; std::abs(along) > 1e-9)
            reach = std::min(reach, ((along > 0 ? box[2 * axis + 1] : box[2 * axis]) - (*place)[axis]) / along);
    auto to = *place;
    for (std::size_t axis = 0; axis < 3; ++axis)
        to[axis] -= std::max(reach, 1e-6) * (*normal)[axis];
    showStage(gaugesStage.id);
    m_session.addGauge(lineWhere(*place, to));
}

void MainWindow::removeGauge() {
    if (const auto at = m_session.selection().selectedGaugeAt())
        m_session.edit("Delete gauge", withoutGauge(m_session.survey(), *at));
}

void MainWindow::addSurfaceGauge() {
    const auto file = dialogs::openFile(this, "Surface to read values on", "Surfaces (*.stl *.obj *.ply)");
    if (file.isEmpty())
        return;
    const auto unit = dialogs::askText(this, "Surface", "Unit of its lengths", "mm");
    if (!unit)
        return;
    const auto folder = std::filesystem::path(m_session.file().toStdString()).parent_path();
    const auto path = std::filesystem::path(file.toStdString());
    const auto written = m_session.file().isEmpty() ? path : path.lexically_relative(folder);
    m_session.addGauge({{"surface", {{"file", written.string()}, {"unit", unit->toStdString()}}}});
}

void MainWindow::chooseDecimals() {
    const auto text = dialogs::askText(
        this, "Decimals of all gauges",
        "0 to 9 (empty: as many as each value needs); those of one gauge are in its editor", "1");
    if (text)
        m_session.editOrComplain("Decimals of all gauges",
                                 withDecimals(m_session.survey(), text->trimmed().toStdString()));
}

void MainWindow::exportGauges() {
    const auto file = dialogs::saveFile(this, "Export gauges", proposal(".xlsx"), "Tables (*.xlsx *.csv *.json)");
    if (file.isEmpty())
        return;
    // JSON holds more than a table: all readings, as the command line writes them.
    if (file.endsWith(".json", Qt::CaseInsensitive))
        return tellWritten(writeFileAtomically(file.toStdString(), runToJson(m_session.openRun()).dump(2) + "\n"),
                           file);
    writeTableFile(gaugesTable, file);
}

void MainWindow::writeTableFile(const TableKind& table, const QString& file) {
    const auto run = m_session.openRun();
    tellWritten(writeTable(table, {m_session.survey(), run, m_session.view().unit}, file.toStdString()), file);
}

void MainWindow::exportChart() {
    const auto file = dialogs::saveFile(this, "Export chart", proposal(".png"),
                                        "Charts (*.png *.svg *.pdf *.csv *.xlsx)");
    if (!file.isEmpty())
        tellWritten(writeChart(m_session.chart(), chartOf(m_session.survey(), m_session.view().chart), file), file);
}

// Of one axis, as "20 to 90"; empty: by what is drawn.
void MainWindow::limitChart(const QString& which) {
    const auto at = m_session.view().chart;
    auto view = chartOf(m_session.survey(), at);
    auto& range = which == "x" ? view.xRange : view.yRange;
    const auto text = dialogs::askText(
        this, "Limits of the " + which + " axis",
        "From and to in the unit of the axis, for example 20 to 90 (empty: by what is drawn)",
        range ? QString("%1 to %2").arg((*range)[0], 0, 'g', 6).arg((*range)[1], 0, 'g', 6) : QString());
    if (!text)
        return;
    range.reset();
    if (!text->trimmed().isEmpty()) {
        const auto ends = text->split("to");
        bool good = ends.size() == 2;
        bool goodToo = good;
        const double low = good ? ends[0].trimmed().toDouble(&good) : 0;
        const double high = goodToo ? ends[1].trimmed().toDouble(&goodToo) : 0;
        if (!good || !goodToo || !(low < high))
            return m_session.complain({ErrorCode::Syntax,
                                       fmt::format("\"{}\" are no limits of an axis", text->toStdString()), "chart",
                                       "Write them like 20 to 90, the lower one first"});
        range = {low, high};
    }
    m_session.edit("Limits of an axis", withChart(m_session.survey(), view, at));
}

void MainWindow::titleChart(const QString& which) {
    const auto at = m_session.view().chart;
    auto view = chartOf(m_session.survey(), at);
    auto& title = which == "x" ? view.xTitle : which == "y" ? view.yTitle : view.title;
    const auto text = dialogs::askText(this, "Title of the chart",
                                       which == "title" ? "Title (empty: made by itself)"
                                                        : "Title of the axis (empty: made by itself)",
                                       QString::fromStdString(title));
    if (!text)
        return;
    title = text->trimmed().toStdString();
    m_session.edit("Title of the chart", withChart(m_session.survey(), view, at));
}

void MainWindow::tellWritten(const Done& written, const QString& file, const QString& size) {
    if (!written)
        showMessage(written.error());
    else
        statusBar()->showMessage("Written: " + file + size, 5000);
}

} // namespace pyro

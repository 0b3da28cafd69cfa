#include "app/charts/chart_writer.h"

#include "app/charts/chart_view.h"
#include "core/feedback/whole_file.h"
#include "core/report/xlsx.h"
#include "render/drawing_file.h"

#include <QFileInfo>

namespace pyro {
namespace {

constexpr int width = 900;
constexpr int height = 520;

bool paintPlot(QCustomPlot& plot, QPaintDevice& device, double scale) {
    QCPPainter painter;
    if (!painter.begin(&device))
        return false;
    painter.setMode(QCPPainter::pmVectorized);
    painter.scale(scale, scale);
    plot.toPainter(&painter, width, height);
    return painter.end();
}

} // namespace

Done writeChart(const ChartData& chart, const ChartView& view, const QString& file) {
    const auto ending = QFileInfo(file).suffix().toLower();
    if (ending == "csv")
        return writeFileAtomically(file.toStdString(), chartCsv(chart));
    if (ending == "xlsx")
        return writeChartXlsx(chart, file.toStdString());
    QCustomPlot plot;
    plot.resize(width, height);
    plot.setViewport(QRect(0, 0, width, height));
    plot.plotLayout()->insertRow(0);
    auto* title = new QCPTextElement(&plot, QString::fromStdString(chart.title));
    plot.plotLayout()->addElement(0, 0, title);
    drawChart(plot, chart, view);
    plot.replot();
    placeLegend(plot);
    if (ending == "svg" || ending == "pdf")
        return writeDrawing("the chart", file.toStdString(), {width, height},
                            [&](QPaintDevice& device, double scale) { return paintPlot(plot, device, scale); });
    if (ending == "png")
        return writePicture(plot.toPixmap(width, height, 2.0).toImage(), file.toStdString(), "the chart");
    return fail(ErrorCode::FormatUnknown, "a chart is written as .png, .svg, .pdf, .csv or .xlsx", file.toStdString(),
                "Choose one of these endings");
}

} // namespace pyro

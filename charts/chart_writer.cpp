#include "charts/chart_writer.h"

#include "charts/chart_drawing.h"
#include "core/feedback/whole_file.h"
#include "core/report/xlsx.h"
#include "render/drawing_file.h"
#include "render/page_figure.h"

#include <QFileInfo>

namespace pyro {
namespace {

bool paintPlot(QCustomPlot& plot, QPaintDevice& device, double scale) {
    QCPPainter painter;
    if (!painter.begin(&device))
        return false;
    painter.setMode(QCPPainter::pmVectorized);
    painter.scale(scale, scale);
    plot.toPainter(&painter, chartSize.width(), chartSize.height());
    return painter.end();
}

void setUp(QCustomPlot& plot, const ChartData& chart, const ChartView& view, bool titled) {
    plot.resize(chartSize);
    plot.setViewport(QRect({0, 0}, chartSize));
    if (titled) {
        plot.plotLayout()->insertRow(0);
        plot.plotLayout()->addElement(0, 0, new QCPTextElement(&plot, QString::fromStdString(chart.title)));
    }
    drawChart(plot, chart, view);
    plot.replot();
    placeLegend(plot);
}

} // namespace

ReportPicture chartFigure(const ChartData& chart, const ChartView& view) {
    QCustomPlot plot;
    setUp(plot, chart, view, false); // pages have their captions
    QPicture recorded;
    paintPlot(plot, recorded, 1);
    return figureOf(chartSize, recorded);
}

Done writeChart(const ChartData& chart, const ChartView& view, const QString& file) {
    const auto ending = QFileInfo(file).suffix().toLower();
    if (ending == "csv")
        return writeFileAtomically(file.toStdString(), chartCsv(chart));
    if (ending == "xlsx")
        return writeChartXlsx(chart, file.toStdString());
    QCustomPlot plot;
    setUp(plot, chart, view, true);
    if (ending == "svg" || ending == "pdf")
        return writeDrawing("the chart", file.toStdString(), chartSize,
                            [&](QPaintDevice& device, double scale) { return paintPlot(plot, device, scale); });
    if (ending == "png")
        return writePicture(plot.toPixmap(chartSize.width(), chartSize.height(), 2.0).toImage(), file.toStdString(),
                            "the chart");
    return fail(ErrorCode::FormatUnknown, "a chart is written as .png, .svg, .pdf, .csv or .xlsx", file.toStdString(),
                "Choose one of these endings");
}

} // namespace pyro

#include "app/charts/chart_writer.h"

#include "app/charts/chart_view.h"
#include "core/report/xlsx.h"
#include "core/survey/survey_file.h"

#include <QFileInfo>
#include <QSvgGenerator>

namespace pyro {
namespace {

constexpr int width = 900;
constexpr int height = 520;

Done writeSvg(QCustomPlot& plot, const QString& file) {
    QSvgGenerator generator;
    generator.setFileName(file);
    generator.setSize({width, height});
    generator.setViewBox(QRect(0, 0, width, height));
    QCPPainter painter;
    if (!painter.begin(&generator))
        return fail(ErrorCode::WriteFailed, "the picture cannot be written", file.toStdString(),
                    "Choose another folder");
    plot.toPainter(&painter, width, height);
    painter.end();
    return {};
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
    if (ending == "svg")
        return writeSvg(plot, file);
    const bool written = ending == "pdf"   ? plot.savePdf(file, width, height)
                         : ending == "png" ? plot.savePng(file, width, height, 2.0)
                                           : false;
    if (ending != "pdf" && ending != "png")
        return fail(ErrorCode::FormatUnknown, "a chart is written as .png, .svg, .pdf, .csv or .xlsx",
                    file.toStdString(), "Choose one of these endings");
    return written ? Done()
                   : fail(ErrorCode::WriteFailed, "the chart cannot be written", file.toStdString(),
                          "Choose another folder, or check its permissions and free space");
}

} // namespace pyro

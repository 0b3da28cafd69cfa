#include "charts/chart_drawing.h"

#include "render/colours.h"
#include "render/text.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>

namespace pyro {
namespace {

// Reference curves are thin and grey, and differ by their dash.
QPen referencePen(std::size_t reference) {
    static const std::array<Qt::PenStyle, 4> styles{Qt::DotLine, Qt::DashLine, Qt::DashDotDotLine, Qt::SolidLine};
    return QPen(theme::faint, reference < styles.size() ? 1.3 : 2, styles[reference % styles.size()]);
}

// Curves differ by colour and by dash, so that they hold in grey as well.
QPen penOf(std::size_t curve) {
    static const std::array<QColor, 6> colours{theme::ember,
                                               QColor(0x2A, 0x5D, 0x84),
                                               QColor(0x2A, 0x9D, 0x8F),
                                               QColor(0x7A, 0x4E, 0x8A),
                                               QColor(0xB0, 0x7D, 0x12),
                                               QColor(0x55, 0x5B, 0x62)};
    static const std::array<Qt::PenStyle, 3> styles{Qt::SolidLine, Qt::DashLine, Qt::DashDotLine};
    return QPen(colours[curve % colours.size()], 1.8, styles[curve / colours.size() % styles.size()]);
}

void styleAxis(QCPAxis& axis, bool logarithmic) {
    axis.setScaleType(logarithmic ? QCPAxis::stLogarithmic : QCPAxis::stLinear);
    if (logarithmic)
        axis.setTicker(QSharedPointer<QCPAxisTickerLog>::create());
    else
        axis.setTicker(QSharedPointer<QCPAxisTicker>::create());
    axis.setNumberFormat("g");
    axis.setNumberPrecision(5);
    axis.setBasePen(QPen(theme::line));
    axis.setTickPen(QPen(theme::line));
    axis.setSubTickPen(QPen(theme::line));
    axis.setTickLabelColor(theme::faint);
    axis.setLabelColor(theme::ink);
    axis.grid()->setPen(QPen(QColor(0xEE, 0xEA, 0xE3), 1));
    axis.grid()->setZeroLinePen(QPen(theme::line, 1));
    QFont small("Inter");
    small.setPixelSize(11);
    axis.setTickLabelFont(small);
    axis.setLabelFont(small);
    axis.setLabelPadding(2);
}

void drawMarks(QCustomPlot& plot, const ChartData& chart) {
    bool lower = false; // neighbours alternate, so that short stretches keep their names
    for (const auto& [x, name] : chart.marks) {
        auto* line = new QCPItemStraightLine(&plot);
        line->setPen(QPen(QColor(0xC9, 0xC2, 0xB6), 1, Qt::DashLine));
        // First what the numbers mean: a change of it keeps the pixels, which there are none of before the first
        // layout.
        line->point1->setTypeY(QCPItemPosition::ptAxisRectRatio);
        line->point2->setTypeY(QCPItemPosition::ptAxisRectRatio);
        line->point1->setCoords(x, 0);
        line->point2->setCoords(x, 1);
        auto* text = new QCPItemText(&plot);
        text->position->setTypeY(QCPItemPosition::ptAxisRectRatio);
        text->position->setCoords(x, lower ? 0.11 : 0.02);
        lower = !lower;
        text->setPositionAlignment(Qt::AlignLeft | Qt::AlignTop);
        text->setPadding(QMargins(3, 0, 0, 0));
        text->setText(q(name));
        text->setColor(theme::faint);
        QFont small("Inter");
        small.setPixelSize(10);
        text->setFont(small);
    }
}

// Significant digits by which neighbouring ticks of a range differ.
int digitsFor(const QCPRange& range) {
    const double most = std::max(std::abs(range.lower), std::abs(range.upper));
    if (!(range.size() > 0) || !(most > 0))
        return 5;
    return std::clamp(static_cast<int>(std::ceil(std::log10(most / range.size()))) + 2, 5, 12);
}

// A little room above and below; a curve that is constant but for rounding lies in the middle of a readable range.
void openUp(QCPAxis& axis) {
    const auto range = axis.range();
    const double most = std::max(std::abs(range.lower), std::abs(range.upper));
    if (range.size() > 1e-9 * most)
        return axis.scaleRange(1.1);
    const double room = most > 0 ? 0.01 * most : 1;
    axis.setRange(range.center() - room, range.center() + room);
}

} // namespace

void drawChart(QCustomPlot& plot, const ChartData& chart, const ChartView& view) {
    plot.clearGraphs();
    plot.clearItems();
    styleAxis(*plot.xAxis, view.logX);
    styleAxis(*plot.yAxis, view.logY);
    plot.xAxis->setLabel(q(chart.xTitle));
    plot.yAxis->setLabel(q(chart.yTitle));
    std::size_t references = 0;
    for (std::size_t i = 0; i < chart.curves.size(); ++i) {
        const auto& curve = chart.curves[i];
        auto* graph = plot.addGraph();
        graph->setData(QVector<double>(curve.x.begin(), curve.x.end()), QVector<double>(curve.y.begin(), curve.y.end()),
                       true);
        graph->setPen(curve.isReference ? referencePen(references++) : penOf(i));
        graph->setName(q(curve.title));
    }
    drawMarks(plot, chart);
    plot.rescaleAxes();
    if (!view.logY)
        openUp(*plot.yAxis);
    if (view.xRange)
        plot.xAxis->setRange((*view.xRange)[0], (*view.xRange)[1]);
    if (view.yRange)
        plot.yAxis->setRange((*view.yRange)[0], (*view.yRange)[1]);
    for (auto* axis : {plot.xAxis, plot.yAxis})
        axis->setNumberPrecision(digitsFor(axis->range()));
    plot.legend->setVisible(chart.curves.size() > 1);
    plot.legend->setBorderPen(Qt::NoPen);
    plot.legend->setBrush(QColor(255, 255, 255, 215));
    QFont small("Inter");
    small.setPixelSize(11);
    plot.legend->setFont(small);
    plot.legend->setTextColor(theme::ink);
    plot.legend->setRowSpacing(0);
}

void placeLegend(QCustomPlot& plot) {
    if (!plot.legend->visible())
        return;
    const auto size = plot.legend->minimumOuterSizeHint();
    const QRectF area = plot.axisRect()->rect();
    int fewest = std::numeric_limits<int>::max();
    Qt::Alignment best = Qt::AlignTop | Qt::AlignRight;
    for (const auto& corner : {Qt::AlignTop | Qt::AlignRight, Qt::AlignTop | Qt::AlignLeft,
                               Qt::AlignBottom | Qt::AlignRight, Qt::AlignBottom | Qt::AlignLeft}) {
        const QRectF box(corner & Qt::AlignRight ? area.right() - size.width() - 12 : area.left() + 12,
                         corner & Qt::AlignBottom ? area.bottom() - size.height() - 12 : area.top() + 12, size.width(),
                         size.height());
        int covered = 0;
        for (int i = 0; i < plot.graphCount(); ++i)
            for (const auto& point : *plot.graph(i)->data())
                covered += box.contains(
                               QPointF(plot.xAxis->coordToPixel(point.key), plot.yAxis->coordToPixel(point.value)))
                               ? 1
                               : 0;
        for (int i = 0; i < plot.itemCount(); ++i)
            if (const auto* text = qobject_cast<QCPItemText*>(plot.item(i)))
                covered += box.contains(text->position->pixelPosition()) ? 5 : 0;
        if (covered < fewest) {
            fewest = covered;
            best = corner;
        }
    }
    plot.axisRect()->insetLayout()->setInsetAlignment(0, best);
}

} // namespace pyro

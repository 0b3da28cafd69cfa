#include "app/stages/compare/measured_plot.h"

#include "app/theme/theme.h"
#include "core/units/unit.h"
#include "render/palette.h"
#include "render/text.h"

#include <QHelpEvent>
#include <QToolTip>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

// About zero, too warm in the simulation towards the warm end.
QCPColorGradient deviations() {
    QCPColorGradient gradient;
    gradient.clearColorStops();
    for (int i = 0; i <= 20; ++i) {
        const auto colour = paletteColour(PaletteName::Tide, i / 20.0);
        gradient.setColorStopAt(i / 20.0, QColor::fromRgbF(static_cast<float>(colour[0]), static_cast<float>(colour[1]),
                                                           static_cast<float>(colour[2])));
    }
    gradient.setNanHandling(QCPColorGradient::nhTransparent);
    return gradient;
}

QCPRange widened(const QCPRange& range) {
    const double size = range.size() > 0 ? range.size() : 1;
    return {range.lower - 0.08 * size, range.upper + 0.14 * size};
}

} // namespace

MeasuredPlot::MeasuredPlot(QWidget* parent) : QCustomPlot(parent) {
    setObjectName("measuredPlot");
    setMinimumWidth(330);
    for (auto* axis : {xAxis, yAxis}) {
        axis->setLabelFont(font());
        axis->setTickLabelFont(font());
        axis->grid()->setPen(QPen(theme::line, 1, Qt::DotLine));
    }
}

double MeasuredPlot::shown(double value) const {
    if (!m_reading.isTemperature)
        return value;
    return (*conversion("K", std::string(udunitsName(m_unit))))((*conversion(m_reading.unit, "K"))(value));
}

void MeasuredPlot::draw(const MeasuredReading& reading, const std::string& chosen, TemperatureUnit unit) {
    m_reading = reading;
    m_unit = unit;
    m_dots.clear();
    clearPlottables();
    clearItems();
    yAxis->setRangeReversed(false);
    m_isPicture = reading.picture != nullptr;
    if (m_isPicture) {
        drawPicture();
        return replot();
    }
    std::string name = chosen;
    std::size_t timed = 0;
    for (const auto& point : reading.points)
        if (point.time && point.deviation) {
            name = name.empty() ? point.name : name;
            ++timed;
        }
    const auto ofName = std::ranges::count_if(reading.points, [&](const MeasuredPoint& point) {
        return point.name == name && point.time && point.deviation;
    });
    if (timed > 0 && ofName > 1)
        drawOverTime(name);
    else
        drawAgainstEachOther();
    replot();
}

void MeasuredPlot::note(const QString& text) {
    auto* label = new QCPItemText(this);
    label->position->setType(QCPItemPosition::ptAxisRectRatio);
    label->position->setCoords(0.02, 0.02);
    label->setPositionAlignment(Qt::AlignLeft | Qt::AlignTop);
    label->setTextAlignment(Qt::AlignLeft);
    label->setText(text);
    label->setFont(font());
    label->setColor(theme::faint);
}

// Deviations pixel by pixel, the first row on top.
void MeasuredPlot::drawPicture() {
    const auto& picture = *m_reading.picture;
    auto* colours = new QCPColorMap(xAxis, yAxis);
    const auto columns = static_cast<int>(picture.columns);
    const auto rows = static_cast<int>(picture.rows);
    colours->data()->setSize(columns, rows);
    colours->data()->setRange(QCPRange(1, columns), QCPRange(1, rows));
    double most = 0;
    for (int row = 0; row < rows; ++row)
        for (int column = 0; column < columns; ++column) {
            const auto at = static_cast<std::size_t>(row) * picture.columns + static_cast<std::size_t>(column);
            const double deviation = picture.simulated[at] - picture.measured[at];
            colours->data()->setCell(column, row, deviation);
            most = std::fmax(most, std::abs(deviation));
        }
    colours->setGradient(deviations());
    colours->setInterpolate(false);
    colours->setDataRange(QCPRange(-most, most));
    colours->setTightBoundary(false);
    yAxis->setRangeReversed(true);
    xAxis->setLabel("column");
    yAxis->setLabel("row");
    xAxis->setRange(0, columns + 1);
    yAxis->setRange(-0.12 * rows, rows + 1);
    yAxis->setScaleRatio(xAxis, 1);
    note(q(fmt::format("simulated minus measured, \u00b1 {:.3g} {}", most, m_reading.differenceUnit)));
}

void MeasuredPlot::drawOverTime(const std::string& name) {
    auto* band = addGraph();
    auto* top = addGraph();
    auto* simulated = addGraph();
    auto* measured = addGraph();
    std::optional<QCPRange> x;
    std::optional<QCPRange> y;
    const auto reach = [](std::optional<QCPRange>& range, double value) {
        range = range ? range->expanded(QCPRange(value, value)) : QCPRange(value, value);
    };
    for (const auto& point : m_reading.points) {
        if (point.name != name || !point.time || !point.measured)
            continue;
        const double own = shown(*point.measured);
        measured->addData(*point.time, own);
        m_dots.push_back({*point.time, own, point.name});
        reach(x, *point.time);
        reach(y, own);
        if (point.uncertainty) {
            band->addData(*point.time, shown(*point.measured - *point.uncertainty));
            top->addData(*point.time, shown(*point.measured + *point.uncertainty));
            reach(y, shown(*point.measured - *point.uncertainty));
            reach(y, shown(*point.measured + *point.uncertainty));
        }
        if (point.simulated) {
            simulated->addData(*point.time, shown(*point.simulated));
            reach(y, shown(*point.simulated));
        }
    }
    band->setPen(Qt::NoPen);
    top->setPen(Qt::NoPen);
    band->setBrush(QColor(0x22, 0x26, 0x2B, 36));
    band->setChannelFillGraph(top);
    simulated->setPen(QPen(theme::ember, 2));
    measured->setLineStyle(QCPGraph::lsNone);
    measured->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, theme::ink, theme::ink, 5));
    if (x && y) {
        xAxis->setRange(widened(*x));
        yAxis->setRange(widened(*y));
    }
    xAxis->setLabel("time, s");
    yAxis->setLabel(q(m_reading.isTemperature ? std::string(unitSymbol(m_unit)) : m_reading.unit));
    note(q(name) + "\npoints and band measured, line simulated");
}

void MeasuredPlot::drawAgainstEachOther() {
    auto* points = addGraph();
    points->setLineStyle(QCPGraph::lsNone);
    points->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, theme::ink, theme::ink, 6));
    auto* beyond = addGraph();
    beyond->setLineStyle(QCPGraph::lsNone);
    beyond->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, theme::ember, theme::ember, 8));
    auto* bars = new QCPErrorBars(xAxis, yAxis);
    auto* carrier = addGraph(); // the bars need one graph of all points
    carrier->setLineStyle(QCPGraph::lsNone);
    bars->setDataPlottable(carrier);
    bars->setPen(QPen(theme::faint));
    std::optional<QCPRange> range;
    for (const auto& point : m_reading.points) {
        if (!point.measured || !point.simulated)
            continue;
        const double x = shown(*point.simulated);
        const double y = shown(*point.measured);
        carrier->addData(x, y);
        bars->addData(point.uncertainty ? std::abs(shown(*point.measured + *point.uncertainty) - y) : 0);
        const bool off = point.normalised && std::abs(*point.normalised) > 1;
        (off ? beyond : points)->addData(x, y);
        m_dots.push_back({x, y, point.name});
        for (const double one : {x, y})
            range = range ? range->expanded(QCPRange(one, one)) : QCPRange(one, one);
        if (!off)
            continue;
        auto* label = new QCPItemText(this);
        label->position->setCoords(x, y);
        label->setPositionAlignment(Qt::AlignLeft | Qt::AlignVCenter);
        label->setPadding(QMargins(10, 0, 0, 0));
        label->setText(q(point.name));
        label->setFont(font());
        label->setColor(theme::ember);
    }
    if (!range)
        return note("nothing could be held against the simulation");
    auto* equal = new QCPItemStraightLine(this);
    equal->point1->setCoords(range->lower, range->lower);
    equal->point2->setCoords(range->lower + 1, range->lower + 1);
    equal->setPen(QPen(theme::faint, 1.4));
    xAxis->setRange(widened(*range));
    yAxis->setRange(widened(*range));
    const auto unit = q(m_reading.isTemperature ? std::string(unitSymbol(m_unit)) : m_reading.unit);
    xAxis->setLabel("simulated, " + unit);
    yAxis->setLabel("measured, " + unit);
    note("on the line both are equal\nred: beyond the uncertainty");
}

std::optional<std::size_t> MeasuredPlot::pixelAt(const QPoint& at) const {
    if (!m_isPicture)
        return std::nullopt;
    const auto& picture = *m_reading.picture;
    const auto column = std::lround(xAxis->pixelToCoord(at.x())) - 1;
    const auto row = std::lround(yAxis->pixelToCoord(at.y())) - 1;
    if (column < 0 || row < 0 || column >= std::ssize(picture.measured) || row >= static_cast<long>(picture.rows) ||
        column >= static_cast<long>(picture.columns))
        return std::nullopt;
    return static_cast<std::size_t>(row) * picture.columns + static_cast<std::size_t>(column);
}

std::string MeasuredPlot::nearest(const QPoint& at) const {
    double best = 10;
    std::string name;
    for (const auto& dot : m_dots) {
        const double away = std::hypot(xAxis->coordToPixel(dot.x) - at.x(), yAxis->coordToPixel(dot.y) - at.y());
        if (away < best) {
            best = away;
            name = dot.name;
        }
    }
    return name;
}

bool MeasuredPlot::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip)
        return QCustomPlot::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    if (const auto pixel = pixelAt(help->pos())) {
        const auto& picture = *m_reading.picture;
        const auto words = [&](float value) {
            return std::isnan(value)         ? std::string("nothing")
                   : m_reading.isTemperature ? formatTemperature({(*conversion(m_reading.unit, "K"))(value)}, m_unit)
                                             : formatSi(value, m_reading.unit);
        };
        QToolTip::showText(help->globalPos(),
                           q(fmt::format("column {}, row {}\nmeasured {}\nsimulated {}", *pixel % picture.columns + 1,
                                         *pixel / picture.columns + 1, words(picture.measured[*pixel]),
                                         words(picture.simulated[*pixel]))));
    } else if (const auto name = nearest(help->pos()); !name.empty()) {
        QToolTip::showText(help->globalPos(), q(name));
    } else {
        QToolTip::hideText();
    }
    return true;
}

void MeasuredPlot::mousePressEvent(QMouseEvent* event) {
    if (const auto name = nearest(event->pos()); !name.empty())
        emit pointChosen(name);
}

} // namespace pyro

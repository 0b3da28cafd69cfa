#include "app/stages/compare/sweep_plot.h"

#include "app/theme/theme.h"
#include "core/field/isolines.h"
#include "core/report/shown/shown_table.h"
#include "core/units/display.h"
#include "render/palette.h"
#include "render/text.h"
#include "render/verdict_mark.h"

#include <QHelpEvent>
#include <QToolTip>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr int levels = 10; // of filled isolines, about

QString axisTitle(const std::string& name, const std::string& unit) {
    return q(unit.empty() || unit == "1" ? name : name + ", " + unitText(unit));
}

std::string unitOfParameter(const SweepReading& sweep, const std::string& name) {
    const auto found = std::ranges::find(sweep.parameters, name, &SweepPlan::Parameter::name);
    return found == sweep.parameters.end() ? std::string() : found->unit;
}

QColor colourOf(PaletteName palette, double share) {
    const auto colour = paletteColour(palette, share);
    return QColor::fromRgbF(static_cast<float>(colour[0]), static_cast<float>(colour[1]),
                            static_cast<float>(colour[2]));
}

// In steps, which are the filled isolines. Margins about zero, the allowed side blue; others from cold to hot.
QCPColorGradient gradientOf(bool margin, int steps) {
    QCPColorGradient gradient;
    gradient.clearColorStops();
    for (int i = 0; i < steps; ++i) {
        const double share = (i + 0.5) / steps;
        const auto colour = margin ? colourOf(PaletteName::Tide, 1 - share) : colourOf(PaletteName::Ember, share);
        gradient.setColorStopAt(static_cast<double>(i) / steps, colour);
        gradient.setColorStopAt((i + 0.999) / steps, colour);
    }
    gradient.setNanHandling(QCPColorGradient::nhTransparent);
    return gradient;
}

} // namespace

SweepPlot::SweepPlot(QWidget* parent) : QCustomPlot(parent) {
    setObjectName("sweepPlot");
    setMinimumWidth(360);
    for (auto* axis : {xAxis, yAxis}) {
        axis->setLabelFont(font());
        axis->setTickLabelFont(font());
        axis->grid()->setVisible(false);
    }
}

void SweepPlot::draw(Wish wish) {
    m_wish = std::move(wish);
    clearPlottables();
    clearItems();
    m_map.reset();
    m_points.clear();
    m_axes.clear();
    m_spans.clear();
    for (auto* axis : {xAxis, yAxis}) {
        axis->setTicks(true);
        axis->setTickLabels(true);
        axis->setBasePen(QPen(theme::faint));
        axis->setLabel({});
    }
    if (m_wish.sweep && !m_wish.values.empty()) {
        switch (m_wish.look.picture) {
        case SweepPicture::Map:
            drawMap();
            break;
        case SweepPicture::Curves:
            drawCurves();
            break;
        case SweepPicture::Lines:
            drawLines();
            break;
        case SweepPicture::Front:
            drawFront();
            break;
        }
        markPoints();
    }
    replot();
}

void SweepPlot::note(const QString& text) {
    auto* label = new QCPItemText(this);
    label->position->setType(QCPItemPosition::ptAxisRectRatio);
    label->position->setCoords(0.5, 0.02);
    label->setPositionAlignment(Qt::AlignHCenter | Qt::AlignTop);
    label->setText(text);
    label->setFont(font());
    label->setColor(theme::ink);
}

void SweepPlot::addPoint(double x, double y, std::size_t which) { m_points.push_back({x, y, which}); }

// Cases as points: those left out pale, those over a limit hollow, the best and the chosen one with a ring.
void SweepPlot::markPoints() {
    if (m_points.empty())
        return;
    const auto graphOf = [&](const QCPScatterStyle& style) {
        auto* points = addGraph();
        points->setLineStyle(QCPGraph::lsNone);
        points->setScatterStyle(style);
        return points;
    };
    auto* within = graphOf(QCPScatterStyle(QCPScatterStyle::ssDisc, theme::ink, theme::ink, 6));
    auto* over = graphOf(QCPScatterStyle(QCPScatterStyle::ssCircle, QPen(theme::ink, 1.2), theme::sheet, 6));
    auto* pale = graphOf(QCPScatterStyle(QCPScatterStyle::ssDisc, theme::line, theme::line, 5));
    auto* ring = graphOf(QCPScatterStyle(QCPScatterStyle::ssCircle, QPen(theme::ember, 2), Qt::NoBrush, 13));
    auto* chosen = graphOf(QCPScatterStyle(QCPScatterStyle::ssSquare, QPen(theme::ink, 2), Qt::NoBrush, 15));
    const auto& sweep = *m_wish.sweep;
    for (const auto& point : m_points) {
        const auto& one = sweep.cases[point.which];
        const bool left = std::ranges::find(m_wish.left, point.which) != m_wish.left.end();
        (left ? one.verdict() == Verdict::Over ? over : within : pale)->addData(point.x, point.y);
        if (!sweep.best.empty() && sweep.best.front() == one.name)
            ring->addData(point.x, point.y);
        if (m_wish.chosen == point.which)
            chosen->addData(point.x, point.y);
    }
}

void SweepPlot::drawMap() {
    const auto& sweep = *m_wish.sweep;
    const auto* value = valueNamed(m_wish.values, m_wish.look.value);
    auto map = valueMap(sweep, *value, m_wish.look.x, m_wish.look.y, m_wish.look.slices);
    if (!map)
        return note(q(map.error().what));
    m_map = std::move(*map);
    const bool margin = largerIsBetter(*value);
    constexpr int fine = 360;
    auto* colours = new QCPColorMap(xAxis, yAxis);
    const QCPRange across(m_map->xs.front(), m_map->xs.back());
    const QCPRange up(m_map->ys.front(), m_map->ys.back());
    colours->data()->setSize(fine, fine);
    colours->data()->setRange(across, up);
    double low = std::nan("");
    double high = std::nan("");
    for (int i = 0; i < fine; ++i)
        for (int j = 0; j < fine; ++j) {
            const double here = m_map->at(across.lower + across.size() * i / (fine - 1.0),
                                          up.lower + up.size() * j / (fine - 1.0));
            colours->data()->setCell(i, j, here);
            low = std::fmin(low, here);
            high = std::fmax(high, here);
        }
    const double most = std::fmax(std::abs(low), std::abs(high));
    const double from = margin ? -most : low;
    const double spacing = niceSpacing(from, margin ? most : high, levels); // round values at the lines
    const QCPRange range(spacing * std::floor(from / spacing), spacing * std::ceil((margin ? most : high) / spacing));
    const int steps = std::max(1, static_cast<int>(std::lround(range.size() / spacing)));
    colours->setGradient(gradientOf(margin, steps));
    colours->setDataRange(range);
    colours->setInterpolate(false);
    for (int level = 1; level < steps; ++level) {
        const double at = range.lower + spacing * level;
        const auto pieces = m_map->lineAt(at);
        for (const auto& piece : pieces) {
            auto* line = new QCPItemLine(this);
            line->start->setCoords(piece[0][0], piece[0][1]);
            line->end->setCoords(piece[1][0], piece[1][1]);
            line->setPen(QPen(QColor(0x22, 0x26, 0x2B, 90), 0.7));
        }
        if (pieces.empty())
            continue;
        const auto& middle = pieces[pieces.size() / 2][0];
        auto* label = new QCPItemText(this);
        label->position->setCoords(middle[0], middle[1]);
        label->setText(q(formatSi(at, value->unit)));
        label->setFont(font());
        label->setColor(theme::ink);
        label->setBrush(QColor(0xF4, 0xF1, 0xEC, 200));
        label->setPadding(QMargins(3, 0, 3, 0));
    }
    QString about = q(value->key);
    if (const auto* least = valueNamed(m_wish.values, leastMarginKey);
        least != nullptr && m_wish.values.front().key == leastMarginKey)
        if (const auto margins = valueMap(sweep, *least, m_map->x, m_map->y, m_wish.look.slices)) {
            dimForbidden(*margins);
            about += "; thick line: a limit is just met, dimmed: one is exceeded";
        }
    for (std::size_t i = 0; i < m_map->cases.size(); ++i)
        if (m_map->cases[i] != ValueMap::noCase)
            addPoint(m_map->xs[i % m_map->xs.size()], m_map->ys[i / m_map->xs.size()], m_map->cases[i]);
    note(about);
    xAxis->setLabel(axisTitle(m_map->x, unitOfParameter(sweep, m_map->x)));
    yAxis->setLabel(axisTitle(m_map->y, unitOfParameter(sweep, m_map->y)));
    xAxis->setRange(across.lower - 0.06 * across.size(), across.upper + 0.06 * across.size());
    yAxis->setRange(up.lower - 0.06 * up.size(), up.upper + 0.16 * up.size());
}

void SweepPlot::dimForbidden(const ValueMap& margins) {
    constexpr int fine = 360;
    auto* veil = new QCPColorMap(xAxis, yAxis);
    const QCPRange across(margins.xs.front(), margins.xs.back());
    const QCPRange up(margins.ys.front(), margins.ys.back());
    veil->data()->setSize(fine, fine);
    veil->data()->setRange(across, up);
    for (int i = 0; i < fine; ++i)
        for (int j = 0; j < fine; ++j) {
            const double margin = margins.at(across.lower + across.size() * i / (fine - 1.0),
                                             up.lower + up.size() * j / (fine - 1.0));
            veil->data()->setCell(i, j, margin < 0 ? 1 : std::nan(""));
        }
    QCPColorGradient grey;
    grey.clearColorStops();
    grey.setColorStopAt(0, QColor(0xF4, 0xF1, 0xEC, 150));
    grey.setColorStopAt(1, QColor(0xF4, 0xF1, 0xEC, 150));
    grey.setNanHandling(QCPColorGradient::nhTransparent);
    veil->setGradient(grey);
    veil->setDataRange(QCPRange(0, 1));
    veil->setInterpolate(false);
    for (const auto& piece : margins.lineAt(0)) {
        auto* line = new QCPItemLine(this);
        line->start->setCoords(piece[0][0], piece[0][1]);
        line->end->setCoords(piece[1][0], piece[1][1]);
        line->setPen(QPen(theme::ink, 2.4));
    }
}

void SweepPlot::drawCurves() {
    const auto& sweep = *m_wish.sweep;
    const auto& look = m_wish.look;
    const auto* value = valueNamed(m_wish.values, look.value);
    const auto curves = curvesOf(sweep, *value, look.x, look.y, look.slices);
    if (curves.empty())
        return note("no case tells this value in this slice");
    QCPRange x(curves[0].x.front(), curves[0].x.front());
    QCPRange y(curves[0].y.front(), curves[0].y.front());
    for (std::size_t at = 0; at < curves.size(); ++at) {
        const auto& curve = curves[at];
        const double share = curves.size() > 1 ? static_cast<double>(at) / static_cast<double>(curves.size() - 1) : 0.3;
        auto* graph = addGraph();
        graph->setPen(QPen(colourOf(PaletteName::Ember, 0.1 + 0.75 * share), 1.8));
        for (std::size_t i = 0; i < curve.x.size(); ++i) {
            graph->addData(curve.x[i], curve.y[i]);
            addPoint(curve.x[i], curve.y[i], curve.cases[i]);
            x.expand(curve.x[i]);
            y.expand(curve.y[i]);
        }
        if (!curve.by)
            continue;
        auto* label = new QCPItemText(this);
        label->position->setCoords(curve.x.back(), curve.y.back());
        label->setPositionAlignment(Qt::AlignLeft | Qt::AlignVCenter);
        label->setPadding(QMargins(8, 0, 0, 0));
        label->setText(q(shownParameter({look.y, unitOfParameter(sweep, look.y)}, *curve.by)));
        label->setFont(font());
        label->setColor(graph->pen().color().darker(130));
    }
    if (largerIsBetter(*value)) { // the limit
        y.expand(0);
        auto* zero = new QCPItemStraightLine(this);
        zero->point1->setCoords(0, 0);
        zero->point2->setCoords(1, 0);
        zero->setPen(QPen(theme::ink, 1.6, Qt::DashLine));
    }
    note(look.y.empty() ? q(value->key) : q(fmt::format("{}, a curve for each {}", value->key, look.y)));
    xAxis->setLabel(axisTitle(look.x, unitOfParameter(sweep, look.x)));
    yAxis->setLabel(axisTitle(value->key, value->unit));
    const double width = x.size() > 0 ? x.size() : 1;
    const double height = y.size() > 0 ? y.size() : 1;
    xAxis->setRange(x.lower - 0.05 * width, x.upper + 0.2 * width);
    yAxis->setRange(y.lower - 0.06 * height, y.upper + 0.16 * height);
}

std::optional<double> SweepPlot::valueOnAxis(std::size_t axis, std::size_t which) const {
    const auto& one = m_wish.sweep->cases[which];
    if (const auto parameter = one.parameters.find(m_axes[axis]); parameter != one.parameters.end())
        return parameter->second;
    const auto* value = valueNamed(m_wish.values, m_axes[axis]);
    return value != nullptr ? value->values[which] : std::nullopt;
}

std::string SweepPlot::unitOnAxis(std::size_t axis) const {
    const auto* value = valueNamed(m_wish.values, m_axes[axis]);
    return value != nullptr ? value->unit : unitOfParameter(*m_wish.sweep, m_axes[axis]);
}

double SweepPlot::shareOnAxis(std::size_t axis, std::size_t which) const {
    const auto& [low, high] = m_spans[axis];
    const auto value = valueOnAxis(axis, which);
    return !value ? std::nan("") : high > low ? (*value - low) / (high - low) : 0.5;
}

// A line for each case over an axis for each parameter and value; what is beyond the ranges is pale.
void SweepPlot::drawLines() {
    const auto& sweep = *m_wish.sweep;
    constexpr std::size_t mostAxes = 9;
    for (const auto& parameter : sweep.parameters)
        m_axes.push_back(parameter.name);
    for (const auto& value : m_wish.values)
        if (m_axes.size() < mostAxes && !m_wish.look.hidden.contains(value.key) &&
            (!value.limit || m_wish.values.front().key != leastMarginKey)) // the least one stands for the margins
            m_axes.push_back(value.key);
    for (std::size_t axis = 0; axis < m_axes.size(); ++axis) {
        auto& span = m_spans.emplace_back(std::array{std::nan(""), std::nan("")});
        for (std::size_t i = 0; i < sweep.cases.size(); ++i)
            if (const auto value = valueOnAxis(axis, i))
                span = {std::fmin(span[0], *value), std::fmax(span[1], *value)};
    }
    for (const bool left : {false, true}) // the pale ones beneath
        for (std::size_t i = 0; i < sweep.cases.size(); ++i) {
            if ((std::ranges::find(m_wish.left, i) != m_wish.left.end()) != left)
                continue;
            const bool chosen = m_wish.chosen == i;
            auto colour = verdictColour(sweep.cases[i].verdict());
            colour.setAlpha(chosen ? 255 : 170);
            auto* graph = addGraph();
            graph->setPen(QPen(left ? colour : theme::line, chosen ? 3.5 : 1.3));
            for (std::size_t axis = 0; axis < m_axes.size(); ++axis) {
                graph->addData(static_cast<double>(axis), shareOnAxis(axis, i));
                m_points.push_back({static_cast<double>(axis), shareOnAxis(axis, i), i});
            }
        }
    for (std::size_t axis = 0; axis < m_axes.size(); ++axis) {
        const auto at = static_cast<double>(axis);
        auto* bar = new QCPItemLine(this);
        bar->start->setCoords(at, 0);
        bar->end->setCoords(at, 1);
        bar->setPen(QPen(theme::faint, 1));
        const auto words = [&](double y, const QString& text, Qt::Alignment alignment, const QColor& colour) {
            auto* label = new QCPItemText(this);
            label->position->setCoords(at, y);
            label->setPositionAlignment(alignment);
            label->setText(text);
            label->setFont(font());
            label->setColor(colour);
        };
        words(1.13, axisTitle(m_axes[axis], unitOnAxis(axis)), Qt::AlignHCenter | Qt::AlignBottom, theme::ink);
        words(1.02, q(fmt::format("{:.4g}", m_spans[axis][1])), Qt::AlignHCenter | Qt::AlignBottom, theme::faint);
        words(-0.02, q(fmt::format("{:.4g}", m_spans[axis][0])), Qt::AlignHCenter | Qt::AlignTop, theme::faint);
        if (const auto range = m_wish.look.ranges.find(m_axes[axis]); range != m_wish.look.ranges.end()) {
            const double size = m_spans[axis][1] > m_spans[axis][0] ? m_spans[axis][1] - m_spans[axis][0] : 1;
            auto* drawn = new QCPItemRect(this);
            drawn->topLeft->setCoords(at - 0.06, std::min(1.0, (range->second[1] - m_spans[axis][0]) / size));
            drawn->bottomRight->setCoords(at + 0.06, std::max(0.0, (range->second[0] - m_spans[axis][0]) / size));
            drawn->setPen(QPen(theme::ember, 1.4));
            drawn->setBrush(QColor(0xD9, 0x53, 0x2C, 40));
        }
    }
    for (auto* axis : {xAxis, yAxis}) {
        axis->setTicks(false);
        axis->setTickLabels(false);
        axis->setBasePen(Qt::NoPen);
    }
    xAxis->setLabel("drag along an axis to keep the cases of a range, click it to keep all");
    xAxis->setRange(-0.5, static_cast<double>(m_axes.size()) - 0.5);
    yAxis->setRange(-0.12, 1.25);
}

void SweepPlot::drawFront() {
    const auto* first = valueNamed(m_wish.values, m_wish.look.x);
    const auto* second = valueNamed(m_wish.values, m_wish.look.y);
    if (first == nullptr || second == nullptr || first == second)
        return note("a front needs two values");
    auto* line = addGraph();
    line->setPen(QPen(theme::ember, 1.8));
    for (const auto which : frontOf(*first, *second))
        line->addData(*first->values[which], *second->values[which]);
    std::optional<QCPRange> x;
    std::optional<QCPRange> y;
    for (std::size_t i = 0; i < first->values.size(); ++i) {
        if (!first->values[i] || !second->values[i])
            continue;
        addPoint(*first->values[i], *second->values[i], i);
        x = x ? x->expanded(QCPRange(*first->values[i], *first->values[i]))
              : QCPRange(*first->values[i], *first->values[i]);
        y = y ? y->expanded(QCPRange(*second->values[i], *second->values[i]))
              : QCPRange(*second->values[i], *second->values[i]);
    }
    if (!x)
        return note("no case tells both values");
    const auto aim = [](const SweepValue& value) { return largerIsBetter(value) ? "larger" : "smaller"; };
    note(
        q(fmt::format("on the line no other case is better in both ({} and {} is better)", aim(*first), aim(*second))));
    xAxis->setLabel(axisTitle(first->key, first->unit));
    yAxis->setLabel(axisTitle(second->key, second->unit));
    const double width = x->size() > 0 ? x->size() : 1;
    const double height = y->size() > 0 ? y->size() : 1;
    xAxis->setRange(x->lower - 0.06 * width, x->upper + 0.06 * width);
    yAxis->setRange(y->lower - 0.06 * height, y->upper + 0.16 * height);
}

std::optional<std::size_t> SweepPlot::nearest(const QPoint& at) const {
    double best = 10; // pixels
    std::optional<std::size_t> which;
    for (const auto& point : m_points) {
        const double away = std::hypot(xAxis->coordToPixel(point.x) - at.x(), yAxis->coordToPixel(point.y) - at.y());
        if (away < best) {
            best = away;
            which = point.which;
        }
    }
    return which;
}

bool SweepPlot::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip || !m_wish.sweep)
        return QCustomPlot::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    if (const auto which = nearest(help->pos())) {
        const auto& one = m_wish.sweep->cases[*which];
        std::string text = one.name;
        for (const auto& parameter : m_wish.sweep->parameters)
            if (const auto found = one.parameters.find(parameter.name); found != one.parameters.end())
                text += fmt::format("\n{} {}", parameter.name, shownParameter(parameter, found->second));
        for (const auto& value : m_wish.values)
            if (value.values[*which] && value.key == m_wish.look.value)
                text += fmt::format("\n{} {}", value.key, formatSi(*value.values[*which], value.unit));
        QToolTip::showText(help->globalPos(), q(text));
    } else if (m_map) {
        const double x = xAxis->pixelToCoord(help->pos().x());
        const double y = yAxis->pixelToCoord(help->pos().y());
        if (const double value = m_map->at(x, y); std::isfinite(value))
            QToolTip::showText(help->globalPos(), q(fmt::format("{} {:.4g}, {} {:.4g}: {} {}", m_map->x, x, m_map->y, y,
                                                                m_wish.look.value, formatSi(value, m_map->unit))));
        else
            QToolTip::hideText();
    }
    return true;
}

void SweepPlot::mousePressEvent(QMouseEvent* event) { m_pressed = event->pos(); }

void SweepPlot::mouseReleaseEvent(QMouseEvent* event) {
    if (!m_pressed || !m_wish.sweep)
        return;
    const auto from = *std::exchange(m_pressed, std::nullopt);
    const bool dragged = std::abs(event->pos().y() - from.y()) > 6;
    if (!m_axes.empty() && (dragged || !nearest(event->pos()))) {
        const auto axis = std::lround(xAxis->pixelToCoord(from.x()));
        if (axis < 0 || axis >= std::ssize(m_axes) || std::abs(xAxis->coordToPixel(axis) - from.x()) > 30)
            return;
        const auto at = static_cast<std::size_t>(axis);
        if (!dragged)
            return emit rangeDrawn(m_axes[at], std::nullopt);
        const auto valueAt = [&](int pixel) {
            const double share = yAxis->pixelToCoord(pixel);
            // close to an end the end is meant
            return std::lerp(m_spans[at][0], m_spans[at][1], share > 0.97 ? 1 : share < 0.03 ? 0 : share);
        };
        const double a = valueAt(from.y());
        const double b = valueAt(event->pos().y());
        return emit rangeDrawn(m_axes[at], std::array{std::min(a, b), std::max(a, b)});
    }
    if (const auto which = nearest(event->pos()))
        emit caseChosen(*which);
}

void SweepPlot::mouseDoubleClickEvent(QMouseEvent* event) {
    m_pressed.reset();
    if (const auto which = nearest(event->pos()))
        emit caseWanted(*which);
}

} // namespace pyro

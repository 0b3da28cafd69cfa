#include "app/stages/compare/sweep_map.h"

#include "app/theme/theme.h"
#include "core/units/display.h"
#include "render/palette.h"
#include "render/text.h"

#include <QHelpEvent>
#include <QToolTip>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

QString axisTitle(const SweepReading& sweep, const std::string& name) {
    const auto found = std::ranges::find(sweep.parameters, name, &SweepPlan::Parameter::name);
    return q(found == sweep.parameters.end() || found->unit.empty() ? name : name + ", " + unitText(found->unit));
}

// The project's palette about zero, the allowed side blue.
QCPColorGradient aboutZero() {
    QCPColorGradient gradient;
    gradient.clearColorStops();
    for (int i = 0; i <= 20; ++i) {
        const auto colour = paletteColour(PaletteName::Tide, 1 - i / 20.0);
        gradient.setColorStopAt(i / 20.0, QColor::fromRgbF(static_cast<float>(colour[0]), static_cast<float>(colour[1]),
                                                           static_cast<float>(colour[2])));
    }
    gradient.setNanHandling(QCPColorGradient::nhTransparent);
    return gradient;
}

} // namespace

SweepMap::SweepMap(QWidget* parent) : QCustomPlot(parent) {
    setObjectName("sweepMap");
    setMinimumWidth(330);
    for (auto* axis : {xAxis, yAxis}) {
        axis->setLabelFont(font());
        axis->setTickLabelFont(font());
        axis->grid()->setVisible(false);
    }
}

void SweepMap::fill(const std::shared_ptr<const SweepReading>& sweep) {
    if (sweep == m_sweep)
        return;
    m_sweep = sweep;
    clearPlottables();
    clearItems();
    m_map.reset();
    if (sweep->parameters.size() < 2)
        return replot();
    // of more than two parameters the slice of the best case, else of the first
    const auto best = sweep->best.empty() ? sweep->cases.begin()
                                          : std::ranges::find(sweep->cases, sweep->best.front(), &SweepCase::name);
    if (auto map = marginMap(*sweep, sweep->parameters[0].name, sweep->parameters[1].name,
                             static_cast<std::size_t>(best - sweep->cases.begin()))) {
        m_map = std::move(*map);
        draw(*sweep);
    }
    replot();
}

void SweepMap::draw(const SweepReading& sweep) {
    const auto& map = *m_map;
    constexpr int fine = 120;
    auto* colours = new QCPColorMap(xAxis, yAxis);
    const QCPRange across(map.xs.front(), map.xs.back());
    const QCPRange up(map.ys.front(), map.ys.back());
    colours->data()->setSize(fine, fine);
    colours->data()->setRange(across, up);
    double most = 0;
    for (int i = 0; i < fine; ++i)
        for (int j = 0; j < fine; ++j) {
            const double margin = map.at(across.lower + across.size() * i / (fine - 1.0),
                                         up.lower + up.size() * j / (fine - 1.0));
            colours->data()->setCell(i, j, margin);
            most = std::fmax(most, std::abs(margin));
        }
    colours->setGradient(aboutZero());
    colours->setDataRange(QCPRange(-most, most));
    colours->setInterpolate(true);
    for (const auto& piece : map.zeroLine()) {
        auto* line = new QCPItemLine(this);
        line->start->setCoords(piece[0][0], piece[0][1]);
        line->end->setCoords(piece[1][0], piece[1][1]);
        line->setPen(QPen(theme::ink, 2));
    }
    auto* points = addGraph();
    points->setLineStyle(QCPGraph::lsNone);
    points->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, theme::ink, theme::ink, 5));
    auto* ring = addGraph();
    ring->setLineStyle(QCPGraph::lsNone);
    ring->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCircle, QPen(theme::ember, 2), Qt::NoBrush, 13));
    for (std::size_t i = 0; i < map.cases.size(); ++i) {
        if (map.cases[i] == MarginMap::noCase)
            continue;
        const double x = map.xs[i % map.xs.size()];
        const double y = map.ys[i / map.xs.size()];
        points->addData(x, y);
        if (!sweep.best.empty() && sweep.cases[map.cases[i]].name == sweep.best.front())
            ring->addData(x, y);
    }
    const auto words = [&](double share, const QString& text) {
        auto* label = new QCPItemText(this);
        label->position->setType(QCPItemPosition::ptAxisRectRatio);
        label->position->setCoords(0.5, share);
        label->setText(text);
        label->setFont(font());
        label->setColor(theme::ink);
    };
    words(0.06, "least margin; line: a limit is just met");
    xAxis->setLabel(axisTitle(sweep, map.x));
    yAxis->setLabel(axisTitle(sweep, map.y));
    xAxis->setRange(across.lower - 0.06 * across.size(), across.upper + 0.06 * across.size());
    yAxis->setRange(up.lower - 0.06 * up.size(), up.upper + 0.3 * up.size());
}

bool SweepMap::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip || !m_map || !m_sweep)
        return QCustomPlot::event(event);
    const auto* help = static_cast<QHelpEvent*>(event);
    const double x = xAxis->pixelToCoord(help->pos().x());
    const double y = yAxis->pixelToCoord(help->pos().y());
    const double margin = m_map->at(x, y);
    if (std::isnan(margin))
        QToolTip::hideText();
    else
        QToolTip::showText(help->globalPos(), q(fmt::format("{} {:.4g}, {} {:.4g}: least margin {}", m_map->x, x,
                                                            m_map->y, y, formatSi(margin, m_map->unit))));
    return true;
}

} // namespace pyro

#include "app/charts/chart_view.h"

#include "app/charts/reference_dialog.h"
#include "app/theme/elided_label.h"
#include "app/theme/theme.h"
#include "core/quantities/gauge_quantity.h"
#include "core/units/display.h"
#include "render/text.h"

#include <QMenu>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {

ChartPanel::ChartPanel(Session& session, QWidget* parent)
    : QWidget(parent), m_session(session), m_plot(new QCustomPlot), m_reading(new ElidedLabel),
      m_told(new QLabel(m_plot)), m_empty(new QLabel(this)), m_settings(new QPushButton("Chart")) {
    setObjectName("chartPanel");
    m_plot->setObjectName("chart");
    m_plot->setBackground(Qt::white);
    m_plot->setInteractions(QCP::Interactions(QCP::iRangeDrag) | QCP::iRangeZoom);
    m_plot->setMouseTracking(true);
    auto policy = m_plot->sizePolicy();
    policy.setRetainSizeWhenHidden(true);
    m_plot->setSizePolicy(policy);
    m_plot->axisRect()->setMinimumMargins(QMargins(4, 4, 10, 4));
    m_cursor = nullptr;
    m_reading->setObjectName("hint");
    m_told->setObjectName("chartReading");
    m_told->setTextFormat(Qt::RichText);
    m_told->setAttribute(Qt::WA_TransparentForMouseEvents);
    m_told->setStyleSheet(
        "background: rgba(255,255,255,225); border: 1px solid #DDD8CF; border-radius: 4px; padding: 3px 6px");
    m_told->hide();
    m_empty->setObjectName("hint");
    m_empty->setAlignment(Qt::AlignCenter);
    m_empty->setWordWrap(true);
    m_empty->setAttribute(Qt::WA_TransparentForMouseEvents);
    auto* head = new QHBoxLayout;
    head->setContentsMargins(12, 6, 12, 0);
    m_choice = new QComboBox;
    m_choice->setObjectName("chartChoice");
    m_choice->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_choice->setMinimumContentsLength(9);
    connect(m_choice, &QComboBox::activated, this, [this](int at) {
        auto view = m_session.view();
        view.chart = static_cast<std::size_t>(at);
        m_session.editView("Show chart", view);
    });
    head->addWidget(m_choice);
    head->addWidget(m_reading, 1);
    m_settings->setObjectName("link");
    m_settings->setAccessibleName("chartMenu");
    auto* write = new QPushButton("Export\u2026");
    write->setObjectName("link");
    write->setAccessibleName("exportChart");
    head->addWidget(m_settings);
    head->addWidget(write);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(0);
    layout->addLayout(head);
    layout->addWidget(m_plot, 1);
    buildMenu();
    connect(m_plot, &QCustomPlot::afterLayout, this, [this] {
        placeLegend(*m_plot);
        m_plot->axisRect()->insetLayout()->update(QCPLayoutElement::upLayout);
    });
    connect(write, &QPushButton::clicked, this, &ChartPanel::exportRequested);
    connect(m_plot, &QCustomPlot::mouseMove, this, [this](QMouseEvent* event) { pointAt(event->position()); });
    connect(m_plot, &QCustomPlot::mouseRelease, this, [this] { keepRanges(); });
    connect(m_plot, &QCustomPlot::mouseWheel, this,
            [this] { QMetaObject::invokeMethod(this, &ChartPanel::keepRanges, Qt::QueuedConnection); });
    connect(m_plot, &QCustomPlot::mouseDoubleClick, this, [this] {
        editChart("Fit the chart", [](ChartView& view) {
            view.xRange.reset();
            view.yRange.reset();
        });
    });
    connect(m_plot, &QCustomPlot::axisDoubleClick, this,
            [this](QCPAxis* axis) { emit titleRequested(axis == m_plot->xAxis ? "x" : "y"); });
    connect(&session, &Session::changed, this, &ChartPanel::follow);
    redraw();
}

void ChartPanel::buildMenu() {
    auto* menu = new QMenu(this);
    menu->setObjectName("chartSettings");
    const auto toggle = [this, menu](const char* name, const QString& text, bool ChartView::*flag) {
        auto* action = menu->addAction(text);
        action->setObjectName(name);
        action->setCheckable(true);
        connect(action, &QAction::triggered, this, [this, text, flag](bool on) {
            editChart(text, [flag, on](ChartView& view) {
                view.*flag = on;
                view.xRange.reset();
                view.yRange.reset();
            });
        });
        return action;
    };
    m_curves = menu->addMenu("Gauges on this chart");
    m_allCases = toggle("chartAllCases", "One curve for every open case", &ChartView::allCases);
    m_difference = toggle("chartDifference", "Differences to the first curve", &ChartView::difference);
    menu->addSeparator();
    m_logX = toggle("chartLogX", "Logarithmic x axis", &ChartView::logX);
    m_logY = toggle("chartLogY", "Logarithmic y axis", &ChartView::logY);
    m_axis = menu->addMenu("x axis");
    m_axis->setObjectName("chartAxis");
    m_scale = menu->addMenu("Divide distances by");
    m_references = menu->addMenu("Reference curves");
    m_references->setObjectName("chartReferences");
    menu->addSeparator();
    for (const auto& [which, text] :
         {std::pair("title", "Title\u2026"), {"x", "X-axis title\u2026"}, {"y", "Y-axis title\u2026"}})
        connect(menu->addAction(text), &QAction::triggered, this,
                [this, which = QString(which)] { emit titleRequested(which); });
    for (const auto& [which, text] :
         {std::pair("x", "Limits of the x axis\u2026"), {"y", "Limits of the y axis\u2026"}})
        connect(menu->addAction(text), &QAction::triggered, this,
                [this, which = QString(which)] { emit limitsRequested(which); });
    menu->addSeparator();
    auto* another = menu->addAction("New chart");
    another->setObjectName("newChart");
    connect(another, &QAction::triggered, this, [this] {
        const auto at = std::max<std::size_t>(1, m_session.survey().charts.size());
        auto next = withChart(m_session.survey(), ChartView{}, at);
        auto view = m_session.view();
        view.chart = at;
        m_session.edit("New chart", withView(std::move(next), view));
    });
    m_delete = menu->addAction("Delete this chart");
    connect(m_delete, &QAction::triggered, this, [this] {
        auto view = m_session.view();
        auto next = withoutChart(m_session.survey(), view.chart);
        view.chart = view.chart > 0 ? view.chart - 1 : 0;
        m_session.edit("Delete chart", withView(std::move(next), view));
    });
    menu->addSeparator();
    connect(menu->addAction("Copy as picture"), &QAction::triggered, this,
            [this] { QApplication::clipboard()->setPixmap(m_plot->toPixmap(0, 0, 2)); });
    connect(menu->addAction("Copy as table"), &QAction::triggered, this,
            [this] { QApplication::clipboard()->setText(q(chartCsv(m_chart)).replace(',', '\t')); });
    m_settings->setMenu(menu);
    connect(menu, &QMenu::aboutToShow, this, [this] {
        const auto view = chartOf(m_session.survey(), m_session.view().chart);
        m_allCases->setChecked(view.allCases);
        m_difference->setChecked(view.difference);
        m_logX->setChecked(view.logX);
        m_logY->setChecked(view.logY);
        m_curves->clear();
        m_scale->clear();
        m_delete->setEnabled(m_session.survey().charts.size() > 1);
        fillAxisMenu(view);
        m_references->clear();
        for (std::size_t i = 0; i < view.references.size(); ++i) {
            const auto* facts = correlationNamed(view.references[i].correlation);
            connect(
                m_references->addAction(
                    (facts != nullptr ? q(std::string(facts->title)) : q(view.references[i].correlation)) + "\u2026"),
                &QAction::triggered, this, [this, i] { askReference(i); });
        }
        connect(m_references->addAction("Add\u2026"), &QAction::triggered, this,
                [this] { askReference(std::nullopt); });
        auto* chosen = m_curves->addAction("The chosen one");
        chosen->setCheckable(true);
        chosen->setChecked(view.gauges.empty());
        connect(chosen, &QAction::triggered, this,
                [this] { editChart("Gauges on the chart", [](ChartView& next) { next.gauges.clear(); }); });
        auto* plain = m_scale->addAction("Nothing: millimetres");
        plain->setCheckable(true);
        plain->setChecked(view.xScale.empty());
        connect(plain, &QAction::triggered, this,
                [this] { editChart("Distances in millimetres", [](ChartView& next) { next.xScale.clear(); }); });
        for (const auto& gauge : m_session.survey().gauges) {
            auto* curve = m_curves->addAction(q(gauge.id));
            curve->setCheckable(true);
            curve->setChecked(std::ranges::find(view.gauges, gauge.id) != view.gauges.end());
            connect(curve, &QAction::triggered, this, [this, id = gauge.id](bool on) {
                editChart("Gauges on the chart", [&](ChartView& next) {
                    std::erase(next.gauges, id);
                    if (on)
                        next.gauges.push_back(id);
                });
            });
            if (siUnitOf(gauge.quantity) != "m")
                continue;
            auto* scale = m_scale->addAction(q(gauge.id));
            scale->setCheckable(true);
            scale->setChecked(view.xScale == gauge.id);
            connect(scale, &QAction::triggered, this, [this, id = gauge.id] {
                editChart("Dimensionless distance", [&](ChartView& next) { next.xScale = id; });
            });
        }
    });
}

void ChartPanel::fillAxisMenu(const ChartView& view) {
    m_axis->clear();
    const auto offer = [&](const QString& text, const std::string& axis, const std::string& over) {
        auto* action = m_axis->addAction(text);
        action->setCheckable(true);
        action->setChecked(view.xAxis == axis && view.xOver == over);
        connect(action, &QAction::triggered, this, [this, axis, over] {
            editChart("x axis of the chart", [&](ChartView& next) {
                next.xAxis = axis;
                next.xOver = over;
                next.xRange.reset();
            });
        });
    };
    offer("Distance along the line", "", "");
    for (const auto* axis : {"x", "y", "z"})
        offer(axis, axis, "");
    const auto* state = m_session.activeCase();
    if (state != nullptr && state->readings)
        for (const auto& reading : state->readings->gauges)
            if (reading.profile)
                offer("Over " + q(reading.id), "", reading.id);
}

void ChartPanel::askReference(std::optional<std::size_t> which) {
    const auto view = chartOf(m_session.survey(), m_session.view().chart);
    auto* dialog = new ReferenceDialog(which ? std::optional(view.references[*which]) : std::nullopt, this);
    connect(dialog, &ReferenceDialog::chosen, this, [this, which](const ReferenceCurve& curve) {
        editChart("Reference curve", [&](ChartView& next) {
            if (which && *which < next.references.size())
                next.references[*which] = curve;
            else
                next.references.push_back(curve);
        });
    });
    connect(dialog, &ReferenceDialog::removed, this, [this, which] {
        editChart("Delete a reference curve", [&](ChartView& next) {
            if (*which < next.references.size())
                next.references.erase(next.references.begin() + static_cast<std::ptrdiff_t>(*which));
        });
    });
    dialog->open();
}

void ChartPanel::editChart(const QString& what, const std::function<void(ChartView&)>& change, Gesture gesture) {
    auto view = chartOf(m_session.survey(), m_session.view().chart);
    change(view);
    m_session.edit(what, withChart(m_session.survey(), view, m_session.view().chart), gesture);
}

void ChartPanel::follow(Changes what) {
    const bool another = m_session.view().chart != m_shown;
    if (another || what & (Change::Readings | Change::Survey | Change::Cases | Change::Selection))
        redraw();
    if (what & Change::Marked)
        mark();
}

void ChartPanel::redraw() {
    m_chart = m_session.chart();
    m_shown = m_session.view().chart;
    const auto view = chartOf(m_session.survey(), m_session.view().chart);
    m_cursor = nullptr;
    drawChart(*m_plot, m_chart, view);
    m_choice->setVisible(m_session.survey().charts.size() > 1);
    m_choice->clear();
    for (std::size_t at = 0; at < m_session.survey().charts.size(); ++at)
        m_choice->addItem(q(chartName(m_session.survey(), at)));
    m_choice->setCurrentIndex(static_cast<int>(m_session.view().chart));
    m_xDrawn = m_plot->xAxis->range();
    m_yDrawn = m_plot->yAxis->range();
    m_plot->setVisible(!m_chart.curves.empty());
    m_empty->setVisible(m_chart.curves.empty());
    QString why = m_session.survey().gauges.empty()
                      ? "A line gauge shows its profile here, a gauge on a case with steps its history."
                  : m_chart.remarks.empty() ? "One value has no curve. Choose a line gauge, or a case with steps."
                                            : QString();
    for (const auto& remark : m_chart.remarks)
        why += (why.isEmpty() ? "" : "\n") + q(remark);
    m_empty->setText(why);
    m_reading->setText(m_chart.curves.empty()
                           ? QString()
                           : "<b>" + q(m_chart.title).toHtmlEscaped() + "</b>" +
                                 (m_chart.remarks.empty() ? "" : "   " + q(m_chart.remarks.front()).toHtmlEscaped()));
    m_told->hide();
    m_cursor = new QCPItemStraightLine(m_plot);
    m_cursor->setPen(QPen(theme::ink, 1));
    m_cursor->setVisible(false);
    if (!m_plot->size().isEmpty())
        m_plot->replot(QCustomPlot::rpQueuedReplot); // at once would repaint the window in the middle of its changes
    mark();
}

void ChartPanel::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    m_empty->setGeometry(rect().adjusted(24, 30, -24, -20));
}

void ChartPanel::pointAt(const QPointF& pixel) {
    if (m_chart.curves.empty())
        return;
    const double x = m_plot->xAxis->pixelToCoord(pixel.x());
    const auto& curve = m_chart.curves.front();
    if (curve.at.size() == curve.x.size() && !curve.x.empty()) {
        const auto nearest = std::ranges::min_element(curve.x, {}, [x](double one) { return std::abs(one - x); }) -
                             curve.x.begin();
        m_session.selection().markPlace(curve.at[static_cast<std::size_t>(nearest)]);
    }
    showReading(x);
}

// The marked place of the viewport on the first curve.
void ChartPanel::mark() {
    const auto& place = m_session.selection().markedPlace();
    if (!place || m_chart.curves.empty() || m_chart.curves.front().at.empty()) {
        m_told->hide();
        if (m_cursor != nullptr && m_cursor->visible()) {
            m_cursor->setVisible(false);
            m_plot->replot(QCustomPlot::rpQueuedReplot);
        }
        return;
    }
    const auto& curve = m_chart.curves.front();
    const auto nearest = std::ranges::min_element(curve.at, {},
                                                  [&](const Point& one) {
                                                      return std::hypot(one[0] - (*place)[0], one[1] - (*place)[1],
                                                                        one[2] - (*place)[2]);
                                                  }) -
                         curve.at.begin();
    showReading(curve.x[static_cast<std::size_t>(nearest)]);
}

void ChartPanel::showReading(double x) {
    if (m_cursor == nullptr)
        return;
    m_cursor->setVisible(true);
    m_cursor->point1->setCoords(x, 0);
    m_cursor->point2->setCoords(x, 1);
    m_cursor->point1->setTypeY(QCPItemPosition::ptAxisRectRatio);
    m_cursor->point2->setTypeY(QCPItemPosition::ptAxisRectRatio);
    QStringList rows{"<tr><td colspan=2>" + q(m_chart.xTitle).toHtmlEscaped() + " " + q(formatNumber(x, 2)) +
                     "</td></tr>"};
    for (const auto& curve : m_chart.curves) {
        const auto after = static_cast<std::size_t>(std::ranges::lower_bound(curve.x, x) - curve.x.begin());
        if (after >= curve.x.size())
            continue;
        const auto from = after == 0 ? 0 : after - 1;
        const double span = curve.x[after] - curve.x[from];
        const double y = span > 0 ? curve.y[from] + (x - curve.x[from]) / span * (curve.y[after] - curve.y[from])
                                  : curve.y[after];
        rows.append("<tr><td align=right><b>" +
                    q(std::isfinite(y) ? fmt::format("{:.5g}", y) : "no value").toHtmlEscaped() +
                    "</b>&nbsp;</td><td>" + q(m_chart.curves.size() > 1 ? curve.title : std::string()).toHtmlEscaped() +
                    "</td></tr>");
    }
    m_told->setText("<table>" + rows.join("") + "</table>");
    m_told->adjustSize();
    const auto area = m_plot->axisRect()->rect(); // on the side where the cursor is not
    const bool right = m_plot->xAxis->coordToPixel(x) < area.center().x();
    m_told->move(right ? std::max(area.left(), area.right() - m_told->width() - 4) : area.left() + 4, area.top() + 4);
    m_told->show();
    m_plot->replot(QCustomPlot::rpQueuedReplot);
}

// What was dragged or zoomed stays with the survey.
void ChartPanel::keepRanges() {
    if (m_chart.curves.empty())
        return;
    const auto x = m_plot->xAxis->range();
    const auto y = m_plot->yAxis->range();
    if (m_xDrawn == x && m_yDrawn == y)
        return;
    editChart("Range of the chart",
              [&](ChartView& next) {
                  next.xRange = {x.lower, x.upper};
                  next.yRange = {y.lower, y.upper};
              },
              {GestureKind::ChartRange});
}

} // namespace pyro

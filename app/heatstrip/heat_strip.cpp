#include "app/heatstrip/heat_strip.h"

#include "app/heatstrip/heat_strip_sizes.h"
#include "app/session/settings.h"

#include <QMouseEvent>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr int fullHeight = 112;
constexpr int lowHeight = 70;
constexpr double gripReach = 9; // pixels

} // namespace

HeatStrip::HeatStrip(Session& session, QWidget* parent) : QWidget(parent), m_session(session) {
    setObjectName("heatStrip");
    setLow(settings::lowStrip());
    setMouseTracking(true);
    const std::array<std::tuple<const char*, const char*, void (HeatStrip::*)()>, 4> fits{
        {{"fitVisible", "Visible", &HeatStrip::fitVisible},
         {"fitPart", "Selected part", &HeatStrip::fitPart},
         {"fitHottestTenth", "Hottest tenth", &HeatStrip::fitHottestTenth},
         {"fitAllSteps", "All steps", &HeatStrip::fitAllSteps}}};
    for (const auto& [name, text, slot] : fits) {
        auto* button = new QPushButton(text, this);
        button->setObjectName(name);
        button->setProperty("class", "strip");
        button->setCursor(Qt::PointingHandCursor);
        button->setStyleSheet(
            "QPushButton{background:transparent;color:#9AA1AA;padding:2px 6px;font-size:12px;border:none}"
            "QPushButton:hover{color:#F6A13A} QPushButton:disabled{color:#555C65}");
        connect(button, &QPushButton::clicked, this, slot);
        m_fits.append(button);
    }
    m_common = new QPushButton("One range for all cases and steps", this);
    m_common->setObjectName("commonRange");
    m_common->setCheckable(true);
    m_common->setCursor(Qt::PointingHandCursor);
    m_common->setStyleSheet(m_fits.first()->styleSheet() + "QPushButton:checked{color:#F6A13A}");
    m_common->setToolTip("Without a range of your own: the colours mean the same on all open cases and on all steps "
                         "that were shown or read");
    connect(m_common, &QPushButton::clicked, this, [this](bool on) {
        auto view = m_session.view();
        view.field.strip.common = on;
        view.range.reset();
        m_session.editView(on ? "One range for all" : "A range for each", view);
    });
    m_scale = new QPushButton("Colours", this);
    m_scale->setObjectName("scaleButton");
    m_scale->setCursor(Qt::PointingHandCursor);
    m_scale->setStyleSheet(m_fits.first()->styleSheet() + "QPushButton::menu-indicator{width:0}");
    m_scale->setToolTip("Palette, bands, direction, logarithm, tint, lock");
    session.listen(this, contents, &HeatStrip::refresh);
    session.listen(this, Change::Marked, [](HeatStrip* strip) { strip->update(); });
    refresh();
}

void HeatStrip::setLow(bool low) {
    m_low = low;
    settings::setLowStrip(low);
    setFixedHeight(low ? lowHeight : fullHeight);
    update();
}

double HeatStrip::shareOfAxis(double si) const {
    if (m_logarithmic && m_axis[0] > 0 && si > 0)
        return std::log(si / m_axis[0]) / std::log(m_axis[1] / m_axis[0]);
    return (si - m_axis[0]) / (m_axis[1] - m_axis[0]);
}

double HeatStrip::shareOfRange(double si) const {
    if (m_logarithmic && si > 0)
        return std::log(si / m_range[0]) / std::log(m_range[1] / m_range[0]);
    return (si - m_range[0]) / (m_range[1] - m_range[0]);
}

QRectF HeatStrip::bar() const {
    return {stripSideMargin, height() - stripBarHeight - 24, std::max(10.0, width() - 2 * stripSideMargin),
            stripBarHeight};
}

double HeatStrip::xOf(double si) const {
    const auto area = bar();
    return area.left() + shareOfAxis(si) * area.width();
}

double HeatStrip::valueAt(double x) const {
    const auto area = bar();
    const double share = (x - area.left()) / area.width();
    if (m_logarithmic && m_axis[0] > 0)
        return m_axis[0] * std::pow(m_axis[1] / m_axis[0], share);
    return m_axis[0] + share * (m_axis[1] - m_axis[0]);
}

// The axis spans what is visible and the range, so that neither ever lies off the strip.
void HeatStrip::refresh() {
    const auto range = shownRange(m_session.seen());
    m_filled = range.has_value();
    m_strip = m_session.view().field.strip;
    m_logarithmic = isLogarithmic(m_session.seen());
    m_fits[1]->setEnabled(m_filled && !m_session.selection().selectedPart().empty());
    m_fits[0]->setEnabled(m_filled);
    m_fits[2]->setEnabled(m_filled);
    const auto* state = m_session.activeCase();
    m_fits[3]->setVisible(state != nullptr && state->series.steps.size() > 1);
    m_common->setVisible(m_session.hasSeveralPictures());
    m_common->setChecked(m_strip.common && !m_session.view().range);
    if (m_filled) {
        m_distribution = visibleDistribution(m_session.seen());
        m_range = *range;
        if (m_grip == Grip::None) { // while dragging the axis stands still
            m_axis = m_range;
            const auto view = m_session.view();
            if (view.range && !m_distribution.empty()) {
                const auto visible = m_distribution.rebinned(m_distribution.low(), m_distribution.high(), 512);
                const double width = (m_distribution.high() - m_distribution.low()) / 512;
                const auto first = std::ranges::find_if(visible, [](double extent) { return extent > 0; });
                const auto last = std::find_if(visible.rbegin(), visible.rend(),
                                               [](double extent) { return extent > 0; });
                m_axis[0] = std::min(m_axis[0],
                                     m_distribution.low() + width * static_cast<double>(first - visible.begin()));
                m_axis[1] = std::max(m_axis[1],
                                     m_distribution.high() - width * static_cast<double>(last - visible.rbegin()));
            }
        }
        if (m_logarithmic) // the axis of a logarithm cannot reach zero
            m_axis[0] = std::max(m_axis[0], std::min(m_range[0], m_axis[1] * 1e-6));
        const double slack = 1e-9 * (m_range[1] - m_range[0]);
        m_shareBelow = m_distribution.shareBelow(m_range[0] - slack);
        m_shareAbove = m_distribution.shareAbove(m_range[1] + slack);
        if (!m_session.view().range || m_distribution.empty()) { // fitted: nothing visible lies outside by definition
            m_shareBelow = 0;
            m_shareAbove = 0;
        }
    }
    update();
}

void HeatStrip::setRange(double low, double high, const QString& what, Gesture gesture) {
    auto view = m_session.view();
    view.range = std::array<double, 2>{low, high};
    m_session.editView(what, view, gesture);
}

void HeatStrip::fitVisible() {
    if (!m_filled)
        return;
    auto view = m_session.view();
    view.range.reset();
    view.field.strip.common = false;
    m_session.editView("Fit range to what is visible", view);
}

void HeatStrip::fitPart() {
    const auto picture = m_session.seenPicture();
    if (!picture)
        return;
    const auto part = picture->opened.solved->partNamed(m_session.selection().selectedPart());
    const auto& quantity = picture->quantity;
    const auto* array = part ? picture->opened.solved->parts[*part].find(quantity.array, quantity.on) : nullptr;
    if (array != nullptr && array->max > array->min)
        setRange(quantity.toSi(array->min), quantity.toSi(array->max), "Fit range to the part");
}

void HeatStrip::fitHottestTenth() {
    const auto range = shownRange(m_session.seen());
    if (!range || m_distribution.empty())
        return;
    auto view = m_session.view();
    view.range.reset();
    double high = m_distribution.high();
    const auto classes = m_distribution.rebinned(m_distribution.low(), high, 512);
    for (auto at = classes.rbegin(); at != classes.rend() && *at <= 0; ++at)
        high -= (m_distribution.high() - m_distribution.low()) / 512;
    setRange(m_distribution.valueWithShareAbove(0.1), high, "Fit range to the hottest tenth");
}

QString HeatStrip::written(double si) const { return QString::fromStdString(m_session.unit().number(si)); }

HeatStrip::Grip HeatStrip::gripAt(const QPointF& at) const {
    const auto area = bar();
    if (!m_filled || at.y() < area.top() - 8 || at.y() > area.bottom() + 8)
        return Grip::None;
    const double toLow = std::abs(at.x() - xOf(m_range[0]));
    const double toHigh = std::abs(at.x() - xOf(m_range[1]));
    if (std::min(toLow, toHigh) <= gripReach)
        return toLow < toHigh ? Grip::Low : Grip::High;
    return at.x() > xOf(m_range[0]) && at.x() < xOf(m_range[1]) ? Grip::Both : Grip::None;
}

void HeatStrip::mousePressEvent(QMouseEvent* event) {
    m_grip = gripAt(event->position());
    ++m_gesture.which;
    const double held = m_grip == Grip::High ? m_range[1] : m_range[0];
    m_gripOffset = event->position().x() - xOf(held);
}

void HeatStrip::mouseMoveEvent(QMouseEvent* event) {
    if (m_grip == Grip::None || event->buttons() == Qt::NoButton) {
        const auto grip = gripAt(event->position());
        setCursor(grip == Grip::None ? Qt::ArrowCursor : grip == Grip::Both ? Qt::OpenHandCursor : Qt::SizeHorCursor);
        return;
    }
    const double least = (m_axis[1] - m_axis[0]) / 500;
    const double value = valueAt(event->position().x() - m_gripOffset);
    double low = m_range[0];
    double high = m_range[1];
    if (m_grip == Grip::Low)
        low = std::clamp(value, m_axis[0], high - least);
    else if (m_grip == Grip::High)
        high = std::clamp(value, low + least, m_axis[1]);
    else {
        const double shift = std::clamp(value, m_axis[0], m_axis[1] - (high - low)) - low;
        low += shift;
        high += shift;
    }
    setRange(low, high, "Colour range", m_gesture);
}

void HeatStrip::mouseReleaseEvent(QMouseEvent*) {
    m_grip = Grip::None;
    refresh();
}

void HeatStrip::resizeEvent(QResizeEvent*) {
    double x = width() - 10;
    m_scale->adjustSize();
    x -= m_scale->width();
    m_scale->move(static_cast<int>(x), 4);
    x -= 18;
    for (auto at = m_fits.rbegin(); at != m_fits.rend(); ++at) {
        (*at)->adjustSize();
        x -= (*at)->width();
        (*at)->move(static_cast<int>(x), 4);
    }
    m_common->adjustSize();
    m_common->move(static_cast<int>(x) - m_common->width() - 60, 4); // "fit to" stands between
}

} // namespace pyro

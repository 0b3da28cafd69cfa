#include "app/stages/compare/pane.h"

#include "app/theme/theme.h"
#include "render/palette.h"
#include "render/text.h"

#include <QMouseEvent>
#include <QPainter>
#include <cmath>

namespace pyro {
namespace {

constexpr int crossSize = 17;

// Where the mouse points in another pane.
class Cross : public QWidget {
public:
    explicit Cross(QWidget* parent) : QWidget(parent) {
        setAttribute(Qt::WA_TransparentForMouseEvents);
        resize(crossSize, crossSize);
        hide();
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        const double middle = crossSize / 2.0;
        for (const auto& [colour, width] : {std::pair{QColor(20, 23, 27), 3.0}, {QColor(242, 239, 234), 1.2}}) {
            painter.setPen(QPen(colour, width));
            painter.drawLine(QPointF(middle, 0), QPointF(middle, crossSize));
            painter.drawLine(QPointF(0, middle), QPointF(crossSize, middle));
        }
    }
};

// Colours of a difference from one end to the other, zero in the middle.
class DifferenceScale : public QWidget {
public:
    explicit DifferenceScale(QWidget* parent, const PaneLook& look) : QWidget(parent), m_look(look) {
        setAttribute(Qt::WA_TransparentForMouseEvents);
        hide();
    }

protected:
    void paintEvent(QPaintEvent*) override {
        QPainter painter(this);
        constexpr int bar = 9;
        for (int x = 0; x < width(); ++x) {
            const auto colour = stripColour(m_look.strip, (x + 0.5) / width());
            painter.fillRect(x, 0, 1, bar,
                             QColor::fromRgbF(static_cast<float>(colour[0]), static_cast<float>(colour[1]),
                                              static_cast<float>(colour[2])));
        }
        painter.setPen(QColor(242, 239, 234));
        const QRect below(0, bar + 2, width(), height() - bar - 2);
        const auto end = q(m_look.unit.text(m_look.range[1]));
        painter.drawText(below, Qt::AlignLeft | Qt::AlignTop, "\u2212" + end);
        painter.drawText(below, Qt::AlignHCenter | Qt::AlignTop, "0");
        painter.drawText(below, Qt::AlignRight | Qt::AlignTop, "+" + end);
    }

private:
    const PaneLook& m_look;
};

QLabel* wordsOn(QWidget* pane, const char* name) {
    auto* label = new QLabel(pane);
    label->setObjectName(name);
    label->setAttribute(Qt::WA_TransparentForMouseEvents);
    return label;
}

} // namespace

Pane::Pane(QWidget* parent)
    : SceneWidget(parent), m_title(wordsOn(this, "paneTitle")), m_figure(wordsOn(this, "paneFigure")),
      m_words(wordsOn(this, "paneWords")), m_reading(wordsOn(this, "paneReading")), m_cross(new Cross(this)),
      m_scale(new DifferenceScale(this, m_look)) {
    setObjectName("pane");
    setMouseTracking(true);
    setMinimumSize(120, 100);
    m_words->setAlignment(Qt::AlignCenter);
    m_words->setWordWrap(true);
}

void Pane::setLook(PaneLook look, const ViewState& view) {
    m_look = std::move(look);
    if (m_look.picture != m_shown) {
        m_shown = m_look.picture;
        if (m_shown)
            m_scene.show(m_shown);
        else
            m_scene.clear();
    }
    m_title->setText(m_look.title);
    m_figure->setText(m_look.figure);
    m_words->setText(m_look.words);
    m_words->setVisible(!m_look.words.isEmpty());
    m_scale->setVisible(m_look.isDifference && m_shown);
    if (m_shown) {
        const auto& parts = m_shown->opened.solved->parts;
        for (std::size_t i = 0; i < parts.size(); ++i) {
            const auto opacity = view.opacity.find(parts[i].name);
            m_scene.setPart(i, std::ranges::find(m_look.visible, i) != m_look.visible.end(),
                            opacity == view.opacity.end() ? 1.0 : opacity->second);
        }
        m_scene.setRange(m_look.range[0], m_look.range[1], m_look.strip, m_look.logarithmic);
        m_sections.update(view.field, m_look.orders.get(), m_shown, m_look.visible);
        m_scene.setSections(m_sections.shown());
        m_scene.setIsotherms(m_look.isotherms);
        m_scene.setHatched(m_look.isDifference);
        if (view.camera)
            setCamera(*view.camera);
        else
            m_scene.fitFirst();
    }
    placeWords();
    update();
}

namespace {

// The first of some boxes around a place that meets no other one and lies within the pane; else the first.
QRectF freeBox(const QPointF& at, const QSizeF& size, const std::vector<QRectF>& taken, const QRectF& within) {
    const std::array corners{QPointF(10, -size.height() / 2),
                             QPointF(-10 - size.width(), -size.height() / 2),
                             QPointF(-size.width() / 2, 9),
                             QPointF(-size.width() / 2, -9 - size.height()),
                             QPointF(10, 4),
                             QPointF(10, -4 - size.height())};
    for (const auto& corner : corners) {
        const QRectF box(at + corner, size);
        const auto meets = [&](const QRectF& other) { return other.intersects(box); };
        if (within.contains(box) && std::ranges::none_of(taken, meets))
            return box;
    }
    return {at + corners[0], size};
}

} // namespace

void Pane::paintGL() {
    SceneWidget::paintGL();
    if (!m_shown || m_look.labels.empty())
        return;
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const QFontMetrics metrics(font());
    std::vector<QRectF> taken;
    for (const auto& label : m_look.labels)
        taken.emplace_back(pixelOf(label.at) - QPointF(6, 6), QSizeF(12, 12));
    for (const auto& label : m_look.labels) {
        const auto at = pixelOf(label.at);
        painter.setPen(QPen(QColor(20, 23, 27), 1.2));
        painter.setBrush(label.colour);
        painter.drawEllipse(at, 5, 5);
        if (label.beyond) {
            painter.setPen(QPen(theme::ember, 2));
            painter.setBrush(Qt::NoBrush);
            painter.drawEllipse(at, 8, 8);
        }
        const auto box = freeBox(at, QSizeF(metrics.horizontalAdvance(label.text) + 8, metrics.height() + 2), taken,
                                 rect());
        taken.push_back(box);
        painter.setPen(Qt::NoPen);
        painter.setBrush(QColor(20, 23, 27, 190));
        painter.drawRect(box);
        painter.setPen(label.beyond ? QColor(255, 170, 140) : QColor(242, 239, 234));
        painter.drawText(box, Qt::AlignCenter, label.text);
    }
}

double Pane::widening() const {
    if (m_whole.isEmpty() || width() == 0 || height() == 0)
        return 1;
    const double whole = static_cast<double>(m_whole.width()) / m_whole.height();
    return std::max(1.0, whole * height() / width());
}

void Pane::setCamera(const CameraState& camera) {
    m_camera = camera;
    auto own = camera;
    own.scale *= widening();
    m_scene.setCamera(own);
    update();
}

CameraState Pane::camera() const {
    auto whole = m_scene.camera();
    whole.scale /= widening();
    return whole;
}

void Pane::fit() {
    m_scene.fit();
    m_camera = camera();
    update();
}

void Pane::setMoving(bool moving) {
    m_scene.setMoving(moving);
    update();
}

void Pane::point(const std::optional<QPointF>& at) {
    m_cross->setVisible(at.has_value() && !underMouse());
    m_reading->clear();
    if (at) {
        m_cross->move((*at - QPointF(crossSize, crossSize) / 2).toPoint());
        const auto pixel = vtkPixel(*at);
        if (const auto picked = m_shown ? m_scene.pick(pixel[0], pixel[1]) : std::nullopt)
            m_reading->setText(picked->value ? (m_look.isDifference && *picked->value > 0 ? "+" : "") +
                                                   q(m_look.unit.text(*picked->value))
                               : m_look.isDifference ? QString("no partner there")
                                                     : QString("no value"));
    }
    placeWords();
}

void Pane::placeWords() {
    constexpr int edge = 12;
    for (auto* label : {m_title, m_figure, m_reading})
        label->adjustSize();
    m_figure->move(width() - edge - m_figure->width(), edge);
    const auto left = [&](const QLabel& label) { return m_look.onRight ? width() - edge - label.width() : edge; };
    const int top = m_look.onRight ? m_figure->geometry().bottom() + 2 : edge;
    m_title->move(left(*m_title), top);
    m_reading->move(left(*m_reading), m_title->geometry().bottom() + 2);
    m_words->setGeometry(edge, height() / 3, width() - 2 * edge, height() / 3);
    const int scale = std::min(240, width() - 4 * edge);
    m_scale->setGeometry((width() - scale) / 2, height() - 40, scale, 30);
    for (auto* label : {m_title, m_figure, m_reading})
        label->raise();
}

void Pane::resizeEvent(QResizeEvent* event) {
    SceneWidget::resizeEvent(event);
    if (m_camera) // as much from side to side as before
        setCamera(*m_camera);
    placeWords();
}

void Pane::mousePressEvent(QMouseEvent* event) { m_last = event->position(); }

// As in the viewport: left turns; right, middle or Shift moves; the wheel zooms about the cursor.
void Pane::mouseMoveEvent(QMouseEvent* event) {
    if (event->buttons() == Qt::NoButton) {
        emit pointed(event->position());
        return;
    }
    if (!m_shown)
        return;
    const auto step = event->position() - m_last;
    m_last = event->position();
    const bool move = (event->buttons() & (Qt::RightButton | Qt::MiddleButton)) != 0 ||
                      (event->modifiers() & Qt::ShiftModifier) != 0 || m_shown->opened.solved->plane;
    if (move)
        m_scene.pan(step.x() * devicePixelRatioF(), -step.y() * devicePixelRatioF());
    else
        m_scene.orbit(-step.x() * degreesPerPixel, step.y() * degreesPerPixel);
    m_camera = camera();
    update();
    emit turned();
}

void Pane::mouseReleaseEvent(QMouseEvent*) { emit released(); }

void Pane::mouseDoubleClickEvent(QMouseEvent*) {
    fit();
    emit turned();
    emit released();
}

void Pane::wheelEvent(QWheelEvent* event) {
    const auto pixel = vtkPixel(event->position());
    m_scene.zoom(std::pow(1.0015, event->angleDelta().y()), pixel[0], pixel[1]);
    m_camera = camera();
    update();
    emit turned();
    emit released();
}

void Pane::leaveEvent(QEvent*) { emit pointed(std::nullopt); }

} // namespace pyro

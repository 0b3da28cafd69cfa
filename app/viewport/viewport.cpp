#include "app/viewport/viewport.h"

#include "app/stages/stage.h"
#include "app/viewport/overlay.h"
#include "core/field/boundary_at.h"
#include "core/field/vector_algebra.h"
#include "core/gauge/places.h"

#include <QHelpEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QToolTip>
#include <algorithm>
#include <cmath>
#include <numbers>

namespace pyro {
Viewport::Viewport(Session& session, QWidget* parent)
    : SceneWidget(parent), m_session(session), m_handle(session, *this), m_gaugeHandle(session, *this),
      m_placer(session, *this), m_overlay(new Overlay(session, *this)), m_chip(new QPushButton(this)),
      m_notice(new Notice(this)) {
    setObjectName("viewport");
    setMouseTracking(true);
    setMinimumSize(240, 160);
    setFocusPolicy(Qt::ClickFocus);
    m_chip->setObjectName("chip");
    m_chip->setCursor(Qt::PointingHandCursor);
    m_chip->move(12, 12);
    m_chip->hide();
    connect(m_chip, &QPushButton::clicked, this, [this] {
        auto view = m_session.view();
        view.hidden.clear();
        view.isolated.reset();
        m_session.editView("Show all parts", view);
    });
    connect(&m_session, &Session::changed, this, &Viewport::follow);
    m_swing.setInterval(40);
    connect(&m_swing, &QTimer::timeout, this, [this] {
        m_swingTime += 0.04;
        constexpr double period = 2.4; // s
        m_scene.setDeformed(m_session.extras().deformed(), m_session.view().field.deformed.ghost,
                            0.5 - 0.5 * std::cos(2 * std::numbers::pi * m_swingTime / period));
        update();
    });
    m_particles.setInterval(40);
    connect(&m_particles, &QTimer::timeout, this, [this] {
        m_particleTime += 0.008; // spans: most lines are run through in five seconds
        m_scene.setParticleTime(m_particleTime);
        update();
    });
}

void Viewport::paintGL() {
    if (m_fitPending) {
        m_fitPending = false;
        m_scene.fitFirst();
        keepCamera();
    }
    SceneWidget::paintGL();
    m_overlay->update();
}

void Viewport::resizeEvent(QResizeEvent* event) {
    SceneWidget::resizeEvent(event);
    m_overlay->resize(size());
}

void Viewport::follow(Changes what) {
    if (what & (Change::Picture | Change::Cases | Change::Survey))
        showPicture();
    if (what & (Change::View | Change::Picture | Change::Readings)) {
        updateParts();
        updateRange();
    }
    if (what & Change::Camera) {
        m_fitPending = false;
        m_scene.setCamera(*m_session.view().camera);
    }
    if (what & (Change::Selection | Change::Pointed) && m_shown &&
        m_scene.setBoundaries(shownBoundaries(m_session.seen()), m_session.litBoundaries()))
        update();
    if (what & (Change::Selection | Change::Marked))
        m_overlay->update();
    if (what & (Change::View | Change::Picture | Change::Readings | Change::Survey | Change::Cases | Change::Selection))
        updateChip();
    if (what & (Change::View | Change::Picture | Change::Survey | Change::Camera))
        update();
    else
        m_overlay->update(); // the field itself looks as before
}

void Viewport::showPicture() {
    const auto picture = m_session.seenPicture();
    if (picture == m_shown)
        return;
    m_shown = picture;
    m_hover.reset();
    if (!picture) {
        m_scene.clear();
        return;
    }
    m_scene.show(picture);
    const auto camera = m_session.view().camera;
    if (camera)
        m_scene.setCamera(*camera);
    m_fitPending = !camera;
}

void Viewport::updateParts() {
    if (!m_shown)
        return;
    const auto view = m_session.view();
    const auto visible = visibleParts(m_session.seen());
    const auto& parts = m_shown->opened.solved->parts;
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const auto opacity = view.opacity.find(parts[i].name);
        const auto paths = m_session.extras().paths();
        const auto levels = m_session.extras().levels();
        const bool seeThrough = (paths && paths->lines() > 0 && view.field.paths.ghost) ||
                                (levels && !levels->levels.empty());
        const double ghost = seeThrough ? 0.16 : 1.0;
        m_scene.setPart(i, std::ranges::find(visible, i) != visible.end(),
                        ghost * (opacity == view.opacity.end() ? 1.0 : opacity->second));
    }
}

void Viewport::updateRange() {
    if (const auto range = shownRange(m_session.seen()))
        m_scene.setRange((*range)[0], (*range)[1], m_session.view().field.strip, isLogarithmic(m_session.seen()));
    m_scene.setSections(m_session.sections());
    m_scene.setGround(m_session.view().field.isotherms.ground, materialGroups(m_session.seen()));
    if (m_shown)
        m_scene.setBoundaries(shownBoundaries(m_session.seen()), m_session.litBoundaries());
    const auto& extras = m_session.extras();
    m_scene.setPaths(extras.paths(), m_session.view().field.paths);
    m_scene.setArrows(extras.arrows());
    m_scene.setLevels(extras.levels());
    m_scene.setShell(extras.shell());
    if (m_session.view().field.deformed.moving && extras.deformed() && extras.deformed()->why.empty()) {
        m_swing.start();
    } else {
        m_swing.stop();
        m_scene.setDeformed(extras.deformed(), m_session.view().field.deformed.ghost);
    }
    m_scene.setIsotherms(isothermRule(m_session.seen())); // on the faces where they stand now
    const auto paths = extras.paths();
    if (paths && paths->lines() > 0 && m_session.view().field.paths.moving)
        m_particles.start();
    else
        m_particles.stop();
}

void Viewport::updateChip() {
    const auto* state = m_session.activeCase();
    if (state == nullptr || !state->opened) {
        m_chip->hide();
        return;
    }
    const auto& parts = state->opened->solved->parts;
    const auto visible = visibleParts(m_session.seen());
    const auto hidden = parts.size() - visible.size();
    QString text;
    if (hidden == 1) {
        for (std::size_t i = 0; i < parts.size(); ++i)
            if (std::ranges::find(visible, i) == visible.end())
                text = "1 part hidden: " + QString::fromStdString(shownName(*m_session.activeEntry(), parts[i].name));
    } else {
        text = QString("%1 parts hidden").arg(hidden);
    }
    if (state->readings) {
        const RegionReading* hottest = nullptr;
        for (const auto& part : state->readings->parts)
            if (part.max && (hottest == nullptr || part.max->kelvin > hottest->max->kelvin))
                hottest = &part;
        if (hottest != nullptr) {
            const auto at = static_cast<std::size_t>(hottest - state->readings->parts.data());
            if (std::ranges::find(visible, at) == visible.end())
                text += QString("   \u25B2 the hottest place, %1, lies in hidden %2")
                            .arg(QString::fromStdString(formatTemperature(*hottest->max, m_session.view().unit)),
                                 QString::fromStdString(shownName(*m_session.activeEntry(), hottest->name)));
        }
    }
    m_chip->setText(text);
    m_chip->setToolTip("Click to show all parts (A)");
    m_chip->adjustSize();
    m_chip->setVisible(hidden > 0);
}

// Told, so that pictures beside this one follow.
void Viewport::keepCamera() { m_session.moveCamera(m_scene.camera()); }

void Viewport::fit() {
    m_scene.fit();
    keepCamera();
    update();
}

void Viewport::lookAlong(int axis, bool fromOtherSide) {
    m_scene.lookAlong(axis, fromOtherSide);
    keepCamera();
    update();
}

void Viewport::flyTo(const Point& place, double radius) {
    m_fitPending = false;
    m_scene.flyTo(place, radius);
    keepCamera();
    update();
}

void Viewport::setMoving(bool moving) {
    m_scene.setMoving(moving);
    update();
}

void Viewport::turn(double azimuthDegrees, double elevationDegrees) {
    m_scene.orbit(azimuthDegrees, elevationDegrees);
    update();
}

Point Viewport::shifted(const Point& place, const QPointF& by) const {
    const auto camera = m_session.view().camera;
    if (!camera)
        return place;
    const double perPixel = 2 * camera->scale / std::max(1, height());
    const auto out = minus(camera->focus, camera->position);
    const auto right = cross(out, camera->up);
    const double length = std::sqrt(dot(right, right));
    auto moved = place;
    for (std::size_t axis = 0; axis < 3 && length > 0; ++axis)
        moved[axis] += perPixel * (by.x() * right[axis] / length - by.y() * camera->up[axis]);
    return moved;
}

std::optional<Point> Viewport::surfaceAt(const QPointF& at) {
    const auto pixel = vtkPixel(at);
    const auto picked = m_shown ? m_scene.pick(pixel[0], pixel[1]) : std::nullopt;
    return picked ? std::optional(picked->at) : std::nullopt;
}

bool Viewport::isInSight(const Point& place) {
    const auto pixel = m_scene.toPixel(place);
    const auto picked = m_scene.pick(pixel[0], pixel[1]);
    if (!picked)
        return false;
    double squares = 0;
    for (std::size_t axis = 0; axis < 3; ++axis)
        squares += (picked->at[axis] - place[axis]) * (picked->at[axis] - place[axis]);
    return std::sqrt(squares) < 0.02 * m_scene.camera().scale;
}

std::optional<std::size_t> Viewport::partAtCursor() const {
    if (m_hover && underMouse())
        return m_hover->part;
    const auto* state = m_session.activeCase();
    return state != nullptr && state->opened ? state->opened->solved->partNamed(m_session.selection().selectedPart())
                                             : std::nullopt;
}

std::optional<Point> Viewport::placeAtCursor() const {
    if (!m_hover || !m_shown)
        return std::nullopt;
    if (!m_hover->surface)
        return m_hover->at;
    auto place = withinCell(m_shown->opened.solved->parts[m_hover->part], m_hover->surface->cell, m_hover->at);
    if (const auto& plane = m_shown->opened.solved->plane) { // not out of the plane
        const double out = dot(plane->normal, minus(place, m_hover->at));
        for (std::size_t axis = 0; axis < 3; ++axis)
            place[axis] -= out * plane->normal[axis];
    }
    return place;
}

std::optional<Point> Viewport::normalAtCursor() const {
    if (!m_hover || !m_hover->surface || !m_shown)
        return std::nullopt;
    const auto& mesh = m_shown->opened.solved->parts[m_hover->surface->part].mesh;
    PolygonFan face;
    face.measure(3, [&](std::size_t i) { return m_hover->surface->corner[i]; });
    return outwards(face, mesh.cellCentre(m_hover->surface->cell));
}

QImage Viewport::picture(double scale, bool light) {
    if (!isValid())
        return {}; // never shown, or there is no OpenGL
    const double ratio = devicePixelRatioF() * scale;
    m_scene.setLightGround(light);
    auto image = scale == 1 ? grabFramebuffer() : drawnAt(ratio);
    m_scene.setLightGround(false);
    image.setDevicePixelRatio(ratio);
    QPainter painter(&image);
    m_overlay->draw(painter, light);
    painter.end();
    if (light)
        update(); // the window itself stays as it was
    image.setDevicePixelRatio(devicePixelRatioF());
    return image;
}

void Viewport::setParticleTime(double spans) {
    m_particles.stop();
    m_particleTime = spans;
    m_scene.setParticleTime(spans);
    update();
}

QString Viewport::allReadings() const {
    const auto* state = m_session.activeCase();
    if (!m_hover || !m_hover->surface || state == nullptr || !state->opened)
        return {};
    QStringList lines{
        QString::fromStdString(shownName(*m_session.activeEntry(), state->opened->solved->parts[m_hover->part].name))};
    for (const auto& reading : readPlace(*state->opened->solved, state->quantities, *m_hover->surface)) {
        const auto& quantity = *reading.quantity;
        lines.append(QString::fromStdString(quantity.name).replace('_', ' ') +
                     (reading.along != 0 ? QString(" along ") + reading.along : QString()) + "  " +
                     QString::fromStdString(m_session.unitOf(quantity).text(reading.value)) +
                     (quantity.on == Location::Node ? "" : "  (cell)"));
    }
    return lines.join("\n");
}

bool Viewport::event(QEvent* event) {
    if (event->type() != QEvent::ToolTip)
        return SceneWidget::event(event);
    const auto text = allReadings();
    if (text.isEmpty())
        QToolTip::hideText();
    else
        QToolTip::showText(static_cast<QHelpEvent*>(event)->globalPos(), text, this);
    return true;
}

QImage Viewport::thumbnail(const QSize& size) {
    const auto whole = grabFramebuffer();
    const auto scaled = whole.scaled(size, Qt::KeepAspectRatioByExpanding, Qt::SmoothTransformation);
    return scaled.copy(QRect(QPoint((scaled.width() - size.width()) / 2, (scaled.height() - size.height()) / 2), size));
}

void Viewport::mousePressEvent(QMouseEvent* event) {
    m_last = event->position();
    m_pressed = event->position();
    if (event->button() == Qt::LeftButton && !m_handle.press(event->position()) && !m_placer.isActive())
        m_gaugeHandle.press(event->position());
}

// Left turns; right, middle or Shift moves; the wheel zooms about the cursor.
void Viewport::mouseMoveEvent(QMouseEvent* event) {
    const auto step = event->position() - m_last;
    if (event->buttons() == Qt::NoButton) {
        if (m_shown) {
            const auto pixel = vtkPixel(event->position());
            m_hover = m_scene.pick(pixel[0], pixel[1]);
            m_placer.hover(placeAtCursor());
            if (stageOf(m_session).showsGauges)
                m_session.selection().markPlace(m_placer.onChosenLine(event->position()));
            emit hovered(m_hover);
        }
        return;
    }
    m_last = event->position();
    if (m_handle.isHeld())
        return m_handle.drag(event->position());
    if (m_gaugeHandle.isHeld())
        return m_gaugeHandle.drag(event->position(),
                                  event->modifiers() & Qt::ShiftModifier ? surfaceAt(event->position()) : std::nullopt);
    const bool move = (event->buttons() & (Qt::RightButton | Qt::MiddleButton)) != 0 ||
                      // which is not turned
                      (event->modifiers() & Qt::ShiftModifier) != 0 || m_shown->opened.solved->plane;
    m_scene.setMoving(true);
    if (move)
        m_scene.pan(step.x() * devicePixelRatioF(), -step.y() * devicePixelRatioF());
    else
        turn(-step.x() * degreesPerPixel, step.y() * degreesPerPixel);
    update();
}

void Viewport::mouseReleaseEvent(QMouseEvent* event) {
    if (m_handle.release() || m_gaugeHandle.release())
        return;
    m_scene.setMoving(false);
    update();
    keepCamera();
    const auto moved = event->position() - m_pressed;
    if (event->button() != Qt::LeftButton || std::hypot(moved.x(), moved.y()) > clickSlack || !m_shown)
        return;
    const auto pixel = vtkPixel(event->position());
    const auto picked = m_scene.pick(pixel[0], pixel[1]);
    m_hover = picked;
    if (m_placer.click(placeAtCursor()))
        return;
    const auto* state = m_session.activeCase();
    m_session.selection().selectPart(picked && state != nullptr ? state->opened->solved->parts[picked->part].name : "");
    if (stageOf(m_session).picksBoundaries)
        m_session.selection().selectBoundary(state != nullptr && state->opened && state->opened->solved->plane
                                                 ? boundaryBeside(pixel)
                                                 : boundaryUnder(picked));
}

// Of a plane case: its name where one of its edges runs close by.
std::string Viewport::boundaryBeside(const std::array<double, 2>& pixel) {
    const auto boundary = m_scene.boundaryNear(pixel[0], pixel[1], 8 * devicePixelRatioF());
    return boundary ? m_session.activeCase()->opened->solved->boundaries[*boundary].name : std::string();
}

// Its name; empty where the surface there belongs to none.
std::string Viewport::boundaryUnder(const std::optional<Pick>& picked) const {
    const auto* state = m_session.activeCase();
    if (!picked || !picked->surface || state == nullptr || !state->opened)
        return {};
    const auto& opened = *state->opened;
    const auto boundary = boundaryAt(*opened.solved, *opened.index, picked->part, picked->surface->cell, picked->at);
    return boundary ? opened.solved->boundaries[*boundary].name : std::string();
}

void Viewport::mouseDoubleClickEvent(QMouseEvent* event) {
    const auto pixel = vtkPixel(event->position());
    if (const auto picked = m_shown ? m_scene.pick(pixel[0], pixel[1]) : std::nullopt)
        flyTo(picked->at, m_scene.camera().scale * 0.5);
    else
        fit();
}

void Viewport::wheelEvent(QWheelEvent* event) {
    const auto pixel = vtkPixel(event->position());
    m_scene.zoom(std::pow(1.0015, event->angleDelta().y()), pixel[0], pixel[1]);
    keepCamera();
    update();
}

void Viewport::leaveEvent(QEvent*) {
    m_hover.reset();
    emit hovered(std::nullopt);
}

} // namespace pyro

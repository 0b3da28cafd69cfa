// viewport: the field on the real geometry, with mouse and hover.
#pragma once

#include "app/session/session.h"
#include "app/viewport/gauge_handle.h"
#include "app/viewport/gauge_placer.h"
#include "app/viewport/notice.h"
#include "app/viewport/scene_widget.h"
#include "app/viewport/section_handle.h"

#include <QPushButton>
#include <QTimer>

namespace pyro {

class Overlay;

class Viewport : public SceneWidget {
    Q_OBJECT
public:
    explicit Viewport(Session& session, QWidget* parent = nullptr);

    void fit();
    void lookAlong(int axis, bool fromOtherSide);
    void flyTo(const Point& place, double radius);
    void setMoving(bool moving); // draws large surfaces reduced meanwhile
    void turn(double azimuthDegrees, double elevationDegrees);
    // The part under the cursor, else the selected one.
    std::optional<std::size_t> partAtCursor() const;
    // The place under the cursor, a little within its cell, so that it is found again on every step and case.
    std::optional<Point> placeAtCursor() const;
    // What is seen now, overlay included, for report and tests.
    // `scale`: pixels of the picture to pixels of the window.
    // `light`: on white, for paper.
    QImage picture(double scale = 1, bool light = false);
    void setParticleTime(double spans);  // and stay there until they run on
    QImage thumbnail(const QSize& size); // the field alone
    const SectionHandle& handle() const { return m_handle; }
    const GaugeHandle& gaugeHandle() const { return m_gaugeHandle; }
    GaugePlacer& placer() { return m_placer; }
    Notice& notice() { return *m_notice; }
    // A place that is moved parallel to the screen, by pixels of the widget.
    Point shifted(const Point& place, const QPointF& by) const;
    const std::vector<Isoline>& isotherms() const { return m_scene.isotherms(); }
    // The normal of the surface under the cursor, out of its part; nothing on sections and beside everything.
    std::optional<Point> normalAtCursor() const;
    // All quantities at the place under the cursor, a line each; empty where there is nothing.
    QString allReadings() const;
    // Whether a place is seen and not behind something.
    bool isInSight(const Point& place);

signals:
    void hovered(const std::optional<pyro::Pick>& reading);

protected:
    bool event(QEvent* event) override;
    void paintGL() override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    void follow(Changes what);
    void showPicture();
    void updateParts();
    void updateRange();
    void updateChip();
    void keepCamera();
    std::optional<Point> surfaceAt(const QPointF& at);
    std::string boundaryUnder(const std::optional<Pick>& picked) const;
    std::string boundaryBeside(const std::array<double, 2>& pixel);

    Session& m_session;
    SectionHandle m_handle;
    GaugeHandle m_gaugeHandle;
    GaugePlacer m_placer;
    Overlay* m_overlay;
    QPushButton* m_chip;
    Notice* m_notice;
    QPointF m_last;
    QPointF m_pressed;
    std::optional<Pick> m_hover;
    QTimer m_particles; // runs while particles move along paths
    double m_particleTime = 0;
    QTimer m_swing; // runs while the deformed shape swings
    double m_swingTime = 0;
    bool m_fitPending = false;
};

} // namespace pyro

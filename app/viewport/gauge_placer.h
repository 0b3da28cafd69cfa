// Gauges placed in the viewport: a click for a point, two for a line, with a preview that follows the cursor.
#pragma once

#include "app/session/session.h"

class QPainter;

namespace pyro {

class Viewport;

class GaugePlacer : public QObject {
    Q_OBJECT
public:
    enum class Shape { None, Spot, Line, Place };
    GaugePlacer(Session& session, Viewport& viewport) : m_session(session), m_viewport(viewport) {}

    void begin(Shape shape);
    // The next place that is clicked is given to `taken` and makes no gauge.
    void takePlace(std::function<void(const Point&)> taken);
    void cancel() { begin(Shape::None); }
    bool isActive() const { return m_shape != Shape::None; }
    // A click at a place, or beside everything. True when the click was meant for the placer.
    bool click(const std::optional<Point>& place);
    void hover(const std::optional<Point>& place);
    // What the stage marks: gauges that have a place of their own, the chosen one stronger, with the preview; verdicts
    // where they are decided; the cells and the place of the chosen check.
    void draw(QPainter& painter) const;
    // The place of the chosen line nearest to a pixel, if that is near it; for the chart.
    std::optional<Point> onChosenLine(const QPointF& pixel) const;

signals:
    void advised(const QString& text); // what to do next; empty when done

private:
    void drawVerdicts(QPainter& painter) const;
    void drawSpots(QPainter& painter, const GaugeReading& reading) const;
    void drawGauge(QPainter& painter, const Gauge& gauge, bool chosen) const;
    void drawReading(QPainter& painter, const QPointF& at, const std::string& id, bool chosen) const;

    Session& m_session;
    Viewport& m_viewport;
    Shape m_shape = Shape::None;
    std::function<void(const Point&)> m_taken;
    std::optional<Point> m_from;
    std::optional<Point> m_here;
};

} // namespace pyro

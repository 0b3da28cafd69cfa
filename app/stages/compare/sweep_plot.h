// A picture of a sweep: a map over two parameters, curves over one, all values as lines, or the front of two aims.
#pragma once

#include "core/compare/value_map.h"

#include <qcustomplot.h>

namespace pyro {

// Draws one of them; what to draw is given. Emits what the user points at.
class SweepPlot : public QCustomPlot {
    Q_OBJECT
public:
    explicit SweepPlot(QWidget* parent = nullptr);
    struct Wish {
        std::shared_ptr<const SweepReading> sweep;
        std::vector<SweepValue> values;
        SweepLook look;                // with x, y and value filled in
        std::vector<std::size_t> left; // cases within the ranges
        std::optional<std::size_t> chosen;
    };
    void draw(Wish wish);
    const Wish& wish() const { return m_wish; }
    const std::optional<ValueMap>& map() const { return m_map; }
    // The axes of the lines: parameters, then values; by their keys.
    const std::vector<std::string>& lineAxes() const { return m_axes; }

signals:
    void caseChosen(std::size_t position);
    void caseWanted(std::size_t position); // double-clicked
    void rangeDrawn(const std::string& key,
                    const std::optional<std::array<double, 2>>& range); // on an axis of the lines

protected:
    bool event(QEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;

private:
    void drawMap();
    void dimForbidden(const ValueMap& margins);
    void drawCurves();
    void drawLines();
    void drawFront();
    void note(const QString& text);
    void addPoint(double x, double y, std::size_t which);
    void markPoints();
    std::optional<std::size_t> nearest(const QPoint& at) const;
    std::string unitOnAxis(std::size_t axis) const;
    double shareOnAxis(std::size_t axis, std::size_t which) const;
    std::optional<double> valueOnAxis(std::size_t axis, std::size_t which) const;

    Wish m_wish;
    std::optional<ValueMap> m_map;
    struct Point {
        double x;
        double y;
        std::size_t which;
    };
    std::vector<Point> m_points;
    std::vector<std::string> m_axes;
    std::vector<std::array<double, 2>> m_spans; // of the axes
    std::optional<QPoint> m_pressed;
};

} // namespace pyro

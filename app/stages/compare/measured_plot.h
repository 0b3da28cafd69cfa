// Measured data against the simulation: measured over simulated, over time, or the deviations of a picture.
#pragma once

#include "core/compare/measured.h"
#include "core/units/display.h"

#include <qcustomplot.h>

namespace pyro {

class MeasuredPlot : public QCustomPlot {
    Q_OBJECT
public:
    explicit MeasuredPlot(QWidget* parent = nullptr);
    // `chosen`: name of a sensor whose readings over time are drawn; empty: the first.
    void draw(const MeasuredReading& reading, const std::string& chosen, TemperatureUnit unit);

signals:
    void pointChosen(const std::string& name);

protected:
    bool event(QEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    double shown(double value) const; // in the unit on display
    void drawPicture();
    void drawOverTime(const std::string& name);
    void drawAgainstEachOther();
    void note(const QString& text);
    std::optional<std::size_t> pixelAt(const QPoint& at) const;
    std::string nearest(const QPoint& at) const;

    MeasuredReading m_reading;
    TemperatureUnit m_unit = TemperatureUnit::Celsius;
    struct Dot {
        double x;
        double y;
        std::string name;
    };
    std::vector<Dot> m_dots;
    bool m_isPicture = false;
};

} // namespace pyro

// heatstrip: the colour scale with the distribution of what is visible, its range to drag, limits and extremes.
#pragma once

#include "app/session/session.h"

#include <QMenu>
#include <QPushButton>
#include <QWidget>

namespace pyro {

class HeatStrip : public QWidget {
    Q_OBJECT
public:
    explicit HeatStrip(Session& session, QWidget* parent = nullptr);

    // Positions in widget coordinates, for tests and painting.
    double xOf(double si) const;
    double valueAt(double x) const; // SI
    QRectF bar() const;
    // What is written at the two ends: shares of the visible extent outside the range.
    double shareBelow() const { return m_shareBelow; }
    double shareAbove() const { return m_shareAbove; }
    // What the button "colours" opens: palette, bands and the like.
    // Without the distribution, for a small window; remembered.
    void setLow(bool low);
    bool isLow() const { return m_low; }
    void setScaleMenu(QMenu* menu) { m_scale->setMenu(menu); }

public slots:
    void fitVisible();
    void fitPart();
    void fitHottestTenth();
    void fitAllSteps() { m_session.fitAllSteps(); }

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

private:
    enum class Grip { None, Low, High, Both };
    void refresh();
    void setRange(double low, double high, const QString& what, Gesture gesture = {});
    Grip gripAt(const QPointF& at) const;
    void paintDistribution(QPainter& painter);
    void paintPart(QPainter& painter);
    const Distribution* ofPartInFocus() const;
    std::vector<double> classesOf(const Distribution& distribution) const;
    void paintBar(QPainter& painter);
    void paintFlags(QPainter& painter);
    void paintPins(QPainter& painter);
    void paintLabels(QPainter& painter);
    QString written(double si) const;
    // Place along the axis, 0..1, linear or by the logarithm; and within the range, for colours.
    double shareOfAxis(double si) const;
    double shareOfRange(double si) const;
    QColor colourAt(double share) const;

    Session& m_session;
    QList<QPushButton*> m_fits;
    QPushButton* m_common;
    QPushButton* m_scale;
    StripView m_strip;
    bool m_logarithmic = false;
    Distribution m_distribution;
    std::array<double, 2> m_range{0, 1}; // SI, shown
    std::array<double, 2> m_axis{0, 1};  // SI, ends of the drawn axis
    double m_shareBelow = 0;
    double m_shareAbove = 0;
    bool m_filled = false;
    bool m_low = false;
    Grip m_grip = Grip::None;
    double m_gripOffset = 0;
    Gesture m_gesture{GestureKind::ColourRange}; // the present drag
};

} // namespace pyro

// What is written over the field: the callout at the place that matters, pins at the hottest and coldest visible
// place, the axes.
#pragma once

#include "app/session/session.h"

#include <QWidget>

namespace pyro {

class Viewport;

class Overlay : public QWidget {
    Q_OBJECT
public:
    Overlay(Session& session, Viewport& viewport);
    // `light`: on white, for paper.
    void draw(QPainter& painter, bool light = false);

protected:
    void paintEvent(QPaintEvent* event) override;

private:
    void drawAxes(QPainter& painter);
    void drawPins(QPainter& painter);
    std::array<const RegionValue*, 2> visibleExtremes() const;
    void drawExtremes(QPainter& painter);
    void drawCallout(QPainter& painter);
    void drawEmpty(QPainter& painter);
    void drawLabels(QPainter& painter);
    void drawMaterials(QPainter& painter);
    void drawIsothermLabels(QPainter& painter);

    QColor lineColour() const { return m_light ? QColor(0x22, 0x26, 0x2B) : QColor(Qt::white); }

    Session& m_session;
    Viewport& m_viewport;
    bool m_light = false;
};

// The part the callout speaks of: the selected one if seen, else the visible part with the least margin, else the
// hottest visible one.

} // namespace pyro

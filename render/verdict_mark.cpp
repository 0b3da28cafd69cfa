#include "render/verdict_mark.h"

#include <QPainter>
#include <QPolygonF>

namespace pyro {

QColor verdictColour(Verdict verdict) {
    switch (verdict) {
    case Verdict::Within:
        return QColor(0x2A, 0x9D, 0x8F);
    case Verdict::Tight:
        return QColor(0xE9, 0xA2, 0x3B);
    case Verdict::Over:
        return QColor(0xB5, 0x12, 0x1B);
    case Verdict::Unknown:
        return QColor(0x6B, 0x6F, 0x76);
    }
    return {};
}

void drawVerdict(QPainter& painter, const QRectF& box, Verdict verdict) {
    painter.save();
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(Qt::NoPen);
    painter.setBrush(verdictColour(verdict));
    switch (verdict) {
    case Verdict::Within:
        painter.drawEllipse(box);
        break;
    case Verdict::Tight:
        painter.drawPolygon(QPolygonF({QPointF(box.center().x(), box.top()), box.bottomRight(), box.bottomLeft()}));
        break;
    case Verdict::Over:
        painter.drawRect(box.adjusted(0.5, 0.5, -0.5, -0.5));
        break;
    case Verdict::Unknown: {
        const double width = box.width() / 6;
        painter.setBrush(Qt::NoBrush);
        painter.setPen(QPen(verdictColour(verdict), width));
        painter.drawEllipse(box.adjusted(width / 2, width / 2, -width / 2, -width / 2));
        break;
    }
    }
    painter.restore();
}

} // namespace pyro

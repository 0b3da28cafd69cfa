#include "app/theme/switch.h"

#include "app/theme/theme.h"

#include <QPainter>

namespace pyro {

Switch::Switch(const QString& accessibleName, QWidget* parent) : QAbstractButton(parent) {
    setCheckable(true);
    setObjectName(accessibleName);
    setAccessibleName(accessibleName);
    setCursor(Qt::PointingHandCursor);
    setFixedSize(sizeHint());
}

void Switch::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.setPen(hasFocus() ? QPen(theme::ink, 1) : QPen(Qt::NoPen));
    painter.setBrush(isChecked() ? theme::ember : QColor(0xCF, 0xC8, 0xBB));
    const QRectF pill = QRectF(rect()).adjusted(0.5, 1.5, -0.5, -1.5);
    painter.drawRoundedRect(pill, pill.height() / 2, pill.height() / 2);
    painter.setPen(Qt::NoPen);
    painter.setBrush(Qt::white);
    const double x = isChecked() ? pill.right() - pill.height() / 2 : pill.left() + pill.height() / 2;
    painter.drawEllipse(QPointF(x, pill.center().y()), 4.5, 4.5);
}

} // namespace pyro

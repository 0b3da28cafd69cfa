#include "render/scaled_picture.h"

#include "core/units/display.h"
#include "render/palette.h"

#include <QPainter>
#include <cmath>

namespace pyro {
namespace {

constexpr int bandHeight = 54;
constexpr int ticks = 5;

} // namespace

QImage withScale(const QImage& view, const ScaleCaption& scale) {
    const double ratio = view.devicePixelRatio();
    const QSizeF size = QSizeF(view.size()) / ratio;
    QImage out((QSizeF(size.width(), size.height() + bandHeight) * ratio).toSize(), QImage::Format_RGB32);
    out.setDevicePixelRatio(ratio);
    out.fill(scale.light ? QColor(Qt::white) : QColor(0x20, 0x25, 0x2B));
    QPainter painter(&out);
    painter.setRenderHint(QPainter::Antialiasing);
    painter.drawImage(QPointF(0, 0), view);
    QFont font("Inter");
    font.setPixelSize(12);
    painter.setFont(font);
    painter.setPen(scale.light ? QColor(0x22, 0x26, 0x2B) : QColor(0xE8, 0xEB, 0xEE));
    const double captionWidth = size.width() * 0.36;
    const auto caption = painter.fontMetrics().elidedText(QString::fromStdString(scale.caption), Qt::ElideRight,
                                                          static_cast<int>(captionWidth));
    painter.drawText(QRectF(14, size.height(), captionWidth, bandHeight), Qt::AlignVCenter | Qt::AlignLeft, caption);
    const QRectF bar(14 + captionWidth + 40, size.height() + 10, size.width() - captionWidth - 110, 14);
    painter.setRenderHint(QPainter::Antialiasing, false); // pieces side by side would show seams
    const int pieces = scale.strip.bands > 1 ? scale.strip.bands : 256;
    for (int i = 0; i < pieces; ++i) {
        const auto rgb = stripColour(scale.strip, (i + 0.5) / pieces);
        painter.fillRect(
            QRectF(bar.left() + bar.width() * i / pieces, bar.top(), bar.width() / pieces + 1, bar.height()),
            QColor::fromRgbF(static_cast<float>(rgb[0]), static_cast<float>(rgb[1]), static_cast<float>(rgb[2])));
    }
    for (int i = 0; i < ticks; ++i) {
        const double share = i / (ticks - 1.0);
        const double value = scale.logarithmic ? scale.range[0] * std::pow(scale.range[1] / scale.range[0], share)
                                               : scale.range[0] + share * (scale.range[1] - scale.range[0]);
        auto text = QString::fromStdString(formatNumber(value));
        if (i == ticks - 1)
            text += " " + QString::fromStdString(scale.unit);
        const double x = bar.left() + share * bar.width();
        painter.drawText(QRectF(x - 60, bar.bottom() + 3, 120, 18), Qt::AlignCenter, text);
    }
    return out;
}

} // namespace pyro

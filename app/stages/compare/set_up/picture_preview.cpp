#include "app/stages/compare/set_up/picture_preview.h"

#include "app/theme/theme.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace pyro {

PicturePreview::PicturePreview(QWidget* parent) : QWidget(parent) {
    setObjectName("picturePreview");
    setMinimumSize(280, 210);
    setCursor(Qt::CrossCursor);
}

void PicturePreview::show(const ValueMatrix& matrix) {
    double low = std::nan("");
    double high = std::nan("");
    for (const double value : matrix.values) {
        low = std::fmin(low, value);
        high = std::fmax(high, value);
    }
    m_image = QImage(static_cast<int>(matrix.columns), static_cast<int>(matrix.rows), QImage::Format_RGB32);
    const double size = high > low ? high - low : 1;
    for (int row = 0; row < m_image.height(); ++row)
        for (int column = 0; column < m_image.width(); ++column) {
            const double value =
                matrix.values[static_cast<std::size_t>(row) * matrix.columns + static_cast<std::size_t>(column)];
            const int grey = std::isnan(value) ? 0 : static_cast<int>(255 * (value - low) / size);
            m_image.setPixel(column, row, std::isnan(value) ? qRgb(70, 40, 40) : qRgb(grey, grey, grey));
        }
    update();
}

void PicturePreview::clear() {
    m_image = {};
    update();
}

void PicturePreview::mark(std::vector<std::array<double, 2>> pixels, std::size_t current) {
    m_pixels = std::move(pixels);
    m_current = current;
    update();
}

QRectF PicturePreview::target() const {
    if (m_image.isNull())
        return {};
    const double scale = std::min(width() / static_cast<double>(m_image.width()),
                                  height() / static_cast<double>(m_image.height()));
    const QSizeF size(scale * m_image.width(), scale * m_image.height());
    return {QPointF((width() - size.width()) / 2, (height() - size.height()) / 2), size};
}

void PicturePreview::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), theme::line);
    const auto to = target();
    painter.drawImage(to, m_image);
    painter.setRenderHint(QPainter::Antialiasing);
    for (std::size_t i = 0; i < m_pixels.size() && !m_image.isNull(); ++i) {
        if (!std::isfinite(m_pixels[i][0]) || !std::isfinite(m_pixels[i][1]))
            continue;
        const QPointF at(to.left() + to.width() * m_pixels[i][0] / m_image.width(),
                         to.top() + to.height() * m_pixels[i][1] / m_image.height());
        painter.setPen(QPen(i == m_current ? theme::ember : QColor(Qt::white), 2));
        painter.drawEllipse(at, 5, 5);
        painter.drawText(at + QPointF(8, -4), QString::number(i + 1));
    }
}

void PicturePreview::mousePressEvent(QMouseEvent* event) {
    const auto to = target();
    if (to.contains(event->position()))
        emit clicked(m_image.width() * (event->position().x() - to.left()) / to.width(),
                     m_image.height() * (event->position().y() - to.top()) / to.height());
}

} // namespace pyro

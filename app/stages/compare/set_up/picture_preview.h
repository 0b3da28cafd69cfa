// The matrix of an infrared picture in grey, with the pixels that are matched; a click tells a pixel.
#pragma once

#include "core/sheets/value_matrix.h"

#include <QImage>
#include <QWidget>

namespace pyro {

class PicturePreview : public QWidget {
    Q_OBJECT
public:
    explicit PicturePreview(QWidget* parent = nullptr);
    void show(const ValueMatrix& matrix);
    void clear();
    // Column and row from the upper left corner; NaN: none yet.
    void mark(std::vector<std::array<double, 2>> pixels, std::size_t current);

signals:
    void clicked(double column, double row);

protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;

private:
    QRectF target() const;

    QImage m_image;
    std::vector<std::array<double, 2>> m_pixels;
    std::size_t m_current = 0;
};

} // namespace pyro

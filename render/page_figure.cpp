#include "render/page_figure.h"

#include <QPainter>
#include <mutex>

namespace pyro {
namespace {

class SheetFigure final : public PageFigure {
public:
    SheetFigure(std::vector<PictureSheet> sheets, const SheetLook& look, QSize size)
        : m_sheets(std::move(sheets)), m_look(look), m_size(size) {}
    void draw(QPainter& painter, const QRectF& box) const override {
        const auto target = painter.combinedTransform().mapRect(box).toRect();
        const bool onScreen = painter.device()->devType() == QInternal::Image && target.width() < m_size.width();
        painter.save();
        if (onScreen) {
            painter.resetTransform();
            painter.drawImage(target.topLeft(), small(target.size()));
        } else {
            drawIn(painter, box);
        }
        painter.restore();
    }
    std::string png() const override { return pngOf(imageOf(m_sheets, m_look)); }
    std::string svg() const override { return svgOf(m_sheets, m_look); }

private:
    void drawIn(QPainter& painter, const QRectF& box) const {
        painter.translate(box.topLeft());
        painter.scale(box.width() / m_size.width(), box.height() / m_size.height());
        drawSheets(painter, m_sheets, m_look);
    }
    // Pages on the screen are drawn again and again; scaling three million pixels takes most of it.
    QImage small(const QSize& size) const {
        const std::scoped_lock lock(m_mutex);
        if (m_small.size() != size) {
            m_small = QImage(size, QImage::Format_ARGB32_Premultiplied);
            m_small.fill(Qt::transparent);
            QPainter painter(&m_small);
            painter.setRenderHints(QPainter::Antialiasing | QPainter::SmoothPixmapTransform |
                                   QPainter::TextAntialiasing);
            drawIn(painter, QRectF({0, 0}, size));
        }
        return m_small;
    }

    std::vector<PictureSheet> m_sheets;
    SheetLook m_look;
    QSize m_size;
    mutable std::mutex m_mutex;
    mutable QImage m_small;
};

class LineFigure final : public PageFigure {
public:
    LineFigure(QSize size, std::function<void(QPainter&)> draw) : m_size(size), m_draw(std::move(draw)) {}
    void draw(QPainter& painter, const QRectF& box) const override {
        painter.save();
        painter.translate(box.topLeft());
        painter.scale(box.width() / m_size.width(), box.height() / m_size.height());
        m_draw(painter);
        painter.restore();
    }
    std::string png() const override { return {}; }
    std::string svg() const override { return svgOf(m_size, paintedBy(m_draw)); }

private:
    QSize m_size;
    std::function<void(QPainter&)> m_draw;
};

ReportPicture figure(QSize size, std::shared_ptr<const FigureDrawing> drawing) {
    ReportPicture out;
    out.width = size.width();
    out.height = size.height();
    out.drawing = std::move(drawing);
    return out;
}

} // namespace

ReportPicture figureOf(std::vector<PictureSheet> sheets, const SheetLook& look) {
    const auto size = sizeOf(sheets, look);
    return figure(size, std::make_shared<SheetFigure>(std::move(sheets), look, size));
}

ReportPicture figureOf(QSize size, std::function<void(QPainter&)> draw) {
    return figure(size, std::make_shared<LineFigure>(size, std::move(draw)));
}

ReportPicture figureOf(QSize size, const QPicture& recorded) {
    return figureOf(size, [recorded](QPainter& painter) {
        // Recordings take themselves for dots of 96 to the inch and scale to the device, which the page does already.
        painter.scale(recorded.logicalDpiX() / static_cast<double>(painter.device()->logicalDpiX()),
                      recorded.logicalDpiY() / static_cast<double>(painter.device()->logicalDpiY()));
        painter.drawPicture(0, 0, recorded);
    });
}

} // namespace pyro

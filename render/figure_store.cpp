#include "render/figure_store.h"

#include "render/page_figure.h"

#include <QPainter>
#include <QSvgRenderer>
#include <cmath>

namespace pyro {

struct FigureStore::File {
    QImage pixels;
    QSvgRenderer lines;
};

FigureStore::FigureStore() = default;
FigureStore::~FigureStore() = default;

FigureStore::File& FigureStore::fileOf(const std::string& bytes) {
    auto& kept = m_files[{std::hash<std::string>()(bytes), bytes.size()}];
    if (!kept) {
        kept = std::make_unique<File>();
        const auto data = QByteArray::fromRawData(bytes.data(), static_cast<qsizetype>(bytes.size()));
        if (!kept->pixels.loadFromData(data))
            kept->lines.load(data);
    }
    return *kept;
}

QSizeF FigureStore::sizeOf(const ReportPicture& picture) {
    if (picture.width > 0 && picture.height > 0)
        return QSizeF(picture.width, picture.height);
    if (picture.file.empty())
        return {};
    const auto& file = fileOf(picture.file);
    return file.pixels.isNull() ? QSizeF(file.lines.defaultSize()) : QSizeF(file.pixels.size());
}

bool FigureStore::draw(QPainter& painter, const QRectF& box, const ReportPicture& picture) {
    if (const auto* drawing = dynamic_cast<const PageFigure*>(picture.drawing.get())) {
        drawing->draw(painter, box);
        return true;
    }
    if (picture.file.empty())
        return false;
    auto& file = fileOf(picture.file);
    if (!file.pixels.isNull())
        painter.drawImage(box, file.pixels);
    else if (file.lines.isValid())
        file.lines.render(&painter, box);
    else
        return false;
    return true;
}

QImage FigureStore::image(const ReportPicture& picture, int width) {
    const auto size = sizeOf(picture);
    if (size.isEmpty() || !picture.isThere())
        return {};
    QImage out(width, std::max(1, static_cast<int>(std::lround(width * size.height() / size.width()))),
               QImage::Format_RGB32);
    out.fill(Qt::white);
    QPainter painter(&out);
    painter.setRenderHints(QPainter::Antialiasing | QPainter::TextAntialiasing | QPainter::SmoothPixmapTransform);
    return draw(painter, out.rect(), picture) ? out : QImage();
}

} // namespace pyro

#include "render/drawing_file.h"

#include "core/case/lower_case.h"
#include "core/feedback/whole_file.h"

#include <QBuffer>
#include <QPageSize>
#include <QPainter>
#include <QPdfWriter>
#include <QSvgGenerator>

namespace pyro {
namespace {

// Whether it was drawn; the bytes of the file go to the device.
using Drawing = std::function<bool(QIODevice&)>;

Done notDrawn(const std::string& what, const std::filesystem::path& file) {
    return fail(ErrorCode::WriteFailed, what + " cannot be drawn", file.string(), "Choose a smaller size");
}

Done writeDrawn(const std::string& what, const std::filesystem::path& file, const Drawing& drawing) {
    QBuffer bytes;
    bytes.open(QIODevice::WriteOnly);
    if (!drawing(bytes))
        return notDrawn(what, file);
    bytes.close();
    const auto& data = bytes.data();
    return writeFileAtomically(file, {data.constData(), static_cast<std::size_t>(data.size())}, what);
}

bool drawSvg(QIODevice& bytes, QSize size, const Draw& draw) {
    QSvgGenerator generator;
    generator.setOutputDevice(&bytes);
    generator.setResolution(96);
    generator.setSize(size);
    generator.setViewBox(QRect(QPoint(), size));
    return draw(generator, 1);
}

} // namespace

Draw paintedBy(std::function<void(QPainter&)> paint) {
    return [paint = std::move(paint)](QPaintDevice& device, double scale) {
        QPainter painter;
        if (!painter.begin(&device))
            return false;
        painter.scale(scale, scale);
        paint(painter);
        return painter.end();
    };
}

std::string pngOf(const QImage& picture) {
    QBuffer bytes;
    bytes.open(QIODevice::WriteOnly);
    picture.save(&bytes, "PNG");
    return bytes.data().toStdString();
}

std::string svgOf(QSize size, const Draw& draw) {
    QBuffer bytes;
    bytes.open(QIODevice::WriteOnly);
    drawSvg(bytes, size, draw);
    return bytes.data().toStdString();
}

Done writePicture(const QImage& picture, const std::filesystem::path& file, const std::string& what) {
    return writeDrawn(what, file, [&](QIODevice& bytes) { return picture.save(&bytes, "PNG"); });
}

Done writePdf(const std::string& what, const std::filesystem::path& file,
              const std::function<bool(QPdfWriter&)>& draw) {
    return writeDrawn(what, file, [&](QIODevice& bytes) {
        QPdfWriter writer(&bytes);
        writer.setPageMargins(QMarginsF());
        return draw(writer);
    });
}

Done writeDrawing(const std::string& what, const std::filesystem::path& file, QSize size, const Draw& draw) {
    const auto ending = lowerEnding(file);
    if (ending == ".svg")
        return writeDrawn(what, file, [&](QIODevice& bytes) { return drawSvg(bytes, size, draw); });
    if (ending == ".pdf")
        return writePdf(what, file, [&](QPdfWriter& page) {
            page.setPageSize(QPageSize(QSizeF(297, 297.0 * size.height() / size.width()), QPageSize::Millimeter));
            return draw(page, static_cast<double>(page.width()) / size.width());
        });
    if (ending == ".png") {
        QImage picture(2 * size, QImage::Format_RGB32);
        picture.fill(Qt::white);
        return draw(picture, 2) ? writePicture(picture, file, what) : notDrawn(what, file);
    }
    return fail(ErrorCode::FormatUnknown, what + " is written as .png, .svg or .pdf", file.string(),
                "Choose one of these endings");
}

} // namespace pyro

// Pictures of a report as they are drawn on a page; files are decoded once for as many layouts as there are.
#pragma once

#include "core/report/pages/report_document.h"

#include <QImage>
#include <QRectF>
#include <map>
#include <memory>

class QPainter;
class QSvgRenderer;

namespace pyro {

class FigureStore {
public:
    FigureStore();
    ~FigureStore();
    FigureStore(const FigureStore&) = delete;
    FigureStore& operator=(const FigureStore&) = delete;

    // Width and height; empty for what is no picture and has no size of its own.
    QSizeF sizeOf(const ReportPicture& picture);
    // Lines and letters as such where the picture has them. False for what is no picture.
    bool draw(QPainter& painter, const QRectF& box, const ReportPicture& picture);
    // As pixels, `width` of them; null for what is no picture.
    QImage image(const ReportPicture& picture, int width);

private:
    struct File; // of the user's, decoded
    File& fileOf(const std::string& bytes);
    std::map<std::pair<std::size_t, std::size_t>, std::unique_ptr<File>> m_files; // by hash and size of their bytes
};

} // namespace pyro

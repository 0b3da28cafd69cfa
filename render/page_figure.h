// Figures of a report as they are drawn on pages: letters stay letters, lines stay lines, at any scale.
#pragma once

#include "core/report/pages/report_document.h"
#include "render/drawing_file.h"
#include "render/picture_sheet.h"

#include <QPicture>
#include <QRectF>

class QPainter;

namespace pyro {

class PageFigure : public FigureDrawing {
public:
    virtual void draw(QPainter& painter, const QRectF& box) const = 0;
};

// Viewpoints with their scales.
ReportPicture figureOf(std::vector<PictureSheet> sheets, const SheetLook& look);
// Lines and letters alone; `draw` is called wherever it is shown and must not depend on anything that ends.
ReportPicture figureOf(QSize size, std::function<void(QPainter&)> draw);
// What a painter of QPicture's recorded on a surface of this size.
ReportPicture figureOf(QSize size, const QPicture& recorded);

} // namespace pyro

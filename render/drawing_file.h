// Pictures and vector drawings as files. They are drawn into memory first, so that a disk that is full is noticed and
// leaves what stood there as it was (the library's own writers into files do not tell).
#pragma once

#include "core/feedback/error.h"

#include <QImage>
#include <QSize>
#include <filesystem>
#include <functional>

class QPaintDevice;
class QPainter;
class QPdfWriter;

namespace pyro {

// As PNG. `what`: "the picture", for messages. Errors: WriteFailed.
Done writePicture(const QImage& picture, const std::filesystem::path& file, const std::string& what = "the picture");

// Draws on the device, scaled by the factor; returns whether it could.
using Draw = std::function<bool(QPaintDevice&, double scale)>;

// By a painter whose units are those of the drawing.
Draw paintedBy(std::function<void(QPainter&)> paint);

// A drawing of `size` units by the file's ending: .png (two pixels for each), .svg, .pdf (a page as wide as A4 is
// long). Errors: FormatUnknown, WriteFailed.
Done writeDrawing(const std::string& what, const std::filesystem::path& file, QSize size, const Draw& draw);

// The bytes of a PNG.
std::string pngOf(const QImage& picture);
// The same as the text of an SVG.
std::string svgOf(QSize size, const Draw& draw);

// A PDF whose pages are laid out by `draw`, which returns whether it could. Errors: WriteFailed.
Done writePdf(const std::string& what, const std::filesystem::path& file, const std::function<bool(QPdfWriter&)>& draw);

} // namespace pyro

// A picture of the field with the scale of its colours, its caption, the names of its parts and a legend: as it goes
// into files and reports. Only the field is pixels; letters and lines stay what they are in SVG and PDF.
#pragma once

#include "core/feedback/error.h"
#include "core/survey/field_look.h"

#include <QColor>
#include <QImage>
#include <filesystem>
#include <optional>

class QPainter;

namespace pyro {

// A value of the scale that has a name: a limit.
struct ScaleMark {
    double value = 0; // in the unit of the scale
    std::string text;
};

struct ScaleCaption {
    std::string caption; // what is seen
    std::string unit;
    std::array<double, 2> range{0, 1}; // in that unit
    bool logarithmic = false;
    StripView strip;
    std::vector<ScaleMark> marks = {};
    std::string about = {}; // the quantity alone, for captions of their own beneath
};

struct Seen;
// The scale of the quantity on display, without words; nothing where it has no values.
std::optional<ScaleCaption> scaleOf(const Seen& seen);

// Words beside the picture with a line to a place in it.
struct SheetLabel {
    QPointF at; // pixels of the view, from its upper left corner
    QString text;
};

struct LegendEntry {
    QString text;
    std::optional<QColor> tone; // as the part is drawn, where all of it has one colour
};

struct PictureSheet {
    QImage view;
    std::optional<ScaleCaption> scale; // nothing: it shows no values
    std::vector<SheetLabel> labels;
    std::vector<LegendEntry> legend;
};

enum class SheetGround { White, Graphite, Transparent };
enum class ScalePlace { Beneath, Beside, Inside, None };

struct SheetLook {
    SheetGround ground = SheetGround::White;
    ScalePlace scale = ScalePlace::Beneath;
    double points = 9; // of letters; a dot is 1/96 inch
    double ratio = 1;  // pixels for each dot
};

// What is left for the view, in pixels, on a sheet of `size` pixels.
QSize viewSize(const QSize& size, const SheetLook& look, bool hasLegend, bool hasMarks = false);
// The whole in pixels, around its view.
QSize sheetSize(const PictureSheet& sheet, const SheetLook& look);

// The painter's units are the pixels of the sheet.
void drawSheet(QPainter& painter, const PictureSheet& sheet, const SheetLook& look);
QImage imageOf(const PictureSheet& sheet, const SheetLook& look);

// Several side by side.
QSize sizeOf(const std::vector<PictureSheet>& sheets, const SheetLook& look);
void drawSheets(QPainter& painter, const std::vector<PictureSheet>& sheets, const SheetLook& look);
// As an SVG whose letters can be searched.
std::string svgOf(const std::vector<PictureSheet>& sheets, const SheetLook& look);
QImage imageOf(const std::vector<PictureSheet>& sheets, const SheetLook& look);

// By the ending: .png, .svg, .pdf. Errors: FormatUnknown, WriteFailed.
Done writeSheets(const std::vector<PictureSheet>& sheets, const SheetLook& look, const std::filesystem::path& file);

} // namespace pyro

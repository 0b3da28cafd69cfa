// The heat map of the assembly drawn: on screen, into a picture, an SVG or a PDF.
#pragma once

#include "core/report/heat_map.h"
#include "core/units/display.h"

#include <QRectF>
#include <filesystem>

class QPainter;

namespace pyro {

// Nodes in the colours of their mean temperature on the ember palette, bands in the colour of where they come from. Text as large as the
// painter's font.
void drawHeatMap(QPainter& painter, const QRectF& area, const HeatMap& map, TemperatureUnit unit);

// By its ending: .png, .svg, .pdf. Errors: FormatUnknown, WriteFailed.
Done writeHeatMap(const HeatMap& map, const std::string& title, TemperatureUnit unit, const std::filesystem::path& file);

} // namespace pyro

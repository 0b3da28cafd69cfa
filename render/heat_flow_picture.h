// The heat flow diagram of the assembly drawn: on screen, into a picture, an SVG or a PDF.
#pragma once

#include "core/report/heat_flow_diagram.h"
#include "core/units/display.h"

#include <QRectF>
#include <filesystem>

class QPainter;

namespace pyro {

// Nodes in the colours of their mean temperature on the ember palette, bands in the colour of where they come from.
// Text as large as the painter's font.
void drawHeatFlowDiagram(QPainter& painter, const QRectF& area, const HeatFlowDiagram& map, TemperatureUnit unit);

// By its ending: .png, .svg, .pdf. Errors: FormatUnknown, WriteFailed.
Done writeHeatFlowDiagram(const HeatFlowDiagram& map, const std::string& title, TemperatureUnit unit,
                          const std::filesystem::path& file);

} // namespace pyro

#include "core/units/display.h"
#include "render/colours.h"
#include "render/page_figure.h"
#include "render/report_figures.h"
#include "render/text.h"

#include <QPainter>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace pyro {
namespace {

constexpr int figureWidth = 1000;
constexpr double drawnWidth = 430;
constexpr double lineHeight = 19;
constexpr double wallHeight = 92;

double heightOf(const PlaneSection& element) {
    return std::max(wallHeight + 34, static_cast<double>(element.layers.size() + 2) * lineHeight + 26) + 16;
}

double thicknessOf(const PlaneSection& element) {
    double all = 0;
    for (const auto& layer : element.layers)
        all += layer.thickness;
    return all;
}

// Insulation is pale, what conducts is dark: 0.02 to 200 W/(m.K) over the range of greys.
QColor toneOf(const PlaneSection::Layer& layer) {
    const double conductivity = layer.conductivity.value_or(0.1);
    const double share = std::clamp(std::log10(std::max(conductivity, 0.02) / 0.02) / 4, 0.0, 1.0);
    return QColor::fromHsvF(0.09F, 0.10F, static_cast<float>(0.97 - 0.5 * share));
}

QString numbered(std::size_t number, const PlaneSection::Layer& layer) {
    auto text = fmt::format("{}  {}", number, layer.name);
    if (layer.thickness > 0)
        text += fmt::format(", {:.4g} mm", 1e3 * layer.thickness);
    if (layer.conductivity)
        text += ", " + formatSi(*layer.conductivity, "W/(m.K)");
    return q(text + ", R = " + formatSi(layer.resistance, "m2.K/W"));
}

void drawElement(QPainter& painter, const PlaneSection& element, double top, double perMetre) {
    QFont bold("Inter");
    bold.setPixelSize(14);
    bold.setWeight(QFont::DemiBold);
    QFont plain("Inter");
    plain.setPixelSize(13);
    painter.setFont(bold);
    painter.setPen(theme::ink);
    auto head = element.name.empty() ? std::string() : element.name + "   ";
    head += "U = " + formatSi(element.transmittance, "W/(m2.K)");
    if (!element.extent.empty())
        head += ", " + element.extent;
    painter.drawText(QRectF(10, top, figureWidth - 20, 20), Qt::AlignLeft | Qt::AlignVCenter, q(head));
    painter.setFont(plain);
    const double wall = top + 26;
    double x = 60;
    painter.setPen(theme::faint);
    painter.drawText(QRectF(6, wall, 48, wallHeight), Qt::AlignRight | Qt::AlignVCenter, "inside");
    for (std::size_t i = 0; i < element.layers.size(); ++i) {
        const double wide = std::max(4.0, element.layers[i].thickness * perMetre);
        const QRectF box(x, wall, wide, wallHeight);
        painter.setPen(QPen(theme::ink, 1));
        painter.setBrush(toneOf(element.layers[i]));
        painter.drawRect(box);
        const bool raised = wide < 16 && i % 2 == 1; // numbers of thin neighbours stand apart
        painter.drawText(QRectF(x + wide / 2 - 12, wall + (raised ? 4 : wallHeight - 20), 24, 16), Qt::AlignCenter,
                         QString::number(i + 1));
        x += wide;
    }
    painter.setPen(theme::faint);
    painter.drawText(QRectF(x + 6, wall, 60, wallHeight), Qt::AlignLeft | Qt::AlignVCenter, "outside");
    double y = wall - 2;
    const auto line = [&](const QString& words, const QColor& colour) {
        painter.setPen(colour);
        const QRectF box(drawnWidth + 140, y, figureWidth - drawnWidth - 146, lineHeight);
        painter.drawText(box, Qt::AlignLeft | Qt::AlignVCenter,
                         painter.fontMetrics().elidedText(words, Qt::ElideRight, static_cast<int>(box.width())));
        y += lineHeight;
    };
    line(q("inner surface, R = " + formatSi(element.inner, "m2.K/W")), theme::faint);
    for (std::size_t i = 0; i < element.layers.size(); ++i)
        line(numbered(i + 1, element.layers[i]), theme::ink);
    line(q("outer surface, R = " + formatSi(element.outer, "m2.K/W")), theme::faint);
}

} // namespace

ReportPicture elementFigure(const std::vector<PlaneSection>& elements) {
    double height = 10;
    double thickest = 1e-3;
    for (const auto& element : elements) {
        height += heightOf(element);
        thickest = std::max(thickest, thicknessOf(element));
    }
    return figureOf(QSize(figureWidth, static_cast<int>(height)), [elements, thickest](QPainter& painter) {
        painter.setRenderHint(QPainter::Antialiasing);
        double top = 4;
        for (const auto& element : elements) {
            drawElement(painter, element, top, drawnWidth / thickest);
            top += heightOf(element);
        }
    });
}

} // namespace pyro

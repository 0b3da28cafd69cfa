#include "render/line_drawing.h"

#include "render/palette.h"

#include <algorithm>
#include <cmath>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkPoints.h>
#include <vtkPolyDataMapper.h>
#include <vtkProperty.h>
#include <vtkUnsignedCharArray.h>

namespace pyro {
namespace {

constexpr std::array<unsigned char, 3> marked{0x63, 0xE0, 0xE8};
constexpr std::array<unsigned char, 3> markedOnPlain{0x00, 0x6E, 0x7A};
constexpr std::array<unsigned char, 3> inkOnPlain{0x1C, 0x1E, 0x22};

std::array<unsigned char, 3> colourOf(const Isoline& line, bool onPlain, double low, double high,
                                      const StripView& strip) {
    if (line.mark)
        return onPlain ? markedOnPlain : marked;
    if (onPlain)
        return inkOnPlain;
    const auto ink = inkOn(strip, high > low ? (line.value - low) / (high - low) : 0.5);
    return {static_cast<unsigned char>(255 * ink[0]), static_cast<unsigned char>(255 * ink[1]),
            static_cast<unsigned char>(255 * ink[2])};
}

} // namespace

LineDrawing::LineDrawing(vtkRenderer* renderer) : m_renderer(renderer) {
    constexpr std::array<double, 3> width{1.0, 2.0, 3.0};
    constexpr std::array<double, 3> opacity{0.55, 0.9, 1.0};
    for (std::size_t i = 0; i < m_weights.size(); ++i) {
        auto& weight = m_weights[i];
        vtkNew<vtkPolyDataMapper> mapper;
        mapper->SetInputData(weight.lines);
        mapper->SetColorModeToDirectScalars();
        mapper->SetScalarModeToUseCellData();
        mapper->SetResolveCoincidentTopologyToPolygonOffset();
        mapper->SetRelativeCoincidentTopologyLineOffsetParameters(0, -6);
        weight.actor->SetMapper(mapper);
        weight.actor->GetProperty()->LightingOff();
        weight.actor->GetProperty()->SetLineWidth(static_cast<float>(width[i]));
        weight.actor->GetProperty()->SetOpacity(opacity[i]);
        // a core profile draws plain lines one pixel wide, whatever is asked
        weight.actor->GetProperty()->RenderLinesAsTubesOn();
    }
}

LineDrawing::Weight& LineDrawing::weightOf(const Isoline& line) {
    return m_weights[line.mark ? 2 : line.heavy ? 1 : 0];
}

void LineDrawing::show(const std::vector<Isoline>& lines, std::size_t onPlain, double low, double high,
                       const StripView& strip) {
    struct Made {
        vtkNew<vtkPoints> points;
        vtkNew<vtkCellArray> cells;
        vtkNew<vtkUnsignedCharArray> colours;
    };
    std::array<Made, 3> made;
    for (auto& one : made)
        one.colours->SetNumberOfComponents(3);
    std::vector<double> levels; // of marked lines, which stand in for the plain ones there
    for (const auto& line : lines)
        if (line.mark)
            levels.push_back(line.value);
    for (std::size_t at = 0; at < lines.size(); ++at) {
        const auto& line = lines[at];
        if (!line.mark && std::ranges::any_of(levels, [&](double level) {
                return std::abs(level - line.value) <= 1e-9 * (std::abs(high - low) + std::abs(level));
            }))
            continue;
        auto& one = made[static_cast<std::size_t>(&weightOf(line) - m_weights.data())];
        const auto colour = colourOf(line, at < onPlain, low, high, strip);
        for (std::size_t i = 0; i + 5 < line.points.size(); i += 6) {
            const auto a = one.points->InsertNextPoint(&line.points[i]);
            const auto b = one.points->InsertNextPoint(&line.points[i + 3]);
            one.cells->InsertNextCell({a, b});
            one.colours->InsertNextTypedTuple(colour.data());
        }
    }
    for (std::size_t i = 0; i < m_weights.size(); ++i) {
        m_weights[i].lines->SetPoints(made[i].points);
        m_weights[i].lines->SetLines(made[i].cells);
        m_weights[i].lines->GetCellData()->SetScalars(made[i].colours);
        m_renderer->AddActor(m_weights[i].actor);
    }
}

void LineDrawing::clear() {
    for (auto& weight : m_weights) {
        weight.lines->Initialize();
        m_renderer->RemoveActor(weight.actor);
    }
}

void LineDrawing::setClipping(vtkPlaneCollection* planes) {
    for (auto& weight : m_weights)
        weight.actor->GetMapper()->SetClippingPlanes(planes);
}

} // namespace pyro

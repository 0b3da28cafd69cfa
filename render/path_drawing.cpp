#include "render/path_drawing.h"

#include "render/borrowed.h"
#include "render/palette.h"

#include <algorithm>
#include <cmath>
#include <vtkPointData.h>
#include <vtkPolyDataMapper.h>
#include <vtkProperty.h>
#include <vtkTubeFilter.h>

namespace pyro {
namespace {

constexpr Rgb plainColour{0.60, 0.78, 0.80};
constexpr double particlesApart = 0.12; // spans
constexpr double tubeOfSize = 0.0022;

} // namespace

std::vector<float> particlesAt(const PathPicture& paths, double time, double apart) {
    std::vector<float> places;
    constexpr double golden = 0.6180339887498949; // lines start at different moments, or particles would run in rows
    for (std::size_t line = 0; line < paths.lines(); ++line) {
        const double moment = time / apart + golden * static_cast<double>(line);
        const double phase = moment - std::floor(moment);
        std::size_t point = paths.begin[line];
        const std::size_t last = paths.begin[line + 1] - 1;
        const auto count = static_cast<int>(std::floor(paths.time[last] / apart - phase)) + 1;
        for (int particle = 0; particle < count; ++particle) {
            const double due = (phase + particle) * apart;
            while (point < last && paths.time[point + 1] < due)
                ++point;
            const auto next = std::min(point + 1, last);
            const double step = paths.time[next] - paths.time[point];
            const auto share = static_cast<float>(step > 0 ? std::clamp((due - paths.time[point]) / step, 0.0, 1.0)
                                                           : 0.0);
            for (std::size_t axis = 0; axis < 3; ++axis)
                places.push_back(std::lerp(paths.points[3 * point + axis], paths.points[3 * next + axis], share));
        }
    }
    return places;
}

PathDrawing::PathDrawing(vtkRenderer* renderer, vtkScalarsToColors* colours, std::shared_ptr<const PathPicture> paths,
                         const PathView& view)
    : m_renderer(renderer), m_paths(std::move(paths)) {
    vtkNew<vtkCellArray> lines;
    for (std::size_t line = 0; line < m_paths->lines(); ++line) {
        lines->InsertNextCell(static_cast<int>(m_paths->begin[line + 1] - m_paths->begin[line]));
        for (auto point = m_paths->begin[line]; point < m_paths->begin[line + 1]; ++point)
            lines->InsertCellPoint(point);
    }
    vtkNew<vtkPolyData> drawn;
    drawn->SetPoints(borrowedPoints(m_paths->points));
    drawn->SetLines(lines);
    drawn->GetPointData()->SetScalars(borrowed(m_paths->values, 1));
    vtkNew<vtkPolyDataMapper> mapper;
    if (view.tubes) {
        vtkNew<vtkTubeFilter> tubes;
        tubes->SetInputData(drawn);
        tubes->SetRadius(tubeOfSize * drawn->GetLength());
        tubes->SetNumberOfSides(7);
        tubes->SetCapping(true);
        mapper->SetInputConnection(tubes->GetOutputPort());
    } else {
        mapper->SetInputData(drawn);
        m_lines->GetProperty()->LightingOff();
        m_lines->GetProperty()->SetLineWidth(2.0F);
    }
    mapper->SetLookupTable(colours);
    mapper->UseLookupTableScalarRangeOn();
    mapper->SetInterpolateScalarsBeforeMapping(true);
    mapper->SetScalarVisibility(!view.plain);
    m_lines->GetProperty()->SetColor(plainColour[0], plainColour[1], plainColour[2]);
    if (view.moving) // the particles tell the way, the lines stay behind them
        m_lines->GetProperty()->SetOpacity(0.35);
    m_lines->SetMapper(mapper);
    m_renderer->AddActor(m_lines);
    if (!view.moving)
        return;
    vtkNew<vtkPolyDataMapper> particles;
    particles->SetInputData(m_places);
    m_particles->SetMapper(particles);
    m_particles->GetProperty()->LightingOff();
    m_particles->GetProperty()->SetPointSize(4.0F);
    m_particles->GetProperty()->SetColor(lightInk[0], lightInk[1], lightInk[2]);
    m_renderer->AddActor(m_particles);
    setTime(0);
}

PathDrawing::~PathDrawing() {
    m_renderer->RemoveActor(m_lines);
    m_renderer->RemoveActor(m_particles);
}

void PathDrawing::setTime(double spans) {
    const auto places = particlesAt(*m_paths, spans, particlesApart);
    vtkNew<vtkPoints> points;
    vtkNew<vtkCellArray> cells;
    for (std::size_t i = 0; i < places.size(); i += 3)
        cells->InsertNextCell({points->InsertNextPoint(&places[i])});
    m_places->SetPoints(points);
    m_places->SetVerts(cells);
}

} // namespace pyro

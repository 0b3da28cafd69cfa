#include "render/level_drawing.h"

#include "render/borrowed.h"

#include <vtkPolyDataMapper.h>
#include <vtkProperty.h>

namespace pyro {

LevelDrawing::LevelDrawing(vtkRenderer* renderer, std::shared_ptr<const LevelPicture> levels)
    : m_renderer(renderer), m_levels(std::move(levels)), m_actors(m_levels->levels.size()) {
    for (std::size_t i = 0; i < m_actors.size(); ++i) {
        vtkNew<vtkPolyData> surface;
        surface->SetPoints(borrowedPoints(m_levels->levels[i].points));
        surface->SetPolys(borrowedCells(m_levels->levels[i].triangles, 3));
        vtkNew<vtkPolyDataMapper> mapper;
        mapper->SetInputData(surface);
        mapper->ScalarVisibilityOff();
        m_actors[i]->SetMapper(mapper);
        m_actors[i]->GetProperty()->SetOpacity(0.72);
        m_actors[i]->GetProperty()->SetInterpolationToFlat();
        m_actors[i]->GetProperty()->SetAmbient(0.45);
        m_actors[i]->GetProperty()->SetDiffuse(0.6);
        m_renderer->AddActor(m_actors[i]);
    }
}

LevelDrawing::~LevelDrawing() {
    for (const auto& actor : m_actors)
        m_renderer->RemoveActor(actor);
}

void LevelDrawing::setColours(vtkScalarsToColors& colours) {
    for (std::size_t i = 0; i < m_actors.size(); ++i) {
        std::array<double, 3> colour{};
        colours.GetColor(m_levels->levels[i].value, colour.data());
        m_actors[i]->GetProperty()->SetColor(colour.data());
    }
}

} // namespace pyro

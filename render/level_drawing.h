// Isotherm surfaces in the scene, translucent, each in the colour of its value.
#pragma once

#include "render/level_picture.h"

#include <vtkActor.h>
#include <vtkNew.h>
#include <vtkPolyData.h>
#include <vtkRenderer.h>
#include <vtkScalarsToColors.h>

namespace pyro {

class LevelDrawing {
public:
    LevelDrawing(vtkRenderer* renderer, std::shared_ptr<const LevelPicture> levels);
    ~LevelDrawing();
    LevelDrawing(const LevelDrawing&) = delete;
    LevelDrawing& operator=(const LevelDrawing&) = delete;

    void setColours(vtkScalarsToColors& colours);

private:
    vtkRenderer* m_renderer;
    std::shared_ptr<const LevelPicture> m_levels;
    std::vector<vtkNew<vtkActor>> m_actors; // one per level
};

} // namespace pyro

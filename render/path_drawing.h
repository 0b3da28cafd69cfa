// Paths in the scene: lines or tubes, in the colours of the field or in one, with particles that run along them.
#pragma once

#include "render/path_picture.h"

#include <vtkActor.h>
#include <vtkNew.h>
#include <vtkPolyData.h>
#include <vtkRenderer.h>
#include <vtkScalarsToColors.h>

namespace pyro {

// Where particles are on lines at a time, in spans; 3 coordinates each. They follow each other at `apart` spans and
// come anew at the start of each line, so that the picture at any whole multiple of `apart` is the same.
std::vector<float> particlesAt(const PathPicture& paths, double time, double apart);

class PathDrawing {
public:
    PathDrawing(vtkRenderer* renderer, vtkScalarsToColors* colours, std::shared_ptr<const PathPicture> paths,
                const PathView& view);
    ~PathDrawing();
    PathDrawing(const PathDrawing&) = delete;
    PathDrawing& operator=(const PathDrawing&) = delete;

    void setTime(double spans);

private:
    vtkRenderer* m_renderer;
    std::shared_ptr<const PathPicture> m_paths;
    vtkNew<vtkActor> m_lines;
    vtkNew<vtkActor> m_particles;
    vtkNew<vtkPolyData> m_places;
};

} // namespace pyro

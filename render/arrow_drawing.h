// Arrows in the scene, dark on light colours of the field and light on dark ones.
#pragma once

#include "render/arrow_picture.h"

#include <vtkActor.h>
#include <vtkNew.h>
#include <vtkPolyData.h>
#include <vtkRenderer.h>

namespace pyro {

class ArrowDrawing {
public:
    ArrowDrawing(vtkRenderer* renderer, std::shared_ptr<const ArrowPicture> arrows);
    ~ArrowDrawing();
    ArrowDrawing(const ArrowDrawing&) = delete;
    ArrowDrawing& operator=(const ArrowDrawing&) = delete;

    // low, high: range of the colours behind them.
    void setRange(double low, double high, const StripView& strip);

private:
    vtkRenderer* m_renderer;
    std::shared_ptr<const ArrowPicture> m_arrows;
    vtkNew<vtkPolyData> m_places;
    vtkNew<vtkActor> m_actor;
};

} // namespace pyro

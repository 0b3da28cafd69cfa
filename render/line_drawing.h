// Isotherms in the scene: thin, heavy and marked lines, each light on dark colours and dark on light ones.
#pragma once

#include "core/field/isolines.h"
#include "core/survey/field_look.h"

#include <vtkActor.h>
#include <vtkNew.h>
#include <vtkPlaneCollection.h>
#include <vtkPolyData.h>
#include <vtkRenderer.h>

namespace pyro {

class LineDrawing {
public:
    explicit LineDrawing(vtkRenderer* renderer);
    // low, high: range of the colours. The first `onPlain` lines lie on light surfaces that do not show the field, the
    // others on its colours.
    void show(const std::vector<Isoline>& lines, std::size_t onPlain, double low, double high, const StripView& strip);
    void clear();
    void setClipping(vtkPlaneCollection* planes);

private:
    struct Weight {
        vtkNew<vtkPolyData> lines;
        vtkNew<vtkActor> actor;
    };
    Weight& weightOf(const Isoline& line);

    vtkRenderer* m_renderer;
    std::array<Weight, 3> m_weights; // thin, heavy, marked
};

} // namespace pyro

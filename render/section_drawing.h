// A section in the scene: its fill in the colours of the field and the edges of its cells.
#pragma once

#include "render/section_picture.h"

#include <vtkActor.h>
#include <vtkNew.h>
#include <vtkPolyData.h>
#include <vtkRenderer.h>
#include <vtkScalarsToColors.h>
#include <vtkStaticCellLocator.h>

namespace pyro {

class SectionDrawing {
public:
    SectionDrawing(vtkRenderer* renderer, vtkScalarsToColors* colours, std::shared_ptr<const SectionPicture> picture,
                   const SectionView& view);
    ~SectionDrawing();
    SectionDrawing(const SectionDrawing&) = delete;
    SectionDrawing& operator=(const SectionDrawing&) = delete;

    const SectionPicture& picture() const { return *m_picture; }
    bool isFilled() const { return m_fill->GetVisibility() != 0; }
    vtkPolyData* surface() { return m_surface; }
    vtkStaticCellLocator* locator(); // built when first asked for

private:
    vtkRenderer* m_renderer;
    std::shared_ptr<const SectionPicture> m_picture;
    vtkNew<vtkPolyData> m_surface;
    vtkNew<vtkActor> m_fill;
    vtkNew<vtkActor> m_mesh;
    vtkSmartPointer<vtkStaticCellLocator> m_locator;
};

} // namespace pyro

// One boundary in the scene: its faces in the colours of the quantity on display, with a rim in the accent colour.
#pragma once

#include "render/surface.h"

#include <vtkActor.h>
#include <vtkNew.h>
#include <vtkRenderer.h>
#include <vtkScalarsToColors.h>

namespace pyro {

enum class BoundaryLook {
    Field, // in the colours of the quantity on display, plain where the boundary has no value of it
    Lit    // in the accent colour, so that it stands out from what it lies on
};

class BoundaryDrawing {
public:
    BoundaryDrawing(vtkRenderer* renderer, vtkScalarsToColors* colours, std::shared_ptr<const FieldPicture> picture,
                    std::size_t boundary, BoundaryLook look);
    ~BoundaryDrawing();
    BoundaryDrawing(const BoundaryDrawing&) = delete;
    BoundaryDrawing& operator=(const BoundaryDrawing&) = delete;

private:
    vtkRenderer* m_renderer;
    vtkNew<vtkActor> m_faces;
    vtkNew<vtkActor> m_rim;
};

// Of a boundary of a plane case its edges in the plane, two node numbers each.
std::vector<std::uint32_t> edgesInPlane(const Mesh& mesh, const PlaneCase& plane);
// The edges of a surface that belong to one of its faces only; two node numbers each.
std::vector<std::uint32_t> rimOf(const Mesh& mesh);

} // namespace pyro

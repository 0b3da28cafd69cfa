#include "render/section_drawing.h"

#include "render/borrowed.h"

#include <vtkCellData.h>
#include <vtkPointData.h>
#include <vtkPolyDataMapper.h>
#include <vtkProperty.h>

namespace pyro {

SectionDrawing::SectionDrawing(vtkRenderer* renderer, vtkScalarsToColors* colours,
                               std::shared_ptr<const SectionPicture> picture, const SectionView& view)
    : m_renderer(renderer), m_picture(std::move(picture)) {
    const auto points = borrowedPoints(m_picture->points);
    m_surface->SetPoints(points);
    m_surface->SetPolys(borrowedCells(m_picture->triangles, 3));
    if (m_picture->valuesOnNodes)
        m_surface->GetPointData()->SetScalars(borrowed(m_picture->values, 1));
    else
        m_surface->GetCellData()->SetScalars(borrowed(m_picture->values, 1));
    vtkNew<vtkPolyDataMapper> mapper;
    mapper->SetInputData(m_surface);
    mapper->SetLookupTable(colours);
    mapper->UseLookupTableScalarRangeOn();
    mapper->SetInterpolateScalarsBeforeMapping(m_picture->valuesOnNodes);
    m_fill->SetMapper(mapper);
    m_fill->GetProperty()->LightingOff(); // a section shows values only; shading would change their colours
    m_fill->SetVisibility(view.fill);
    m_renderer->AddActor(m_fill);

    vtkNew<vtkPolyData> edges;
    edges->SetPoints(points);
    if (view.mesh)
        edges->SetLines(linesOf(m_picture->edges));
    vtkNew<vtkPolyDataMapper> edgeMapper;
    edgeMapper->SetInputData(edges);
    edgeMapper->ScalarVisibilityOff();
    edgeMapper->SetResolveCoincidentTopologyToPolygonOffset();
    edgeMapper->SetRelativeCoincidentTopologyLineOffsetParameters(0, -4);
    m_mesh->SetMapper(edgeMapper);
    m_mesh->GetProperty()->LightingOff();
    m_mesh->GetProperty()->SetColor(0.55, 0.57, 0.60);
    m_mesh->GetProperty()->SetOpacity(view.fill ? 0.45 : 0.9);
    m_mesh->SetVisibility(view.mesh);
    m_renderer->AddActor(m_mesh);
}

SectionDrawing::~SectionDrawing() {
    m_renderer->RemoveActor(m_fill);
    m_renderer->RemoveActor(m_mesh);
}

vtkStaticCellLocator* SectionDrawing::locator() {
    if (!m_locator) {
        m_locator = vtkSmartPointer<vtkStaticCellLocator>::New();
        m_locator->SetDataSet(m_surface);
        m_locator->BuildLocator();
    }
    return m_locator;
}

} // namespace pyro

#include "render/arrow_drawing.h"

#include "render/borrowed.h"
#include "render/palette.h"

#include <cmath>
#include <vtkArrowSource.h>
#include <vtkGlyph3DMapper.h>
#include <vtkPointData.h>
#include <vtkProperty.h>
#include <vtkUnsignedCharArray.h>

namespace pyro {

ArrowDrawing::ArrowDrawing(vtkRenderer* renderer, std::shared_ptr<const ArrowPicture> arrows)
    : m_renderer(renderer), m_arrows(std::move(arrows)) {
    m_places->SetPoints(borrowedPoints(m_arrows->points));
    auto vectors = borrowed(m_arrows->vectors, 3);
    vectors->SetName("arrow");
    m_places->GetPointData()->AddArray(vectors);
    vtkNew<vtkArrowSource> shape;
    shape->SetTipResolution(8);
    shape->SetShaftResolution(6);
    shape->SetTipRadius(0.2);
    shape->SetShaftRadius(0.07);
    shape->SetTipLength(0.4);
    vtkNew<vtkGlyph3DMapper> mapper;
    mapper->SetInputData(m_places);
    mapper->SetSourceConnection(shape->GetOutputPort());
    mapper->SetOrientationArray("arrow");
    mapper->SetOrientationModeToDirection();
    mapper->SetScaleArray("arrow");
    mapper->SetScaleModeToScaleByMagnitude();
    mapper->SetScaleFactor(1.0);
    mapper->SetColorModeToDirectScalars();
    m_actor->SetMapper(mapper);
    m_actor->GetProperty()->LightingOff();
    m_renderer->AddActor(m_actor);
}

ArrowDrawing::~ArrowDrawing() { m_renderer->RemoveActor(m_actor); }

void ArrowDrawing::setRange(double low, double high, const StripView& strip) {
    vtkNew<vtkUnsignedCharArray> colours;
    colours->SetNumberOfComponents(3);
    for (const float value : m_arrows->values) {
        const auto ink = std::isnan(value) || !(high > low) ? lightInk : inkOn(strip, (value - low) / (high - low));
        for (const double channel : ink)
            colours->InsertNextValue(static_cast<unsigned char>(255 * channel));
    }
    m_places->GetPointData()->SetScalars(colours);
}

} // namespace pyro

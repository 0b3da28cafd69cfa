// The parts of a case with their field, in a VTK renderer; camera and picking. Knows nothing of windows.
#pragma once

#include "core/survey/view_state.h"
#include "render/surface.h"

#include <vtkActor.h>
#include <vtkLookupTable.h>
#include <vtkNew.h>
#include <vtkPolyData.h>
#include <vtkRenderer.h>
#include <vtkStaticCellLocator.h>

namespace pyro {

struct Pick {
    std::size_t part;
    Point at;                    // metres
    std::optional<double> value; // SI; on the surface, between nodes by linear interpolation
    Location on;
};

class FieldScene {
public:
    FieldScene();

    vtkRenderer* renderer() { return m_renderer; }

    // Shows another case or quantity; visibility, opacity and range are set anew afterwards.
    void show(std::shared_ptr<const FieldPicture> picture);
    void clear();
    void setPart(std::size_t part, bool visible, double opacity);
    void setRange(double low, double high); // SI

    // Camera, parallel projection with z upwards.
    CameraState camera() const;
    void setCamera(const CameraState& camera);
    void fit();                            // all visible parts, from the present direction
    // From the positive end of the axis (for z: from above), or from its other side.
    void lookAlong(int axis, bool fromOtherSide);
    void flyTo(const Point& place, double radius);
    void orbit(double azimuthDegrees, double elevationDegrees);
    void pan(double dx, double dy);        // in pixels of the viewport
    void zoom(double factor, double x, double y); // keeps the place under pixel (x, y), origin lower left

    // The visible surface under a pixel, origin lower left.
    std::optional<Pick> pick(double x, double y);
    // Pixel of a place, origin lower left, z its depth 0..1.
    Point toPixel(const Point& place);

private:
    struct PartDrawing {
        vtkNew<vtkPolyData> surface;
        vtkNew<vtkActor> actor;
        vtkNew<vtkActor> edges;
        vtkSmartPointer<vtkStaticCellLocator> locator; // built when first picked
        bool visible = true;
    };
    void addPart(std::size_t part);
    std::optional<double> valueAt(std::size_t part, vtkIdType triangle, const Point& at) const;
    std::array<double, 6> visibleBox() const;
    void aim(const Point& focus, double azimuth, double elevation, double distance);
    std::array<Point, 2> rayThrough(double x, double y);
    Point atFocalDepth(double x, double y);
    void resetClipping();

    vtkNew<vtkRenderer> m_renderer;
    vtkNew<vtkLookupTable> m_colours;
    std::shared_ptr<const FieldPicture> m_picture;
    std::vector<std::unique_ptr<PartDrawing>> m_parts;
};

} // namespace pyro

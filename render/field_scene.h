// The parts of a case with their field, in a VTK renderer; camera and picking. Knows nothing of windows.
#pragma once

#include "core/gauge/place_read.h"
#include "core/survey/view_state.h"
#include "render/arrow_drawing.h"
#include "render/boundary_drawing.h"
#include "render/deformed_picture.h"
#include "render/level_drawing.h"
#include "render/line_drawing.h"
#include "render/path_drawing.h"
#include "render/section_drawing.h"
#include "render/shell_picture.h"

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
    std::optional<std::size_t> section;  // the one that was hit, if any
    std::optional<SurfacePlace> surface; // where on the part's surface, if that was hit
};

// One section of the view with its picture; without one while it is not shown or not ready.
struct ShownSection {
    SectionView view;
    std::shared_ptr<const SectionPicture> picture;
    bool operator==(const ShownSection&) const = default;
};

// Red, green and blue, 0 to 1, of a material group where surfaces show materials; eight, then again from the first.
std::array<double, 3> materialTone(std::size_t group);

class FieldScene {
public:
    FieldScene();

    vtkRenderer* renderer() { return m_renderer; }
    // White instead of graphite behind everything, for paper.
    void setLightGround(bool light);

    // Shows another case or quantity; visibility, opacity and range are set anew afterwards.
    void show(std::shared_ptr<const FieldPicture> picture);
    void clear();
    // Shows a triangle, so that a first picture can be drawn before there is a case: drivers that draw in software
    // translate their programs then, which takes a quarter of a second.
    void showTriangle();
    void setPart(std::size_t part, bool visible, double opacity);
    void setRange(double low, double high, const StripView& strip, bool logarithmic); // SI
    // Sections with their fill, and what the opened ones cut away.
    void setSections(const std::vector<ShownSection>& sections);
    // Isotherms on the visible surfaces and the filled sections. Nothing: no lines.
    void setIsotherms(const std::optional<LevelRule>& rule);
    const std::vector<Isoline>& isotherms() const { return m_isolines; }
    // What the surfaces of parts show; `groups`: per part, parts of one group have one tone.
    void setGround(Ground ground, const std::vector<std::size_t>& groups);

    // Positions in Case::boundaries.
    // Those that are lit stand out from what they lie on. False when nothing changes.
    bool setBoundaries(const std::vector<std::size_t>& boundaries, const std::vector<std::size_t>& lit = {});
    // Null: none.
    void setPaths(std::shared_ptr<const PathPicture> paths, const PathView& view);
    void setArrows(std::shared_ptr<const ArrowPicture> arrows);
    void setLevels(std::shared_ptr<const LevelPicture> levels);
    // Outer faces moved by a share of the picture's factor; null: they stand where they are. Places that are picked are
    // those of the undeformed parts. `ghost`: the undeformed edges are seen as well.
    void setDeformed(std::shared_ptr<const DeformedPicture> deformed, bool ghost, double share = 1);
    // Where the visible parts have no value, lines across; for pictures in which that says something.
    void setHatched(bool hatched);
    // The outer shell as a ghost, which hides nothing and is not met by picks; null: none.
    void setShell(std::shared_ptr<const ShellPicture> shell);
    // Of the particles on the paths, in spans.
    void setParticleTime(double spans);
    // While moving, large surfaces are drawn reduced.
    void setMoving(bool moving);

    // Camera, parallel projection with z upwards.
    CameraState camera() const;
    void setCamera(const CameraState& camera);
    void fit();      // all visible parts, from the present direction
    void fitFirst(); // the same, of a plane case across its plane
    // From the positive end of the axis (for z: from above), or from its other side.
    void lookAlong(int axis, bool fromOtherSide);
    void flyTo(const Point& place, double radius);
    void orbit(double azimuthDegrees, double elevationDegrees);
    void pan(double dx, double dy);               // in pixels of the viewport
    void zoom(double factor, double x, double y); // keeps the place under pixel (x, y), origin lower left

    // The visible surface under a pixel, origin lower left.
    std::optional<Pick> pick(double x, double y);
    // Of a plane case the boundary whose edges pass within some pixels of one; nothing where none does.
    std::optional<std::size_t> boundaryNear(double x, double y, double pixels);
    // Pixel of a place, origin lower left, z its depth 0..1.
    Point toPixel(const Point& place);

private:
    struct PartDrawing {
        vtkNew<vtkPolyData> surface;
        vtkNew<vtkActor> actor;
        vtkNew<vtkActor> edges;
        vtkSmartPointer<vtkStaticCellLocator> locator; // built when first picked
        bool visible = true;
        vtkSmartPointer<vtkPolyData> coarse; // null where the surface is small
        std::vector<float> coarseValues;     // per coarse triangle, for cell values
        std::vector<float> moved;            // points as deformed; empty: as they are
        vtkSmartPointer<vtkActor> ghost;     // undeformed edges
    };
    static void addCoarse(PartDrawing& drawing, const PartSurface& surface, const std::vector<float>& values,
                          bool onNodes);
    void addPart(std::size_t part);
    void movePart(std::size_t part);
    // The points of a part as they are drawn.
    const std::vector<float>& drawnPoints(std::size_t part) const;
    // A place on a drawn triangle, on the undeformed one.
    Point undeformed(std::size_t part, vtkIdType triangle, const Point& at) const;
    void fillColours();
    void clip();
    std::optional<double> valueAt(std::size_t part, vtkIdType triangle, const Point& at) const;
    SurfacePlace surfacePlace(std::size_t part, vtkIdType triangle, const Point& at) const;
    std::optional<Pick> pickSections(const std::array<Point, 2>& ray, double& nearest);
    // Shortens a ray to what no opened section cuts away; false when nothing is left.
    bool keepUncut(std::array<Point, 2>& ray) const;
    std::array<double, 6> visibleBox() const;
    void aim(const Point& focus, double azimuth, double elevation, double distance);
    std::array<Point, 2> rayThrough(double x, double y);
    Point atFocalDepth(double x, double y);
    void resetClipping();

    vtkNew<vtkRenderer> m_renderer;
    vtkNew<vtkLookupTable> m_colours;
    StripView m_strip;
    std::shared_ptr<const FieldPicture> m_picture;
    std::vector<std::unique_ptr<PartDrawing>> m_parts;
    std::vector<ShownSection> m_sections;
    std::vector<std::unique_ptr<SectionDrawing>> m_sectionDrawings; // null where a section has no picture
    LineDrawing m_lines;
    bool m_moving = false;
    std::vector<std::size_t> m_boundaries;
    std::vector<std::size_t> m_litBoundaries;
    std::vector<std::unique_ptr<BoundaryDrawing>> m_boundaryDrawings;
    std::pair<std::shared_ptr<const PathPicture>, PathView> m_paths;
    std::unique_ptr<PathDrawing> m_pathDrawing;
    std::shared_ptr<const ArrowPicture> m_arrows;
    std::unique_ptr<ArrowDrawing> m_arrowDrawing;
    std::shared_ptr<const LevelPicture> m_levels;
    std::unique_ptr<LevelDrawing> m_levelDrawing;
    std::vector<Isoline> m_isolines;
    std::shared_ptr<const DeformedPicture> m_deformed;
    bool m_ghost = false;
    std::optional<std::vector<bool>> m_hatched; // which parts were visible when it was drawn
    vtkSmartPointer<vtkActor> m_hatch;
    std::shared_ptr<const ShellPicture> m_shell;
    std::array<vtkSmartPointer<vtkActor>, 2> m_shellActors; // faces and edges
    double m_deformedShare = 1;
    Ground m_ground = Ground::Field;
    struct IsothermKey { // what the lines on display were made from
        std::optional<LevelRule> rule;
        std::vector<bool> visible;
        Ground ground = Ground::Field;
        std::vector<ShownSection> sections;
        std::array<double, 2> range{};
        StripView strip;
        std::shared_ptr<const DeformedPicture> deformed;
        double share = 1;
        bool operator==(const IsothermKey&) const = default;
    } m_isothermKey;
};

} // namespace pyro

#include "render/field_scene.h"

#include "render/borrowed.h"
#include "render/palette.h"

#include <algorithm>
#include <cmath>
#include <vtkCamera.h>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkFloatArray.h>
#include <vtkIdList.h>
#include <vtkPointData.h>
#include <vtkPlane.h>
#include <vtkPlaneCollection.h>
#include <vtkPolyDataMapper.h>
#include <vtkProperty.h>
#include <vtkTypeInt32Array.h>

namespace pyro {
namespace {

constexpr double degree = 3.14159265358979323846 / 180;
constexpr Rgb graphite{0x1B / 255.0, 0x1F / 255.0, 0x24 / 255.0};
constexpr Rgb noValue{0.45, 0.46, 0.48};

// Barycentric coordinates of a place within a triangle, by areas.
std::array<double, 3> weightsIn(const std::vector<float>& points, const std::int32_t* triangle, const Point& at) {
    std::array<Point, 3> corner{};
    for (std::size_t i = 0; i < 3; ++i)
        for (std::size_t axis = 0; axis < 3; ++axis)
            corner[i][axis] = points[3 * static_cast<std::size_t>(triangle[i]) + axis];
    const auto area = [](const Point& a, const Point& b, const Point& c) {
        Point n{};
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const auto u = (axis + 1) % 3;
            const auto v = (axis + 2) % 3;
            n[axis] = (b[u] - a[u]) * (c[v] - a[v]) - (b[v] - a[v]) * (c[u] - a[u]);
        }
        return std::hypot(n[0], n[1], n[2]);
    };
    std::array<double, 3> weight{area(at, corner[1], corner[2]), area(corner[0], at, corner[2]), area(corner[0], corner[1], at)};
    const double sum = weight[0] + weight[1] + weight[2];
    for (auto& one : weight)
        one = sum > 0 ? one / sum : 1.0 / 3;
    return weight;
}

double betweenNodes(const std::vector<float>& points, const std::vector<float>& values, const std::int32_t* triangle,
                    const Point& at) {
    const auto weight = weightsIn(points, triangle, at);
    double value = 0;
    for (std::size_t i = 0; i < 3; ++i)
        value += weight[i] * values[static_cast<std::size_t>(triangle[i])];
    return value;
}

double shareAlong(const std::array<Point, 2>& ray, const Point& at) {
    double product = 0;
    double squares = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double whole = ray[1][axis] - ray[0][axis];
        product += (at[axis] - ray[0][axis]) * whole;
        squares += whole * whole;
    }
    return product / squares;
}

} // namespace

FieldScene::FieldScene() : m_lines(m_renderer) {
    m_renderer->SetBackground(graphite[0], graphite[1], graphite[2]);
    m_renderer->SetBackgroundAlpha(1.0);
    m_renderer->GetActiveCamera()->ParallelProjectionOn();
    fillColours();
    m_colours->SetBelowRangeColor(belowTint[0], belowTint[1], belowTint[2], 1.0);
    m_colours->SetAboveRangeColor(aboveTint[0], aboveTint[1], aboveTint[2], 1.0);
    m_colours->SetNanColor(noValue[0], noValue[1], noValue[2], 1.0);
    aim({0, 0, 0}, -60, 32, 1);
}

void FieldScene::clear() {
    m_sectionDrawings.clear();
    m_sections.clear();
    m_lines.clear();
    m_isolines.clear();
    m_isothermKey = {};
    m_moving = false;
    m_paths.reset();
    m_renderer->RemoveAllViewProps();
    m_parts.clear();
    m_picture.reset();
}

void FieldScene::show(std::shared_ptr<const FieldPicture> picture) {
    if (m_picture && m_picture->surfaces == picture->surfaces && m_picture->values == picture->values) {
        m_picture = std::move(picture); // the same drawing, now measured
        return;
    }
    clear();
    m_picture = std::move(picture);
    for (std::size_t part = 0; part < m_picture->surfaces->size(); ++part)
        addPart(part);
    setRange(m_picture->min, m_picture->max, m_strip, false);
}

void FieldScene::showTriangle() {
    auto picture = std::make_shared<FieldPicture>();
    picture->quantity.on = Location::Node;
    picture->surfaces = std::make_shared<const Surfaces>(Surfaces{{{0, 0, 0, 1, 0, 0, 0, 1, 0}, {0, 1, 2}, {0, 1, 2}, {0}, {0, 1}, {}, {}}});
    picture->values = std::make_shared<const SurfaceValues>(SurfaceValues{{0, 1, 2}});
    picture->min = 0;
    picture->max = 2;
    show(picture);
}

void FieldScene::addPart(std::size_t part) {
    const auto& surface = (*m_picture->surfaces)[part];
    auto drawing = std::make_unique<PartDrawing>();
    const auto points = borrowedPoints(surface.points);
    drawing->surface->SetPoints(points);
    drawing->surface->SetPolys(borrowedCells(surface.triangles, 3));
    vtkNew<vtkPolyDataMapper> mapper;
    const auto& values = (*m_picture->values)[part];
    if (!values.empty()) {
        const bool nodes = values.size() == surface.partNode.size() && m_picture->quantity.on == Location::Node;
        const auto scalars = borrowed(values, 1);
        if (nodes)
            drawing->surface->GetPointData()->SetScalars(scalars);
        else
            drawing->surface->GetCellData()->SetScalars(scalars);
        mapper->SetLookupTable(m_colours);
        mapper->UseLookupTableScalarRangeOn();
        mapper->SetInterpolateScalarsBeforeMapping(nodes);
    }
    mapper->SetScalarVisibility(!values.empty());
    mapper->SetInputData(drawing->surface);
    if (!surface.coarse.empty())
        addCoarse(*drawing, surface, values, m_picture->quantity.on == Location::Node);
    mapper->SetResolveCoincidentTopologyToPolygonOffset();
    mapper->SetRelativeCoincidentTopologyPolygonOffsetParameters(2, 4);
    drawing->actor->SetMapper(mapper);
    auto* look = drawing->actor->GetProperty();
    look->SetColor(noValue[0], noValue[1], noValue[2]);
    look->SetInterpolationToFlat();
    look->SetAmbient(0.5);
    look->SetDiffuse(0.55);

    vtkNew<vtkPolyData> edges;
    edges->SetPoints(points);
    edges->SetLines(linesOf(surface.edges));
    vtkNew<vtkPolyDataMapper> edgeMapper;
    edgeMapper->SetInputData(edges);
    edgeMapper->ScalarVisibilityOff();
    edgeMapper->SetResolveCoincidentTopologyToPolygonOffset();
    edgeMapper->SetRelativeCoincidentTopologyLineOffsetParameters(0, -4);
    drawing->edges->SetMapper(edgeMapper);
    drawing->edges->GetProperty()->SetColor(0.10, 0.11, 0.13);
    drawing->edges->GetProperty()->LightingOff();
    m_renderer->AddActor(drawing->actor);
    m_renderer->AddActor(drawing->edges);
    m_parts.push_back(std::move(drawing));
}

void FieldScene::addCoarse(PartDrawing& drawing, const PartSurface& surface, const std::vector<float>& values, bool onNodes) {
    drawing.coarse = vtkSmartPointer<vtkPolyData>::New();
    drawing.coarse->SetPoints(drawing.surface->GetPoints());
    drawing.coarse->SetPolys(borrowedCells(surface.coarse, 3));
    if (values.empty())
        return;
    if (onNodes) {
        drawing.coarse->GetPointData()->SetScalars(drawing.surface->GetPointData()->GetScalars());
        return;
    }
    for (const auto source : surface.coarseSource)
        drawing.coarseValues.push_back(values[source]);
    drawing.coarse->GetCellData()->SetScalars(borrowed(drawing.coarseValues, 1));
}

void FieldScene::setPaths(std::shared_ptr<const PathPicture> paths) {
    if (paths == m_paths)
        return;
    m_renderer->RemoveActor(m_pathActor);
    m_paths = std::move(paths);
    if (!m_paths || m_paths->lines() == 0)
        return;
    vtkNew<vtkCellArray> lines;
    for (std::size_t line = 0; line + 1 < m_paths->begin.size(); ++line) {
        lines->InsertNextCell(static_cast<int>(m_paths->begin[line + 1] - m_paths->begin[line]));
        for (auto point = m_paths->begin[line]; point < m_paths->begin[line + 1]; ++point)
            lines->InsertCellPoint(point);
    }
    vtkNew<vtkPolyData> drawn;
    drawn->SetPoints(borrowedPoints(m_paths->points));
    drawn->SetLines(lines);
    drawn->GetPointData()->SetScalars(borrowed(m_paths->values, 1));
    vtkNew<vtkPolyDataMapper> mapper;
    mapper->SetInputData(drawn);
    mapper->SetLookupTable(m_colours);
    mapper->UseLookupTableScalarRangeOn();
    mapper->SetInterpolateScalarsBeforeMapping(true);
    m_pathActor->SetMapper(mapper);
    m_pathActor->GetProperty()->LightingOff();
    m_pathActor->GetProperty()->SetLineWidth(2.0F);
    m_renderer->AddActor(m_pathActor);
}

void FieldScene::setMoving(bool moving) {
    if (moving == m_moving)
        return;
    m_moving = moving;
    for (const auto& drawing : m_parts)
        if (drawing->coarse)
            vtkPolyDataMapper::SafeDownCast(drawing->actor->GetMapper())->SetInputData(moving ? drawing->coarse.GetPointer() : drawing->surface.GetPointer());
}

void FieldScene::setPart(std::size_t part, bool visible, double opacity) {
    auto& drawing = *m_parts.at(part);
    drawing.visible = visible && opacity > 0;
    drawing.actor->SetVisibility(drawing.visible);
    drawing.edges->SetVisibility(drawing.visible);
    drawing.actor->GetProperty()->SetOpacity(opacity);
}

void FieldScene::fillColours() {
    const int count = m_strip.bands > 1 ? m_strip.bands : 256;
    m_colours->SetNumberOfTableValues(count);
    for (int i = 0; i < count; ++i) {
        const auto colour = stripColour(m_strip, (i + 0.5) / count);
        m_colours->SetTableValue(i, colour[0], colour[1], colour[2], 1.0);
    }
    m_colours->SetUseBelowRangeColor(m_strip.tint);
    m_colours->SetUseAboveRangeColor(m_strip.tint);
}

void FieldScene::setRange(double low, double high, const StripView& strip, bool logarithmic) {
    if (!std::isfinite(low) || !std::isfinite(high))
        return;
    m_strip = strip;
    fillColours();
    m_colours->SetScale(logarithmic ? VTK_SCALE_LOG10 : VTK_SCALE_LINEAR);
    m_colours->SetTableRange(low, high > low ? high : low + 1e-9);
    m_colours->Modified();
}

void FieldScene::setSections(const std::vector<ShownSection>& sections) {
    if (sections == m_sections && m_sectionDrawings.size() == sections.size())
        return;
    m_sections = sections;
    m_sectionDrawings.clear();
    for (const auto& section : sections)
        m_sectionDrawings.push_back(section.picture && section.view.shown
                                        ? std::make_unique<SectionDrawing>(m_renderer, m_colours, section.picture, section.view)
                                        : nullptr);
    clip();
}

// The graphics card leaves out what lies beyond an opened section; its own fill closes the gap.
void FieldScene::clip() {
    vtkNew<vtkPlaneCollection> forLines;
    for (std::size_t part = 0; part < m_parts.size(); ++part) {
        vtkNew<vtkPlaneCollection> planes;
        const auto& name = m_picture->opened.solved->parts[part].name;
        for (const auto& section : m_sections) {
            if (!section.view.shown || !section.view.opened || section.view.exempt.contains(name))
                continue;
            vtkNew<vtkPlane> plane;
            plane->SetOrigin(section.view.plane.origin.data());
            const auto& n = section.view.plane.normal;
            plane->SetNormal(-n[0], -n[1], -n[2]);
            planes->AddItem(plane);
        }
        m_parts[part]->actor->GetMapper()->SetClippingPlanes(planes);
        m_parts[part]->edges->GetMapper()->SetClippingPlanes(planes);
    }
    for (const auto& section : m_sections)
        if (section.view.shown && section.view.opened) {
            vtkNew<vtkPlane> plane;
            // A hair beyond the plane, so that lines on the section's own fill stay.
            auto origin = section.view.plane.origin;
            const auto unit = withUnitNormal(section.view.plane);
            for (std::size_t axis = 0; axis < 3 && unit; ++axis)
                origin[axis] += 1e-6 * m_renderer->GetActiveCamera()->GetParallelScale() * unit->normal[axis];
            plane->SetOrigin(origin.data());
            const auto& n = section.view.plane.normal;
            plane->SetNormal(-n[0], -n[1], -n[2]);
            forLines->AddItem(plane);
        }
    m_lines.setClipping(forLines);
}

void FieldScene::setIsotherms(const std::optional<LevelRule>& rule) {
    IsothermKey key{rule, {}, m_sections, {m_colours->GetTableRange()[0], m_colours->GetTableRange()[1]}, m_strip};
    for (const auto& part : m_parts)
        key.visible.push_back(part->visible);
    if (key == m_isothermKey)
        return;
    m_isothermKey = std::move(key);
    m_lines.clear();
    m_isolines.clear();
    if (!rule || !m_picture)
        return;
    const auto add = [&](const SurfaceField& surface) {
        for (auto& line : isolines(surface, *rule))
            m_isolines.push_back(std::move(line));
    };
    for (std::size_t part = 0; part < m_parts.size(); ++part)
        if (m_parts[part]->visible && m_picture->fields[part] && m_picture->fields[part]->on == Location::Node)
            add({(*m_picture->surfaces)[part].points, (*m_picture->surfaces)[part].triangles, (*m_picture->values)[part]});
    for (const auto& drawing : m_sectionDrawings)
        if (drawing && drawing->picture().valuesOnNodes)
            add({drawing->picture().points, drawing->picture().triangles, drawing->picture().values});
    m_lines.show(m_isolines, m_colours->GetTableRange()[0], m_colours->GetTableRange()[1], m_strip);
}

CameraState FieldScene::camera() const {
    auto* camera = const_cast<vtkRenderer*>(m_renderer.GetPointer())->GetActiveCamera();
    CameraState state;
    camera->GetPosition(state.position.data());
    camera->GetFocalPoint(state.focus.data());
    camera->GetViewUp(state.up.data());
    state.scale = camera->GetParallelScale();
    return state;
}

void FieldScene::setCamera(const CameraState& state) {
    auto* camera = m_renderer->GetActiveCamera();
    camera->SetPosition(state.position.data());
    camera->SetFocalPoint(state.focus.data());
    camera->SetViewUp(state.up.data());
    camera->SetParallelScale(state.scale);
    resetClipping();
}

void FieldScene::resetClipping() { m_renderer->ResetCameraClippingRange(); }

std::array<double, 6> FieldScene::visibleBox() const {
    std::array<double, 6> box{1, -1, 1, -1, 1, -1};
    for (const auto& part : m_parts) {
        if (!part->visible)
            continue;
        std::array<double, 6> own{};
        part->surface->GetBounds(own.data());
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const bool first = box[0] > box[1] && axis == 0;
            if (first || (axis > 0 && box[2 * axis] > box[2 * axis + 1])) {
                box[2 * axis] = own[2 * axis];
                box[2 * axis + 1] = own[2 * axis + 1];
            } else {
                box[2 * axis] = std::min(box[2 * axis], own[2 * axis]);
                box[2 * axis + 1] = std::max(box[2 * axis + 1], own[2 * axis + 1]);
            }
        }
    }
    return box;
}

void FieldScene::aim(const Point& focus, double azimuth, double elevation, double distance) {
    const double az = azimuth * degree;
    const double el = std::clamp(elevation, -90.0, 90.0) * degree;
    const Point direction{std::cos(el) * std::cos(az), std::cos(el) * std::sin(az), std::sin(el)};
    auto* camera = m_renderer->GetActiveCamera();
    camera->SetFocalPoint(focus.data());
    camera->SetPosition(focus[0] + distance * direction[0], focus[1] + distance * direction[1],
                        focus[2] + distance * direction[2]);
    camera->SetViewUp(-std::sin(el) * std::cos(az), -std::sin(el) * std::sin(az), std::cos(el));
    resetClipping();
}

void FieldScene::fit() {
    const auto box = visibleBox();
    if (box[0] > box[1])
        return;
    // The smallest scale that holds all eight corners of the box in the present direction.
    auto* camera = m_renderer->GetActiveCamera();
    const Point centre{0.5 * (box[0] + box[1]), 0.5 * (box[2] + box[3]), 0.5 * (box[4] + box[5])};
    Point out{};
    Point up{};
    camera->GetDirectionOfProjection(out.data());
    camera->OrthogonalizeViewUp();
    camera->GetViewUp(up.data());
    const Point right{out[1] * up[2] - out[2] * up[1], out[2] * up[0] - out[0] * up[2], out[0] * up[1] - out[1] * up[0]};
    double halfHeight = 0;
    double halfWidth = 0;
    double depth = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double half = 0.5 * (box[2 * axis + 1] - box[2 * axis]);
        halfHeight += std::abs(up[axis]) * half;
        halfWidth += std::abs(right[axis]) * half;
        depth += half;
    }
    const auto* size = m_renderer->GetSize();
    const double aspect = size[1] > 0 ? static_cast<double>(size[0]) / size[1] : 1.5;
    camera->SetFocalPoint(centre.data());
    camera->SetPosition(centre[0] - 4 * depth * out[0], centre[1] - 4 * depth * out[1], centre[2] - 4 * depth * out[2]);
    camera->SetParallelScale(1.12 * std::max({halfHeight, halfWidth / aspect, 1e-12}));
    resetClipping();
}

void FieldScene::lookAlong(int axis, bool fromOtherSide) {
    const double sign = fromOtherSide ? -1 : 1;
    const std::array<std::array<double, 2>, 3> angles{
        {{sign > 0 ? 0.0 : 180.0, 0}, {sign > 0 ? 90.0 : -90.0, 0}, {-90, sign > 0 ? 90.0 : -90.0}}};
    const auto state = camera();
    aim(state.focus, angles[static_cast<std::size_t>(axis)][0], angles[static_cast<std::size_t>(axis)][1], 1);
    fit();
}

void FieldScene::flyTo(const Point& place, double radius) {
    auto state = camera();
    for (std::size_t axis = 0; axis < 3; ++axis) {
        state.position[axis] += place[axis] - state.focus[axis];
        state.focus[axis] = place[axis];
    }
    state.scale = radius;
    setCamera(state);
}

void FieldScene::orbit(double azimuthDegrees, double elevationDegrees) {
    const auto state = camera();
    Point out{};
    double distance = 0;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        out[axis] = state.position[axis] - state.focus[axis];
        distance += out[axis] * out[axis];
    }
    distance = std::sqrt(distance);
    const double elevation = std::asin(std::clamp(out[2] / distance, -1.0, 1.0)) / degree;
    const double sine = out[2] / distance;
    // Straight from above or below the azimuth is read from the up direction.
    const double azimuth = std::abs(sine) > 0.9999 ? std::atan2(-state.up[1] * sine, -state.up[0] * sine) / degree
                                                   : std::atan2(out[1], out[0]) / degree;
    aim(state.focus, azimuth + azimuthDegrees, elevation + elevationDegrees, distance);
}

void FieldScene::pan(double dx, double dy) {
    auto state = camera();
    const double perPixel = 2 * state.scale / std::max(1, m_renderer->GetSize()[1]);
    Point out{};
    m_renderer->GetActiveCamera()->GetDirectionOfProjection(out.data());
    const auto& up = state.up;
    const Point right{out[1] * up[2] - out[2] * up[1], out[2] * up[0] - out[0] * up[2], out[0] * up[1] - out[1] * up[0]};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        const double move = -perPixel * (dx * right[axis] + dy * up[axis]);
        state.position[axis] += move;
        state.focus[axis] += move;
    }
    setCamera(state);
}

void FieldScene::zoom(double factor, double x, double y) {
    const auto before = atFocalDepth(x, y);
    auto state = camera();
    state.scale /= factor;
    setCamera(state);
    const auto after = atFocalDepth(x, y);
    for (std::size_t axis = 0; axis < 3; ++axis) {
        state.position[axis] += before[axis] - after[axis];
        state.focus[axis] += before[axis] - after[axis];
    }
    setCamera(state);
}

std::array<Point, 2> FieldScene::rayThrough(double x, double y) {
    std::array<Point, 2> ray{};
    for (std::size_t end = 0; end < 2; ++end) {
        std::array<double, 4> world{};
        m_renderer->SetDisplayPoint(x, y, static_cast<double>(end));
        m_renderer->DisplayToWorld();
        m_renderer->GetWorldPoint(world.data());
        for (std::size_t axis = 0; axis < 3; ++axis)
            ray[end][axis] = world[axis] / world[3];
    }
    return ray;
}

Point FieldScene::atFocalDepth(double x, double y) {
    const auto ray = rayThrough(x, y);
    return {0.5 * (ray[0][0] + ray[1][0]), 0.5 * (ray[0][1] + ray[1][1]), 0.5 * (ray[0][2] + ray[1][2])};
}

Point FieldScene::toPixel(const Point& place) {
    m_renderer->SetWorldPoint(place[0], place[1], place[2], 1);
    m_renderer->WorldToDisplay();
    Point pixel{};
    m_renderer->GetDisplayPoint(pixel.data());
    return pixel;
}

std::optional<double> FieldScene::valueAt(std::size_t part, vtkIdType triangle, const Point& at) const {
    const auto& values = (*m_picture->values)[part];
    if (values.empty())
        return std::nullopt;
    const auto& surface = (*m_picture->surfaces)[part];
    const double value = m_picture->quantity.on == Location::Node
                             ? betweenNodes(surface.points, values, &surface.triangles[static_cast<std::size_t>(triangle) * 3], at)
                             : static_cast<double>(values[static_cast<std::size_t>(triangle)]);
    return std::isfinite(value) ? std::optional(value) : std::nullopt;
}

SurfacePlace FieldScene::surfacePlace(std::size_t part, vtkIdType triangle, const Point& at) const {
    const auto& surface = (*m_picture->surfaces)[part];
    const auto* nodes = &surface.triangles[static_cast<std::size_t>(triangle) * 3];
    SurfacePlace place{part, {}, weightsIn(surface.points, nodes, at), surface.partCell[static_cast<std::size_t>(triangle)]};
    for (std::size_t i = 0; i < 3; ++i)
        place.nodes[i] = surface.partNode[static_cast<std::size_t>(nodes[i])];
    return place;
}

bool FieldScene::keepUncut(std::array<Point, 2>& ray) const {
    double from = 0;
    double to = 1;
    for (const auto& section : m_sections) {
        if (!section.view.shown || !section.view.opened)
            continue;
        const double near = distanceTo(section.view.plane, ray[0]);
        const double far = distanceTo(section.view.plane, ray[1]);
        if (near > 0 && far > 0)
            return false;
        if (near > 0)
            from = std::max(from, near / (near - far));
        else if (far > 0)
            to = std::min(to, near / (near - far));
    }
    const auto whole = ray;
    for (std::size_t axis = 0; axis < 3; ++axis) {
        ray[0][axis] = whole[0][axis] + from * (whole[1][axis] - whole[0][axis]);
        ray[1][axis] = whole[0][axis] + to * (whole[1][axis] - whole[0][axis]);
    }
    return from < to;
}

std::optional<Pick> FieldScene::pickSections(const std::array<Point, 2>& ray, double& nearest) {
    std::optional<Pick> best;
    for (std::size_t i = 0; i < m_sectionDrawings.size(); ++i) {
        auto* drawing = m_sectionDrawings[i].get();
        if (drawing == nullptr || !drawing->isFilled() || drawing->picture().empty())
            continue;
        double along = 0;
        Point at{};
        Point local{};
        int sub = 0;
        vtkIdType triangle = -1;
        if (drawing->locator()->IntersectWithLine(ray[0].data(), ray[1].data(), 0.0, along, at.data(), local.data(), sub, triangle) == 0 ||
            along >= nearest)
            continue;
        nearest = along;
        const auto& picture = drawing->picture();
        const auto first = static_cast<std::size_t>(triangle) * 3;
        const auto value = picture.valuesOnNodes ? betweenNodes(picture.points, picture.values, &picture.triangles[first], at)
                                                 : static_cast<double>(picture.values[static_cast<std::size_t>(triangle)]);
        best = Pick{picture.part[static_cast<std::size_t>(triangle)], at,
                    std::isfinite(value) ? std::optional(value) : std::nullopt,
                    picture.valuesOnNodes ? Location::Node : Location::Cell, i, std::nullopt};
    }
    return best;
}

std::optional<Pick> FieldScene::pick(double x, double y) {
    const auto whole = rayThrough(x, y);
    auto uncut = whole;
    const bool anyUncut = keepUncut(uncut);
    std::optional<Pick> nearest;
    double nearestAlong = 2;
    for (std::size_t part = 0; part < m_parts.size(); ++part) {
        auto& drawing = *m_parts[part];
        if (!drawing.visible || drawing.surface->GetNumberOfCells() == 0)
            continue;
        if (!drawing.locator) {
            drawing.locator = vtkSmartPointer<vtkStaticCellLocator>::New();
            drawing.locator->SetDataSet(drawing.surface);
            drawing.locator->BuildLocator();
        }
        const bool exempt = std::ranges::any_of(m_sections, [&](const ShownSection& section) {
            return section.view.exempt.contains(m_picture->opened.solved->parts[part].name);
        });
        if (!exempt && !anyUncut)
            continue;
        const auto& ray = exempt ? whole : uncut;
        double along = 0;
        Point at{};
        Point local{};
        int sub = 0;
        vtkIdType triangle = -1;
        if (drawing.locator->IntersectWithLine(ray[0].data(), ray[1].data(), 0.0, along, at.data(), local.data(), sub,
                                               triangle) == 0)
            continue;
        const double alongWhole = shareAlong(whole, at);
        if (alongWhole < nearestAlong) {
            nearestAlong = alongWhole;
            nearest = Pick{part, at, valueAt(part, triangle, at), m_picture->quantity.on, std::nullopt, surfacePlace(part, triangle, at)};
        }
    }
    if (auto onSection = pickSections(whole, nearestAlong))
        return onSection;
    return nearest;
}

} // namespace pyro

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
#include <vtkPlane.h>
#include <vtkPlaneCollection.h>
#include <vtkPointData.h>
#include <vtkPolyDataMapper.h>
#include <vtkProperty.h>
#include <vtkTypeInt32Array.h>

namespace pyro {
namespace {

constexpr Rgb graphite{0x1B / 255.0, 0x1F / 255.0, 0x24 / 255.0};
constexpr Rgb noValue{0.45, 0.46, 0.48};

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

void FieldScene::setLightGround(bool light) {
    const auto ground = light ? Rgb{1, 1, 1} : graphite;
    m_renderer->SetBackground(ground[0], ground[1], ground[2]);
}

void FieldScene::clear() {
    m_sectionDrawings.clear();
    m_sections.clear();
    m_lines.clear();
    m_isolines.clear();
    m_isothermKey = {};
    m_moving = false;
    setBoundaries({});
    setPaths(nullptr, {});
    setArrows(nullptr);
    setLevels(nullptr);
    m_deformed.reset();
    setShell(nullptr);
    setHatched(false);
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
    PartSurface triangle;
    triangle.points = {0, 0, 0, 1, 0, 0, 0, 1, 0};
    triangle.partNode = {0, 1, 2};
    triangle.triangles = {0, 1, 2};
    triangle.partCell = {0};
    triangle.edges = {0, 1};
    picture->surfaces = std::make_shared<const Surfaces>(Surfaces{triangle});
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
        const bool nodes = values.size() == surface.nodes() && m_picture->quantity.on == Location::Node;
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

void FieldScene::addCoarse(PartDrawing& drawing, const PartSurface& surface, const std::vector<float>& values,
                           bool onNodes) {
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

const std::vector<float>& FieldScene::drawnPoints(std::size_t part) const {
    const auto& moved = m_parts[part]->moved;
    return moved.empty() ? (*m_picture->surfaces)[part].points : moved;
}

void FieldScene::setDeformed(std::shared_ptr<const DeformedPicture> deformed, bool ghost, double share) {
    if (deformed && !deformed->why.empty())
        deformed.reset();
    if (deformed == m_deformed && ghost == m_ghost && share == m_deformedShare)
        return;
    m_deformed = std::move(deformed);
    m_ghost = ghost;
    m_deformedShare = share;
    for (std::size_t part = 0; part < m_parts.size(); ++part)
        movePart(part);
}

namespace {

// The triangles of a surface that have no value.
std::vector<std::int32_t> withoutValue(const PartSurface& surface, const std::vector<float>& values, bool onNodes) {
    std::vector<std::int32_t> out;
    for (std::size_t i = 0; i < surface.triangles.size(); i += 3) {
        bool none = values.empty() || (!onNodes && std::isnan(values[i / 3]));
        for (std::size_t k = 0; k < 3 && onNodes && !none; ++k)
            none = std::isnan(values[static_cast<std::size_t>(surface.triangles[i + k])]);
        if (none)
            out.insert(out.end(), surface.triangles.begin() + static_cast<std::ptrdiff_t>(i),
                       surface.triangles.begin() + static_cast<std::ptrdiff_t>(i + 3));
    }
    return out;
}

} // namespace

// Lines of one sum of the coordinates: across whatever way a face looks.
void FieldScene::setHatched(bool hatched) {
    std::optional<std::vector<bool>> key;
    if (hatched && m_picture) {
        key.emplace();
        for (const auto& part : m_parts)
            key->push_back(part->visible);
    }
    if (key == m_hatched)
        return;
    m_hatched = std::move(key);
    if (m_hatch)
        m_renderer->RemoveActor(m_hatch);
    m_hatch = nullptr;
    if (!m_hatched)
        return;
    const auto box = visibleBox();
    constexpr double lines = 70; // across the diagonal
    const double spacing = std::hypot(box[1] - box[0], box[3] - box[2], box[5] - box[4]) * std::sqrt(3.0) / lines;
    vtkNew<vtkPoints> points;
    vtkNew<vtkCellArray> pieces;
    for (std::size_t part = 0; part < m_parts.size() && spacing > 0; ++part) {
        const auto& surface = (*m_picture->surfaces)[part];
        const auto open = m_parts[part]->visible ? withoutValue(surface, (*m_picture->values)[part],
                                                                m_picture->quantity.on == Location::Node)
                                                 : std::vector<std::int32_t>();
        if (open.empty())
            continue;
        std::vector<float> sums;
        for (std::size_t i = 0; i + 2 < surface.points.size(); i += 3)
            sums.push_back(surface.points[i] + surface.points[i + 1] + surface.points[i + 2]);
        for (const auto& line : isolines({surface.points, open, sums}, {0, spacing, 0, {}}))
            for (std::size_t i = 0; i + 5 < line.points.size(); i += 6)
                pieces->InsertNextCell(
                    {points->InsertNextPoint(&line.points[i]), points->InsertNextPoint(&line.points[i + 3])});
    }
    vtkNew<vtkPolyData> data;
    data->SetPoints(points);
    data->SetLines(pieces);
    vtkNew<vtkPolyDataMapper> mapper;
    mapper->SetInputData(data);
    mapper->SetResolveCoincidentTopologyToPolygonOffset();
    mapper->SetRelativeCoincidentTopologyLineOffsetParameters(0, -6);
    m_hatch = vtkSmartPointer<vtkActor>::New();
    m_hatch->SetMapper(mapper);
    m_hatch->GetProperty()->SetColor(0.80, 0.81, 0.83);
    m_hatch->GetProperty()->LightingOff();
    m_renderer->AddActor(m_hatch);
}

void FieldScene::setShell(std::shared_ptr<const ShellPicture> shell) {
    if (shell == m_shell)
        return;
    m_shell = std::move(shell);
    for (auto& actor : m_shellActors) {
        if (actor)
            m_renderer->RemoveActor(actor);
        actor = nullptr;
    }
    if (!m_shell)
        return;
    const auto points = borrowedPoints(m_shell->points);
    for (std::size_t i = 0; i < m_shellActors.size(); ++i) {
        vtkNew<vtkPolyData> data;
        data->SetPoints(points);
        if (i == 0)
            data->SetPolys(borrowedCells(m_shell->triangles, 3));
        else
            data->SetLines(linesOf(m_shell->edges));
        vtkNew<vtkPolyDataMapper> mapper;
        mapper->SetInputData(data);
        mapper->ScalarVisibilityOff();
        auto& actor = m_shellActors[i] = vtkSmartPointer<vtkActor>::New();
        actor->SetMapper(mapper);
        actor->GetProperty()->SetColor(0.80, 0.78, 0.74);
        actor->GetProperty()->SetOpacity(i == 0 ? 0.10 : 0.45);
        actor->GetProperty()->LightingOff();
        m_renderer->AddActor(actor);
    }
}

void FieldScene::movePart(std::size_t part) {
    auto& drawing = *m_parts[part];
    const auto& surface = (*m_picture->surfaces)[part];
    const bool moves = m_deformed && part < m_deformed->shift.size() && !m_deformed->shift[part].empty();
    drawing.moved = moves ? deformedPoints(surface, m_deformed->shift[part], m_deformedShare * m_deformed->factor)
                          : std::vector<float>();
    const auto points = borrowedPoints(drawnPoints(part));
    drawing.surface->SetPoints(points);
    if (drawing.coarse)
        drawing.coarse->SetPoints(points);
    vtkPolyDataMapper::SafeDownCast(drawing.edges->GetMapper())->GetInput()->SetPoints(points);
    drawing.locator = nullptr;
    if (drawing.ghost)
        m_renderer->RemoveActor(drawing.ghost);
    drawing.ghost = nullptr;
    if (!moves || !m_ghost)
        return;
    vtkNew<vtkPolyData> edges;
    edges->SetPoints(borrowedPoints(surface.points));
    edges->SetLines(linesOf(surface.edges));
    vtkNew<vtkPolyDataMapper> mapper;
    mapper->SetInputData(edges);
    mapper->ScalarVisibilityOff();
    drawing.ghost = vtkSmartPointer<vtkActor>::New();
    drawing.ghost->SetMapper(mapper);
    drawing.ghost->GetProperty()->SetColor(0.62, 0.60, 0.56);
    drawing.ghost->GetProperty()->LightingOff();
    drawing.ghost->GetProperty()->SetLineStipplePattern(0x0F0F);
    drawing.ghost->SetVisibility(drawing.visible);
    m_renderer->AddActor(drawing.ghost);
}

bool FieldScene::setBoundaries(const std::vector<std::size_t>& boundaries, const std::vector<std::size_t>& lit) {
    if (boundaries == m_boundaries && lit == m_litBoundaries)
        return false;
    m_boundaries = boundaries;
    m_litBoundaries = lit;
    m_boundaryDrawings.clear();
    for (const auto boundary : boundaries)
        m_boundaryDrawings.push_back(
            std::make_unique<BoundaryDrawing>(m_renderer, m_colours, m_picture, boundary, BoundaryLook::Field));
    for (const auto boundary : lit)
        m_boundaryDrawings.push_back(
            std::make_unique<BoundaryDrawing>(m_renderer, m_colours, m_picture, boundary, BoundaryLook::Lit));
    return true;
}

void FieldScene::setPaths(std::shared_ptr<const PathPicture> paths, const PathView& view) {
    if (m_paths == std::pair(paths, view))
        return;
    m_pathDrawing.reset();
    m_paths = {paths, view};
    if (paths && paths->lines() > 0)
        m_pathDrawing = std::make_unique<PathDrawing>(m_renderer, m_colours, std::move(paths), view);
}

void FieldScene::setParticleTime(double spans) {
    if (m_pathDrawing)
        m_pathDrawing->setTime(spans);
}

void FieldScene::setArrows(std::shared_ptr<const ArrowPicture> arrows) {
    if (arrows != m_arrows) {
        m_arrowDrawing.reset();
        m_arrows = arrows;
        if (arrows && arrows->count() > 0)
            m_arrowDrawing = std::make_unique<ArrowDrawing>(m_renderer, std::move(arrows));
    }
    if (m_arrowDrawing)
        m_arrowDrawing->setRange(m_colours->GetTableRange()[0], m_colours->GetTableRange()[1], m_strip);
}

void FieldScene::setLevels(std::shared_ptr<const LevelPicture> levels) {
    if (levels != m_levels) {
        m_levelDrawing.reset();
        m_levels = levels;
        if (levels)
            m_levelDrawing = std::make_unique<LevelDrawing>(m_renderer, std::move(levels));
    }
    if (m_levelDrawing)
        m_levelDrawing->setColours(*m_colours);
}

void FieldScene::setMoving(bool moving) {
    if (moving == m_moving)
        return;
    m_moving = moving;
    for (const auto& drawing : m_parts)
        if (drawing->coarse)
            vtkPolyDataMapper::SafeDownCast(drawing->actor->GetMapper())
                ->SetInputData(moving ? drawing->coarse.GetPointer() : drawing->surface.GetPointer());
}

void FieldScene::setPart(std::size_t part, bool visible, double opacity) {
    auto& drawing = *m_parts.at(part);
    drawing.visible = visible && opacity > 0;
    drawing.actor->SetVisibility(drawing.visible);
    drawing.edges->SetVisibility(drawing.visible);
    if (drawing.ghost)
        drawing.ghost->SetVisibility(drawing.visible);
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
        m_sectionDrawings.push_back(
            section.picture && section.view.shown
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

std::array<double, 3> materialTone(std::size_t group) {
    static constexpr std::array<std::array<double, 3>, 8> tones{{{0.79, 0.72, 0.60},
                                                                 {0.55, 0.65, 0.69},
                                                                 {0.70, 0.56, 0.52},
                                                                 {0.62, 0.68, 0.52},
                                                                 {0.66, 0.61, 0.73},
                                                                 {0.84, 0.82, 0.78},
                                                                 {0.48, 0.52, 0.58},
                                                                 {0.80, 0.66, 0.44}}};
    return tones[group % tones.size()];
}

void FieldScene::setGround(Ground ground, const std::vector<std::size_t>& groups) {
    m_ground = ground;
    for (std::size_t part = 0; part < m_parts.size(); ++part) {
        auto& drawing = *m_parts[part];
        const bool field = ground == Ground::Field && !(*m_picture->values)[part].empty();
        drawing.actor->GetMapper()->SetScalarVisibility(field);
        const auto tone = ground == Ground::Materials && part < groups.size() ? materialTone(groups[part])
                          : ground == Ground::Plain                           ? std::array{0.87, 0.85, 0.81}
                                                    : std::array{noValue[0], noValue[1], noValue[2]};
        drawing.actor->GetProperty()->SetColor(tone[0], tone[1], tone[2]);
    }
}

void FieldScene::setIsotherms(const std::optional<LevelRule>& rule) {
    IsothermKey key{
        rule,    {},         m_ground,       m_sections, {m_colours->GetTableRange()[0], m_colours->GetTableRange()[1]},
        m_strip, m_deformed, m_deformedShare};
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
            add({drawnPoints(part), (*m_picture->surfaces)[part].triangles, (*m_picture->values)[part]});
    const auto onPlain = m_ground == Ground::Field ? 0 : m_isolines.size();
    for (const auto& drawing : m_sectionDrawings)
        if (drawing && drawing->picture().valuesOnNodes)
            add({drawing->picture().points, drawing->picture().triangles, drawing->picture().values});
    m_lines.show(m_isolines, onPlain, m_colours->GetTableRange()[0], m_colours->GetTableRange()[1], m_strip);
}

} // namespace pyro

#include "render/boundary_drawing.h"

#include "render/borrowed.h"
#include "render/palette.h"
#include "render/surface_builder.h"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkDoubleArray.h>
#include <vtkPointData.h>
#include <vtkPolyData.h>
#include <vtkPolyDataMapper.h>
#include <vtkProperty.h>

namespace pyro {
namespace {

constexpr Rgb accent{0xD9 / 255.0, 0x53 / 255.0, 0x2C / 255.0};
constexpr Rgb plain{0.62, 0.63, 0.65};

vtkNew<vtkPoints> pointsOf(const Mesh& mesh) {
    vtkNew<vtkPoints> points;
    points->SetNumberOfPoints(static_cast<vtkIdType>(mesh.nodes()));
    for (std::size_t node = 0; node < mesh.nodes(); ++node)
        points->SetPoint(static_cast<vtkIdType>(node), mesh.node(node).data());
    return points;
}

// Quadratic faces by their corners.
std::span<const std::uint32_t> cornersOf(const Mesh& mesh, std::size_t face) {
    const auto ids = mesh.cell(face);
    const auto* shape = cellShape(mesh.type(face));
    return shape->corners > 0 ? ids.first(static_cast<std::size_t>(shape->corners)) : ids;
}

vtkNew<vtkCellArray> polygonsOf(const Mesh& mesh) {
    vtkNew<vtkCellArray> polygons;
    for (std::size_t face = 0; face < mesh.cells(); ++face) {
        const auto ids = cornersOf(mesh, face);
        polygons->InsertNextCell(static_cast<int>(ids.size()));
        for (const auto id : ids)
            polygons->InsertCellPoint(id);
    }
    return polygons;
}

vtkNew<vtkPoints> pointsOf(const PartSurface& surface) {
    vtkNew<vtkPoints> points;
    for (std::size_t node = 0; node < surface.nodes(); ++node)
        points->InsertNextPoint(&surface.points[3 * node]);
    return points;
}

vtkNew<vtkCellArray> trianglesOf(const PartSurface& surface) {
    vtkNew<vtkCellArray> triangles;
    for (std::size_t i = 0; i + 2 < surface.triangles.size(); i += 3)
        triangles->InsertNextCell({surface.triangles[i], surface.triangles[i + 1], surface.triangles[i + 2]});
    return triangles;
}

// The first of all nodes at the same place: some files give each face nodes of its own.
std::vector<std::uint32_t> firstAtPlace(const Mesh& mesh) {
    std::vector<std::uint32_t> order(mesh.nodes());
    std::iota(order.begin(), order.end(), 0U);
    std::ranges::stable_sort(order, {}, [&](std::uint32_t node) { return mesh.node(node); });
    std::vector<std::uint32_t> first(mesh.nodes());
    for (std::size_t i = 0; i < order.size(); ++i)
        first[order[i]] = i > 0 && mesh.node(order[i]) == mesh.node(order[i - 1]) ? first[order[i - 1]] : order[i];
    return first;
}

} // namespace

std::vector<std::uint32_t> edgesInPlane(const Mesh& mesh, const PlaneCase& plane) {
    const auto height = [&](std::uint32_t node) {
        const auto at = mesh.node(node);
        return at[0] * plane.normal[0] + at[1] * plane.normal[1] + at[2] * plane.normal[2];
    };
    double low = HUGE_VAL;
    for (std::uint32_t node = 0; node < mesh.nodes(); ++node)
        low = std::min(low, height(node));
    std::vector<std::uint32_t> edges;
    for (std::size_t face = 0; face < mesh.cells(); ++face) {
        const auto ids = cornersOf(mesh, face);
        for (std::size_t i = 0; i < ids.size(); ++i)
            if (const auto next = ids[(i + 1) % ids.size()];
                std::max(height(ids[i]), height(next)) < low + 1e-3 * plane.depth)
                edges.insert(edges.end(), {ids[i], next});
    }
    return edges;
}

std::vector<std::uint32_t> rimOf(const Mesh& mesh) {
    const auto first = firstAtPlace(mesh);
    std::vector<std::array<std::uint32_t, 2>> edges;
    for (std::size_t face = 0; face < mesh.cells(); ++face) {
        const auto ids = cornersOf(mesh, face);
        for (std::size_t i = 0; i < ids.size(); ++i) {
            const auto [low, high] = std::minmax(first[ids[i]], first[ids[(i + 1) % ids.size()]]);
            edges.push_back({low, high});
        }
    }
    std::ranges::sort(edges);
    std::vector<std::uint32_t> rim;
    for (std::size_t from = 0, to = 0; from < edges.size(); from = to) {
        while (to < edges.size() && edges[to] == edges[from])
            ++to;
        if (to - from == 1)
            rim.insert(rim.end(), edges[from].begin(), edges[from].end());
    }
    return rim;
}

BoundaryDrawing::BoundaryDrawing(vtkRenderer* renderer, vtkScalarsToColors* colours,
                                 std::shared_ptr<const FieldPicture> picture, std::size_t boundary, BoundaryLook look)
    : m_renderer(renderer) {
    const auto& opened = picture->opened;
    const auto& mesh = opened.solved->boundaries[boundary].mesh;
    const auto curved = surfaceOfBoundary(*picture, boundary);
    const auto points = curved ? pointsOf(*curved) : pointsOf(mesh);
    vtkNew<vtkPolyData> faces;
    faces->SetPoints(points);
    faces->SetPolys(curved ? trianglesOf(*curved) : polygonsOf(mesh));
    vtkNew<vtkPolyDataMapper> mapper;
    mapper->SetInputData(faces);
    mapper->ScalarVisibilityOff();
    if (look == BoundaryLook::Lit) {
        m_faces->GetProperty()->SetColor(accent[0], accent[1], accent[2]);
        m_faces->GetProperty()->SetOpacity(0.75);
    } else if (const auto values = valuesOn(*opened.solved, *opened.index, true, boundary, picture->quantity,
                                            picture->component)) {
        vtkNew<vtkDoubleArray> scalars;
        const auto add = [&](double value) { scalars->InsertNextValue(picture->quantity.toSi(value)); };
        if (!curved) {
            for (std::size_t i = 0; i < values->size(); ++i)
                add((*values)[i]);
        } else if (values->on == Location::Cell) {
            for (const auto face : curved->partCell)
                add((*values)[face]);
        } else {
            for (std::size_t node = 0; node < curved->nodes(); ++node) {
                double value = 0;
                curved->forSources(node, [&](std::uint32_t of, double weight) { value += weight * (*values)[of]; });
                add(value);
            }
        }
        if (values->on == Location::Node)
            faces->GetPointData()->SetScalars(scalars);
        else
            faces->GetCellData()->SetScalars(scalars);
        mapper->ScalarVisibilityOn();
        mapper->SetLookupTable(colours);
        mapper->UseLookupTableScalarRangeOn();
        mapper->SetInterpolateScalarsBeforeMapping(values->on == Location::Node);
    }
    mapper->SetResolveCoincidentTopologyToPolygonOffset();
    mapper->SetRelativeCoincidentTopologyPolygonOffsetParameters(0, -2); // before the part it lies on
    m_faces->SetMapper(mapper);
    if (look == BoundaryLook::Field)
        m_faces->GetProperty()->SetColor(plain[0], plain[1], plain[2]);
    m_faces->GetProperty()->LightingOff();
    const auto& plane = opened.solved->plane;
    vtkNew<vtkPolyData> rim;
    rim->SetPoints(points);
    rim->SetLines(linesOf(plane ? edgesInPlane(mesh, *plane) : curved ? curved->edges : rimOf(mesh)));
    vtkNew<vtkPolyDataMapper> rimMapper;
    rimMapper->SetInputData(rim);
    rimMapper->SetResolveCoincidentTopologyToPolygonOffset();
    rimMapper->SetRelativeCoincidentTopologyLineOffsetParameters(0, -8);
    m_rim->SetMapper(rimMapper);
    m_rim->GetProperty()->LightingOff();
    m_rim->GetProperty()->SetLineWidth(!plane ? 2.0F : look == BoundaryLook::Lit ? 6.0F : 3.0F);
    // a core profile draws plain lines one pixel wide, whatever is asked
    m_rim->GetProperty()->SetRenderLinesAsTubes(plane.has_value());
    if (look == BoundaryLook::Lit && !plane)
        m_rim->GetProperty()->SetColor(1, 1, 1);
    else
        m_rim->GetProperty()->SetColor(accent[0], accent[1], accent[2]);
    if (!plane) // whose faces are seen from their ends
        m_renderer->AddActor(m_faces);
    m_renderer->AddActor(m_rim);
}

BoundaryDrawing::~BoundaryDrawing() {
    m_renderer->RemoveActor(m_faces);
    m_renderer->RemoveActor(m_rim);
}

} // namespace pyro

#include "core/case/readers/plane_case.h"

#include "core/case/lower_case.h"
#include "core/case/readers/cells.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <vtkCellData.h>
#include <vtkGenericCell.h>
#include <vtkIdList.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPolyData.h>

namespace pyro {
namespace {

constexpr double flatWithin = 1e-6; // of the extent

// The nodes that cells have.
template <class Use>
void forNodes(vtkPointSet& grid, Use use) {
    vtkNew<vtkIdList> ids;
    std::vector<bool> seen(static_cast<std::size_t>(grid.GetNumberOfPoints()), false);
    for (vtkIdType cell = 0; cell < grid.GetNumberOfCells(); ++cell) {
        grid.GetCellPoints(cell, ids);
        for (vtkIdType i = 0; i < ids->GetNumberOfIds(); ++i) {
            const auto id = ids->GetId(i);
            if (id < 0 || id >= grid.GetNumberOfPoints() || seen[static_cast<std::size_t>(id)])
                continue;
            seen[static_cast<std::size_t>(id)] = true;
            Point at{};
            grid.GetPoint(id, at.data());
            use(at);
        }
    }
}

template <class Distance>
Point farthest(std::span<const NamedGrid> grids, Distance distance) {
    Point best{};
    double most = -1;
    for (const auto& one : grids)
        forNodes(*one.grid, [&](const Point& at) {
            if (const double here = distance(at); here > most) {
                most = here;
                best = at;
            }
        });
    return best;
}

Point alongItsAxis(Point normal) {
    const auto main = std::ranges::max_element(normal, {}, [](double one) { return std::abs(one); });
    if (std::abs(*main) > 1 - 1e-12) {
        *main = 1;
        for (auto& one : normal)
            one = &one == &*main ? 1.0 : 0.0;
        return normal;
    }
    if (*main < 0)
        for (auto& one : normal)
            one = -one;
    return normal;
}

} // namespace

int dimensionOf(vtkPointSet& grid) {
    int most = 0;
    vtkNew<vtkGenericCell> kind;
    for (const int type : cellTypesIn(grid)) {
        kind->SetCellType(type);
        most = std::max(most, kind->GetCellDimension());
    }
    return most;
}

namespace {

// A heat flux of one number stands for what passes through a surface; within a plane it has two.
bool hasFluxAcross(vtkDataSetAttributes& data) {
    for (int i = 0; i < data.GetNumberOfArrays(); ++i) {
        auto* array = data.GetArray(i);
        if (array == nullptr || array->GetName() == nullptr || array->GetNumberOfComponents() != 1)
            continue;
        std::string letters;
        for (const char c : lowerCase(array->GetName()))
            if (c >= 'a' && c <= 'z')
                letters += c;
        if (letters.starts_with("heatflux"))
            return true;
    }
    return false;
}

bool isSurface(vtkPointSet& grid) {
    return vtkPolyData::SafeDownCast(&grid) != nullptr || hasFluxAcross(*grid.GetPointData()) ||
           hasFluxAcross(*grid.GetCellData());
}

} // namespace

bool mayBePlane(const NamedGrid& one) {
    return (one.boundary || !isSurface(*one.grid)) && dimensionOf(*one.grid) <= (one.boundary ? 1 : 2);
}

std::optional<Point> normalOfPlane(std::span<const NamedGrid> grids) {
    bool any = false;
    for (const auto& one : grids) {
        if (!mayBePlane(one) || (!one.boundary && dimensionOf(*one.grid) != 2))
            return std::nullopt;
        any = any || !one.boundary;
    }
    if (!any)
        return std::nullopt;
    const auto origin = farthest(grids, [](const Point&) { return 0.0; });
    const auto end = minus(farthest(grids, [&](const Point& at) { return length(minus(at, origin)); }), origin);
    const double extent = length(end);
    const auto across = [&](const Point& at) { return length(cross(end, minus(at, origin))); }; // an area
    const auto third = minus(farthest(grids, across), origin);
    auto normal = cross(end, third);
    const double area = length(normal);
    if (!(area > 1e-9 * extent * extent) || !std::isfinite(area))
        return std::nullopt; // a point or a line
    for (auto& one : normal)
        one /= area;
    const auto off = [&](const Point& at) { return std::abs(dot(normal, minus(at, origin))); };
    if (!(off(farthest(grids, off)) <= flatWithin * extent))
        return std::nullopt;
    return alongItsAxis(normal);
}

} // namespace pyro

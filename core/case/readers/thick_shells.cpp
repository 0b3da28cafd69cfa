#include "core/case/readers/thick_shells.h"

#include "core/case/readers/made_deep.h"
#include "core/case/readers/plane_case.h"
#include "core/case/readers/shell_sheets.h"
#include "core/field/vector_algebra.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>
#include <vtkIdList.h>
#include <vtkNew.h>
#include <vtkPolyData.h>
#include <vtkStaticPointLocator.h>

namespace pyro {
namespace {

constexpr double samePlaceWithin = 1e-7; // of the extent

class Thickener {
public:
    Thickener(std::span<NamedGrid> grids, const std::map<std::string, double>& thickness) : m_grids(grids) {
        for (const auto& one : grids) {
            const auto given = one.boundary ? thickness.end() : thickness.find(one.name);
            m_out.thickness.push_back(given != thickness.end() && dimensionOf(*one.grid) == 2 ? given->second : 0);
        }
    }

    Result<ThickShells> run() {
        if (std::ranges::all_of(m_out.thickness, [](double one) { return one == 0; }))
            return std::move(m_out);
        std::vector<vtkSmartPointer<vtkPointSet>> flat;
        std::vector<std::size_t> shells;
        for (std::size_t i = 0; i < m_grids.size(); ++i) {
            auto& one = m_grids[i];
            m_flat.push_back(one.grid);
            if (m_out.thickness[i] == 0 && !(one.boundary && dimensionOf(*one.grid) == 1))
                continue;
            auto cells = surfaceCells(*one.grid, one.where);
            if (!cells)
                return tl::unexpected(cells.error());
            m_flat.back() = cells->grid;
            if (m_out.thickness[i] > 0) {
                flat.push_back(cells->grid);
                shells.push_back(i);
            }
        }
        if (!findPlaces())
            return std::move(m_out);
        std::vector<std::vector<std::uint32_t>> places;
        for (const auto i : shells) {
            places.push_back(m_places[i]);
            for (const auto place : m_places[i])
                if (const auto [at, isNew] = m_thicknessAt.try_emplace(place, m_out.thickness[i]);
                    !isNew && at->second != m_out.thickness[i])
                    ++m_out.steps;
        }
        const ShellSheets sheets(flat, places);
        m_out.torn = sheets.torn();
        m_out.sharp = sheets.sharp();
        for (std::size_t shell = 0; shell < shells.size(); ++shell)
            thicken(shells[shell], sheets.laid(shell));
        for (std::size_t i = 0; i < m_grids.size(); ++i)
            if (m_grids[i].boundary && !m_places[i].empty() &&
                std::ranges::all_of(m_places[i], [&](auto place) { return m_thicknessAt.contains(place); })) {
                if (dimensionOf(*m_grids[i].grid) == 1)
                    deepen(i, sheets);
                else
                    shift(i, sheets);
            }
        return std::move(m_out);
    }

private:
    // One number for all nodes, of whichever grids, that lie at one place. False where some lie nowhere, which is told
    // when they are stored.
    bool findPlaces() {
        vtkNew<vtkPoints> all;
        all->SetDataTypeToDouble();
        for (std::size_t i = 0; i < m_grids.size(); ++i)
            for (vtkIdType node = 0; takesPart(i) && node < m_flat[i]->GetNumberOfPoints(); ++node)
                all->InsertNextPoint(m_flat[i]->GetPoint(node));
        const auto* at = static_cast<const double*>(all->GetVoidPointer(0));
        if (!std::all_of(at, at + 3 * all->GetNumberOfPoints(), [](double one) { return std::isfinite(one); }))
            return false;
        vtkNew<vtkPolyData> cloud;
        cloud->SetPoints(all);
        std::array<double, 6> box{};
        cloud->GetBounds(box.data());
        const double extent = std::hypot(box[1] - box[0], box[3] - box[2], box[5] - box[4]);
        std::vector<vtkIdType> first(static_cast<std::size_t>(all->GetNumberOfPoints()));
        vtkNew<vtkStaticPointLocator> locator;
        locator->SetDataSet(cloud);
        locator->BuildLocator();
        locator->MergePoints(samePlaceWithin * extent, first.data());
        for (auto& one : first) // to the end of a chain
            while (first[static_cast<std::size_t>(one)] != one)
                one = first[static_cast<std::size_t>(one)];
        m_places.resize(m_grids.size());
        std::size_t next = 0;
        for (std::size_t i = 0; i < m_grids.size(); ++i)
            for (vtkIdType node = 0; takesPart(i) && node < m_flat[i]->GetNumberOfPoints(); ++node)
                m_places[i].push_back(static_cast<std::uint32_t>(first[next++]));
        return true;
    }
    bool takesPart(std::size_t i) const { return m_out.thickness[i] > 0 || m_grids[i].boundary; }

    void thicken(std::size_t i, const ShellSheets::Laid& laid) {
        const auto across = [&](vtkIdType node) {
            return times(laid.across[static_cast<std::size_t>(node)], m_out.thickness[i]);
        };
        replace(m_grids[i], madeDeep({laid.grid}, {across, -0.5}));
    }

    // Lines along edges: the vectors of the faces that have the edge, since at one place several sheets can meet.
    void deepen(std::size_t i, const ShellSheets& sheets) {
        auto& lines = *m_flat[i];
        std::vector<Point> across;
        for (const auto place : m_places[i])
            across.push_back(sheets.acrossAt(place).value_or(Point{}));
        vtkNew<vtkIdList> ids;
        for (vtkIdType cell = 0; cell < lines.GetNumberOfCells(); ++cell) {
            lines.GetCellPoints(cell, ids);
            // of others the ends come first
            const auto step = lines.GetCellType(cell) == VTK_POLY_LINE ? ids->GetNumberOfIds() : vtkIdType{2};
            for (vtkIdType k = 0; k + 1 < std::min(step, ids->GetNumberOfIds()); ++k) {
                const auto a = static_cast<std::size_t>(ids->GetId(k));
                const auto b = static_cast<std::size_t>(ids->GetId(k + 1));
                if (const auto found = sheets.acrossEdge(m_places[i][a], m_places[i][b])) {
                    across[a] = (*found)[0];
                    across[b] = (*found)[1];
                }
            }
        }
        const auto whole = [&](vtkIdType node) {
            return times(across[static_cast<std::size_t>(node)],
                         m_thicknessAt.at(m_places[i][static_cast<std::size_t>(node)]));
        };
        replace(m_grids[i], madeDeep({&lines}, {whole, -0.5}));
    }

    // Faces on a shell: to the side that their normals look to.
    void shift(std::size_t i, const ShellSheets& sheets) {
        auto& grid = *m_grids[i].grid;
        const auto& places = m_places[i];
        std::vector<Point> across;
        for (const auto place : places)
            across.push_back(times(sheets.acrossAt(place).value_or(Point{}), 0.5 * m_thicknessAt.at(place)));
        double front = 0;
        vtkNew<vtkIdList> ids;
        for (vtkIdType cell = 0; cell < grid.GetNumberOfCells(); ++cell) {
            grid.GetCellPoints(cell, ids);
            for (vtkIdType k = 1; k + 1 < ids->GetNumberOfIds() && ids->GetId(k + 1) < grid.GetNumberOfPoints(); ++k) {
                const auto at = [&](vtkIdType corner) {
                    Point place{};
                    grid.GetPoint(ids->GetId(corner), place.data());
                    return place;
                };
                front += dot(cross(minus(at(k), at(0)), minus(at(k + 1), at(0))),
                             across[static_cast<std::size_t>(ids->GetId(0))]);
            }
        }
        vtkNew<vtkPoints> moved;
        moved->SetDataTypeToDouble();
        for (std::size_t node = 0; node < places.size(); ++node) {
            Point at{};
            grid.GetPoint(static_cast<vtkIdType>(node), at.data());
            for (std::size_t axis = 0; axis < 3; ++axis)
                at[axis] += (front < 0 ? -1 : 1) * across[node][axis];
            moved->InsertNextPoint(at.data());
        }
        grid.SetPoints(moved);
    }

    static void replace(NamedGrid& one, const vtkSmartPointer<vtkPointSet>& by) {
        one.asInFile = {static_cast<std::uint64_t>(one.grid->GetNumberOfPoints()),
                        static_cast<std::uint64_t>(one.grid->GetNumberOfCells())};
        one.grid = by;
    }
    static Point times(Point of, double factor) {
        for (auto& one : of)
            one *= factor;
        return of;
    }

    std::span<NamedGrid> m_grids;
    ThickShells m_out;
    // per grid: as surfaceCells leaves shells and lines, else as it is
    std::vector<vtkSmartPointer<vtkPointSet>> m_flat;
    std::vector<std::vector<std::uint32_t>> m_places; // per grid and node there
    std::unordered_map<std::uint32_t, double> m_thicknessAt;
};

} // namespace

Result<ThickShells> thickenShells(std::span<NamedGrid> grids, const std::map<std::string, double>& thickness) {
    return Thickener(grids, thickness).run();
}

} // namespace pyro

#include "core/case/readers/joined_nodes.h"

#include <algorithm>
#include <cmath>
#include <vector>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkDoubleArray.h>
#include <vtkFieldData.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkStaticPointLocator.h>
#include <vtkTypeInt64Array.h>

namespace pyro {
namespace {

constexpr double nearly = 1e-7;      // of the extent
constexpr double equalWithin = 1e-6; // of an array's range

class Joiner {
public:
    Joiner(vtkUnstructuredGrid& grid, std::vector<vtkIdType> firstAt) : m_grid(grid), m_newOf(std::move(firstAt)) {}

    JoinedNodes run() {
        std::vector<vtkIdType> numbers(m_newOf.size(), -1);
        for (std::size_t node = 0; node < m_newOf.size(); ++node)
            if (m_newOf[node] == static_cast<vtkIdType>(node)) {
                numbers[node] = static_cast<vtkIdType>(m_kept.size());
                m_kept.push_back(static_cast<vtkIdType>(node));
            }
        for (auto& one : m_newOf)
            one = numbers[static_cast<std::size_t>(one)];
        m_out.fewer = static_cast<vtkIdType>(m_newOf.size() - m_kept.size());
        m_out.grid = vtkSmartPointer<vtkUnstructuredGrid>::New();
        m_out.grid->SetPoints(points());
        m_out.grid->SetCells(m_grid.GetCellTypesArray(), cells());
        m_out.grid->GetCellData()->ShallowCopy(m_grid.GetCellData());
        m_out.grid->GetFieldData()->ShallowCopy(m_grid.GetFieldData());
        auto* data = m_grid.GetPointData();
        for (int i = 0; i < data->GetNumberOfArrays(); ++i)
            if (auto* array = data->GetArray(i);
                array != nullptr && array->GetNumberOfTuples() == m_grid.GetNumberOfPoints())
                m_out.grid->GetPointData()->AddArray(joined(*array));
        if (auto* weights = data->GetRationalWeights())
            m_out.grid->GetPointData()->SetRationalWeights(m_out.grid->GetPointData()->GetArray(weights->GetName()));
        return std::move(m_out);
    }

private:
    vtkSmartPointer<vtkPoints> points() const {
        auto out = vtkSmartPointer<vtkPoints>::New();
        out->SetDataType(m_grid.GetPoints()->GetDataType());
        out->SetNumberOfPoints(static_cast<vtkIdType>(m_kept.size()));
        for (std::size_t i = 0; i < m_kept.size(); ++i)
            out->SetPoint(static_cast<vtkIdType>(i), m_grid.GetPoint(m_kept[i]));
        return out;
    }

    vtkSmartPointer<vtkCellArray> cells() const {
        vtkNew<vtkTypeInt64Array> offsets;
        vtkNew<vtkTypeInt64Array> nodes;
        vtkNew<vtkIdList> ids;
        offsets->InsertNextValue(0);
        for (vtkIdType cell = 0; cell < m_grid.GetNumberOfCells(); ++cell) {
            m_grid.GetCellPoints(cell, ids);
            for (vtkIdType i = 0; i < ids->GetNumberOfIds(); ++i)
                nodes->InsertNextValue(m_newOf[static_cast<std::size_t>(ids->GetId(i))]);
            offsets->InsertNextValue(nodes->GetNumberOfValues());
        }
        auto out = vtkSmartPointer<vtkCellArray>::New();
        out->SetData(offsets, nodes);
        return out;
    }

    vtkSmartPointer<vtkDataArray> joined(vtkDataArray& array) {
        const int width = array.GetNumberOfComponents();
        const bool real = array.GetDataType() == VTK_FLOAT || array.GetDataType() == VTK_DOUBLE;
        vtkSmartPointer<vtkDataArray> out;
        out.TakeReference(array.NewInstance());
        out->SetName(array.GetName());
        out->SetNumberOfComponents(width);
        out->SetNumberOfTuples(static_cast<vtkIdType>(m_kept.size()));
        for (std::size_t i = 0; i < m_kept.size(); ++i)
            out->SetTuple(static_cast<vtkIdType>(i), m_kept[i], &array);
        if (real)
            for (int c = 0; c < width; ++c)
                average(array, c, *out);
        return out;
    }

    void average(vtkDataArray& array, int component, vtkDataArray& out) {
        std::vector<double> sum(m_kept.size(), 0.0);
        std::vector<double> low(m_kept.size(), HUGE_VAL);
        std::vector<double> high(m_kept.size(), -HUGE_VAL);
        std::vector<int> times(m_kept.size(), 0);
        for (std::size_t node = 0; node < m_newOf.size(); ++node) {
            const auto to = static_cast<std::size_t>(m_newOf[node]);
            const double value = array.GetComponent(static_cast<vtkIdType>(node), component);
            sum[to] += value; // what is no number stays none
            low[to] = std::min(low[to], value);
            high[to] = std::max(high[to], value);
            ++times[to];
        }
        double widest = 0;
        double least = HUGE_VAL;
        double most = -HUGE_VAL;
        for (std::size_t i = 0; i < sum.size(); ++i) {
            if (low[i] < high[i] || std::isnan(sum[i]))
                out.SetComponent(static_cast<vtkIdType>(i), component, sum[i] / times[i]);
            if (std::isfinite(high[i] - low[i]))
                widest = std::max(widest, high[i] - low[i]);
            least = std::min(least, low[i]);
            most = std::max(most, high[i]);
        }
        if (const double share = most > least ? widest / (most - least) : 0; share > std::max(m_out.by, equalWithin)) {
            m_out.by = share;
            m_out.torn = array.GetName() != nullptr ? array.GetName() : "";
        }
    }

    vtkUnstructuredGrid& m_grid;
    std::vector<vtkIdType> m_newOf; // of each node the first one at its place, then its number among those kept
    std::vector<vtkIdType> m_kept;
    JoinedNodes m_out;
};

} // namespace

bool sharesNoNode(vtkUnstructuredGrid& grid) {
    if (grid.GetNumberOfCells() < 2 || grid.GetCells()->GetNumberOfConnectivityIds() > grid.GetNumberOfPoints())
        return false;
    std::vector<bool> taken(static_cast<std::size_t>(grid.GetNumberOfPoints()), false);
    vtkNew<vtkIdList> ids;
    for (vtkIdType cell = 0; cell < grid.GetNumberOfCells(); ++cell) {
        grid.GetCellPoints(cell, ids);
        for (vtkIdType i = 0; i < ids->GetNumberOfIds(); ++i) {
            const auto id = ids->GetId(i);
            if (id < 0 || id >= grid.GetNumberOfPoints() || taken[static_cast<std::size_t>(id)])
                return false; // what is out of range is told when it is stored
            taken[static_cast<std::size_t>(id)] = true;
        }
    }
    return true;
}

std::optional<JoinedNodes> joinedNodes(vtkUnstructuredGrid& grid, SamePlace place) {
    if (grid.GetFaces() != nullptr || grid.GetNumberOfPoints() == 0)
        return std::nullopt;
    std::array<double, 6> box{};
    grid.GetBounds(box.data());
    const double extent = std::hypot(box[1] - box[0], box[3] - box[2], box[5] - box[4]);
    if (!std::isfinite(extent))
        return std::nullopt;
    for (vtkIdType i = 0; i < grid.GetCells()->GetNumberOfConnectivityIds(); ++i)
        if (const auto id = static_cast<vtkIdType>(grid.GetCells()->GetConnectivityArray()->GetComponent(i, 0));
            id < 0 || id >= grid.GetNumberOfPoints())
            return std::nullopt;
    vtkNew<vtkStaticPointLocator> locator;
    locator->SetDataSet(&grid);
    locator->BuildLocator();
    std::vector<vtkIdType> firstAt(static_cast<std::size_t>(grid.GetNumberOfPoints()));
    locator->MergePoints(place == SamePlace::Exactly ? 0 : nearly * extent, firstAt.data());
    for (auto& one : firstAt) // to the end of a chain
        while (firstAt[static_cast<std::size_t>(one)] != one)
            one = firstAt[static_cast<std::size_t>(one)];
    for (std::size_t node = 0; node < firstAt.size(); ++node)
        if (firstAt[node] != static_cast<vtkIdType>(node))
            return Joiner(grid, std::move(firstAt)).run();
    return std::nullopt;
}

} // namespace pyro

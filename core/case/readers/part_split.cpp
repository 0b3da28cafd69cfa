#include "core/case/readers/part_split.h"

#include "core/case/readers/format.h"
#include "core/case/readers/remedies.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkDataArray.h>
#include <vtkExtractCells.h>
#include <vtkFieldData.h>
#include <vtkIdList.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkUnstructuredGrid.h>

namespace pyro {
namespace {

constexpr std::size_t mostParts = 1000;

// The cells of each value; nothing where a value is no whole number or there are too many.
std::optional<std::map<long long, std::vector<vtkIdType>>> cellsByValue(vtkDataArray& array) {
    std::map<long long, std::vector<vtkIdType>> cells;
    for (vtkIdType cell = 0; cell < array.GetNumberOfTuples(); ++cell) {
        const double value = array.GetComponent(cell, 0);
        if (value != std::floor(value) || std::abs(value) > 1e15)
            return std::nullopt;
        cells[static_cast<long long>(value)].push_back(cell);
        if (cells.size() > mostParts)
            return std::nullopt;
    }
    return cells;
}

// What takes cells out of a grid believes their nodes.
Done checkNodes(vtkPointSet& grid, const std::string& where) {
    auto* cells = vtkUnstructuredGrid::SafeDownCast(&grid);
    if (cells == nullptr)
        return {};
    auto* nodes = cells->GetCells()->GetConnectivityArray();
    for (vtkIdType i = 0; i < nodes->GetNumberOfValues(); ++i)
        if (const auto node = static_cast<vtkIdType>(nodes->GetComponent(i, 0));
            node < 0 || node >= grid.GetNumberOfPoints())
            return fail(ErrorCode::IndexOutOfRange,
                        fmt::format("a cell refers to node {}, but there are only {}", node, grid.GetNumberOfPoints()),
                        where, writeAgain);
    return {};
}

vtkSmartPointer<vtkPointSet> subset(vtkPointSet& grid, const std::vector<vtkIdType>& cells) {
    vtkNew<vtkExtractCells> extract;
    extract->SetInputData(&grid);
    vtkNew<vtkIdList> list;
    for (const auto cell : cells)
        list->InsertNextId(cell);
    extract->SetCellList(list);
    extract->Update();
    auto* out = extract->GetOutput();
    out->GetPointData()->RemoveArray("vtkOriginalPointIds");
    out->GetCellData()->RemoveArray("vtkOriginalCellIds");
    return out;
}

} // namespace

bool namesParts(const std::string& array) {
    std::string bare;
    for (const char c : array)
        if (std::isalnum(static_cast<unsigned char>(c)) != 0)
            bare += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    for (const char* end : {"ids", "id", "s"})
        if (bare.ends_with(end)) {
            bare.resize(bare.size() - std::string_view(end).size());
            break;
        }
    // The last four are how meshers and finite-element libraries name what they mark.
    constexpr std::array<std::string_view, 12> words{"material", "part",      "region",   "zone",
                                                     "block",    "domain",    "body",     "group",
                                                     "physical", "attribute", "geometry", "celltag"};
    return std::ranges::any_of(words, [&](auto word) { return bare.ends_with(word); });
}

Result<SplitParts> splitParts(vtkPointSet& grid, const std::optional<std::string>& wanted, const std::string& where) {
    SplitParts out;
    auto* data = grid.GetCellData();
    std::vector<vtkDataArray*> candidates;
    for (int i = 0; i < data->GetNumberOfArrays(); ++i) {
        auto* array = data->GetArray(i);
        if (array == nullptr || array->GetName() == nullptr || array->GetNumberOfComponents() != 1 ||
            array->GetDataType() == VTK_FLOAT || array->GetDataType() == VTK_DOUBLE)
            continue;
        if (const auto cells = cellsByValue(*array); cells && cells->size() >= 2)
            out.couldBe.emplace_back(array->GetName());
        if (!wanted && namesParts(array->GetName()))
            candidates.push_back(array);
    }
    if (wanted && wanted->empty())
        return out;
    if (wanted)
        candidates.push_back(data->GetArray(wanted->c_str()));
    if (wanted && candidates.front() == nullptr)
        return fail(ErrorCode::NameUnknown,
                    fmt::format("no cell array is named \"{}\", which is to divide the grid into parts", *wanted),
                    where, "Name one of the cell arrays in the case's \"split\"");
    for (auto* by : candidates) {
        const auto cells = by->GetNumberOfComponents() == 1 ? cellsByValue(*by) : std::nullopt;
        if (!cells && wanted)
            return fail(ErrorCode::WrongType,
                        fmt::format("the cell array \"{}\" is no list of whole numbers with at most {} values", *wanted,
                                    mostParts),
                        where, "Name another one, or null for no division");
        if (!cells || cells->size() < 2)
            continue;
        out.array = by->GetName();
        const auto whole = asCells(grid, where);
        if (!whole)
            return tl::unexpected(whole.error());
        if (auto fits = checkNodes(**whole, where); !fits)
            return tl::unexpected(fits.error());
        for (const auto& [value, list] : *cells)
            out.parts.push_back({fmt::format("{} {}", out.array, value), subset(**whole, list)});
        break;
    }
    return out;
}

} // namespace pyro

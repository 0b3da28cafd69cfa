#include "core/case/readers/surface_read.h"

#include <cstring>
#include <fmt/format.h>
#include <fstream>
#include <map>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkDataArray.h>
#include <vtkIdList.h>
#include <vtkNew.h>
#include <vtkOBJReader.h>
#include <vtkPLYReader.h>
#include <vtkPolyData.h>
#include <vtkSTLReader.h>

namespace pyro {
namespace {

// The names of an ASCII STL's solids in their order; empty for a binary one.
Result<std::vector<std::string>> solidNames(const std::filesystem::path& file) {
    std::ifstream stream(file, std::ios::binary);
    std::array<char, 84> head{};
    stream.read(head.data(), head.size());
    const auto size = std::filesystem::file_size(file);
    std::uint32_t triangles = 0;
    std::memcpy(&triangles, head.data() + 80, sizeof triangles);
    if (stream.gcount() == 84 && size == 84 + 50ULL * triangles)
        return std::vector<std::string>{};
    if (std::string_view(head.data(), 5) != "solid")
        return fail(ErrorCode::FileTruncated,
                    fmt::format("a binary STL of {} triangles has {} bytes, this one has {}", triangles,
                                84 + 50ULL * triangles, size),
                    file.string(), "Export the surface again");
    stream.clear();
    stream.seekg(0);
    std::vector<std::string> names;
    std::string line;
    bool any = false;
    while (std::getline(stream, line)) {
        const auto begin = line.find_first_not_of(" \t");
        if (begin == std::string::npos)
            continue;
        any = any || line.compare(begin, 5, "facet") == 0;
        if (line.compare(begin, 5, "solid") != 0)
            continue;
        auto name = line.substr(begin + 5);
        name.erase(0, name.find_first_not_of(" \t"));
        name.erase(name.find_last_not_of(" \t\r") + 1);
        names.push_back(name);
    }
    if (!any)
        return fail(ErrorCode::NoCells, "the surface has no facets", file.string(), "Export the surface again");
    return names;
}

// The cells of one solid.
vtkSmartPointer<vtkPolyData> cellsOf(vtkPolyData& whole, vtkDataArray* labels, double label) {
    auto out = vtkSmartPointer<vtkPolyData>::New();
    out->SetPoints(whole.GetPoints());
    vtkNew<vtkCellArray> polygons;
    vtkNew<vtkIdList> nodes;
    for (vtkIdType cell = 0; cell < whole.GetNumberOfCells(); ++cell) {
        if (labels != nullptr && labels->GetComponent(cell, 0) != label)
            continue;
        whole.GetCellPoints(cell, nodes);
        if (nodes->GetNumberOfIds() >= 3)
            polygons->InsertNextCell(nodes);
    }
    out->SetPolys(polygons);
    return out;
}

template <class Reader>
vtkSmartPointer<vtkPolyData> read(const std::filesystem::path& file) {
    vtkNew<Reader> reader;
    reader->SetFileName(file.c_str());
    if constexpr (std::is_same_v<Reader, vtkSTLReader>)
        reader->ScalarTagsOn();
    reader->Update();
    return reader->GetOutput();
}

} // namespace

bool isSurfaceFile(const std::filesystem::path& file) {
    const auto ending = file.extension();
    return ending == ".stl" || ending == ".obj" || ending == ".ply";
}

Result<std::vector<NamedSurface>> readSurfaces(const std::filesystem::path& file) {
    const auto ending = file.extension();
    std::vector<std::string> names;
    if (ending == ".stl") {
        auto found = solidNames(file);
        if (!found)
            return tl::unexpected(found.error());
        names = std::move(*found);
    }
    const auto whole = ending == ".stl"   ? read<vtkSTLReader>(file)
                       : ending == ".obj" ? read<vtkOBJReader>(file)
                                          : read<vtkPLYReader>(file);
    if (whole == nullptr || whole->GetNumberOfCells() == 0)
        return fail(ErrorCode::NoCells, "the surface has no facets", file.string(), "Export the surface again");
    auto* labels = names.size() > 1 ? whole->GetCellData()->GetScalars() : nullptr;
    std::vector<NamedSurface> surfaces;
    const auto count = labels != nullptr ? names.size() : 1;
    for (std::size_t i = 0; i < count; ++i) {
        const auto name = i < names.size() && !names[i].empty() ? names[i]
                          : count == 1                          ? file.stem().string()
                                                                : fmt::format("solid {}", i + 1);
        auto cells = cellsOf(*whole, labels, static_cast<double>(i));
        if (cells->GetNumberOfCells() > 0)
            surfaces.push_back({name, cells});
    }
    return surfaces;
}

} // namespace pyro

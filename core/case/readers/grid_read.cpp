#include "core/case/readers/grid.h"

#include "core/case/readers/format.h"
#include "core/case/readers/joined_nodes.h"
#include "core/case/readers/legacy.h"
#include "core/case/readers/multiblock.h"
#include "core/case/readers/partitioned.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <fmt/format.h>
#include <fstream>
#include <vtkCellData.h>
#include <vtkDataArray.h>
#include <vtkImageData.h>
#include <vtkInformation.h>
#include <vtkNew.h>
#include <vtkOutputWindow.h>
#include <vtkPointData.h>
#include <vtkPolyData.h>
#include <vtkRectilinearGrid.h>
#include <vtkStreamingDemandDrivenPipeline.h>
#include <vtkStructuredGrid.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLImageDataReader.h>
#include <vtkXMLPolyDataReader.h>
#include <vtkXMLRectilinearGridReader.h>
#include <vtkXMLStructuredGridReader.h>
#include <vtkXMLUnstructuredGridReader.h>

namespace pyro {
namespace {

// Keeps the first complaint of the library instead of printing it.
class Complaints final : public vtkOutputWindow {
public:
    static Complaints* New();
    vtkTypeMacro(Complaints, vtkOutputWindow) void DisplayText(const char* text) override { keep(text); }
    void DisplayErrorText(const char* text) override { keep(text); }
    void DisplayGenericWarningText(const char* text) override { keep(text); }
    void DisplayWarningText(const char*) override {}
    std::string first;

private:
    void keep(const char* text) {
        if (first.empty() && text != nullptr)
            first = text;
    }
};
Complaints* Complaints::New() {
    auto* made = new Complaints;
    made->InitializeObjectBase();
    return made;
}

// "ERROR: In file, line 12\nvtkThing (0x12): message" -> "message"
std::string essence(const std::string& complaint) {
    auto begin = complaint.find("): ");
    begin = begin == std::string::npos ? 0 : begin + 3;
    auto text = complaint.substr(begin, complaint.find('\n', begin) - begin);
    return text.substr(0, 200);
}

template <class Reader>
vtkSmartPointer<vtkDataSet> runReader(const std::filesystem::path& file, const XmlScan& scan) {
    vtkNew<Reader> reader;
    if (scan.cleanedText.empty()) {
        reader->SetFileName(file.c_str());
    } else {
        reader->SetReadFromInputString(true);
        reader->SetInputString(scan.cleanedText);
    }
    reader->Update();
    vtkSmartPointer<vtkDataSet> grid = reader->GetOutput();
    return grid;
}

// Puts the NaN and infinities back that were replaced in the cleaned text.
void restoreNonFinite(vtkDataSet& grid, const XmlScan& scan) {
    for (const auto& token : scan.nonFinite) {
        const bool nodes = token.section == "PointData";
        vtkDataSetAttributes* data = nodes ? static_cast<vtkDataSetAttributes*>(grid.GetPointData())
                                           : static_cast<vtkDataSetAttributes*>(grid.GetCellData());
        vtkDataArray* array = data->GetArray(token.array.c_str());
        if (array == nullptr)
            continue;
        const auto& sizes = nodes ? scan.pointsOfPiece : scan.cellsOfPiece;
        std::uint64_t first = 0;
        for (int piece = 0; piece < token.piece; ++piece)
            first += sizes[static_cast<std::size_t>(piece)];
        const auto components = static_cast<std::uint64_t>(array->GetNumberOfComponents());
        array->SetComponent(static_cast<vtkIdType>(first + token.index / components),
                            static_cast<int>(token.index % components), token.value);
    }
}

tl::unexpected<Error> noCells(const std::filesystem::path& file) {
    return fail(ErrorCode::NoCells, "the file has no cells", file.string(), "Export the mesh together with the result");
}

std::string_view typeOf(const std::filesystem::path& file) {
    constexpr std::array<std::pair<std::string_view, std::string_view>, 5> types{{{".vtu", "UnstructuredGrid"},
                                                                                  {".vtp", "PolyData"},
                                                                                  {".vti", "ImageData"},
                                                                                  {".vtr", "RectilinearGrid"},
                                                                                  {".vts", "StructuredGrid"}}};
    const auto ending = lowerEnding(file);
    const auto found = std::ranges::find(types, ending, &std::pair<std::string_view, std::string_view>::first);
    return found == types.end() ? std::string_view() : found->second;
}

} // namespace

std::string complaintDuring(const std::function<void()>& read) {
    vtkNew<Complaints> complaints;
    vtkOutputWindow::SetInstance(complaints);
    read();
    vtkOutputWindow::SetInstance(nullptr);
    return complaints->first.empty() ? std::string() : essence(complaints->first);
}

bool isGridFile(const std::filesystem::path& file) {
    constexpr std::array<std::string_view, 6> alone{".vtu", ".vtp", ".vti", ".vtr", ".vts", ".vtk"};
    return std::ranges::find(alone, lowerEnding(file)) != alone.end() || isPartitioned(file);
}

Result<vtkSmartPointer<vtkPointSet>> readGridFile(const std::filesystem::path& file, Remarks& remarks) {
    if (isPartitioned(file))
        return readPartitioned(file, remarks);
    return lowerEnding(file) == ".vtk" ? readLegacy(file) : readGrid(file);
}

std::vector<std::filesystem::path> piecesOfGridFile(const std::filesystem::path& file) {
    auto pieces = isPartitioned(file) ? piecesOf(file) : std::vector<std::filesystem::path>();
    return pieces ? std::move(*pieces) : std::vector<std::filesystem::path>();
}

Result<vtkSmartPointer<vtkPointSet>> readGrid(const std::filesystem::path& file) {
    const auto scan = scanXmlGrid(file);
    if (!scan)
        return tl::unexpected(scan.error());
    if (scan->type != typeOf(file))
        return fail(ErrorCode::FormatUnknown, fmt::format("the file holds \"{}\"", scan->type), file.string(),
                    "Give the file the ending that fits its content");
    if (scan->pieces == 0)
        return noCells(file);
    vtkSmartPointer<vtkDataSet> grid;
    const auto complaint = complaintDuring([&] {
        if (scan->type == "UnstructuredGrid")
            grid = runReader<vtkXMLUnstructuredGridReader>(file, *scan);
        else if (scan->type == "PolyData")
            grid = runReader<vtkXMLPolyDataReader>(file, *scan);
        else if (scan->type == "ImageData")
            grid = runReader<vtkXMLImageDataReader>(file, *scan);
        else if (scan->type == "RectilinearGrid")
            grid = runReader<vtkXMLRectilinearGridReader>(file, *scan);
        else if (scan->type == "StructuredGrid")
            grid = runReader<vtkXMLStructuredGridReader>(file, *scan);
    });
    if (!complaint.empty())
        return fail(ErrorCode::FileUnreadable, "its data cannot be read: " + complaint, file.string(),
                    "Copy the file again or have the solver write it again");
    const auto points = static_cast<std::uint64_t>(grid->GetNumberOfPoints());
    const auto cells = static_cast<std::uint64_t>(grid->GetNumberOfCells());
    if (points != scan->points || cells != scan->cells)
        return fail(ErrorCode::LengthMismatch,
                    fmt::format("the file declares {} points and {} cells, but {} and {} could be read", scan->points,
                                scan->cells, points, cells),
                    file.string(), "Have the solver write the file again");
    if (cells == 0 || points == 0)
        return noCells(file);
    const bool structured = vtkPointSet::SafeDownCast(grid) == nullptr ||
                            vtkStructuredGrid::SafeDownCast(grid) != nullptr;
    if (structured && scan->pieces > 1 && !scan->nonFinite.empty())
        return fail(
            ErrorCode::NotSupported,
            "a structured grid of several pieces holds NaN or infinite numbers as text, whose places cannot be told",
            file.string(), "Write it as one piece, or binary");
    restoreNonFinite(*grid, *scan);
    if (auto* unstructured = vtkUnstructuredGrid::SafeDownCast(grid); unstructured != nullptr && scan->pieces > 1)
        // of pieces beside each other, as those of parallel files
        if (auto joined = joinedNodes(*unstructured, SamePlace::Exactly))
            return vtkSmartPointer<vtkPointSet>(joined->grid);
    return asLatticeOrCells(*grid, file.string());
}

namespace {

template <class Reader>
std::optional<double> timeFrom(const std::filesystem::path& file) {
    vtkNew<Reader> reader;
    reader->SetFileName(file.c_str());
    complaintDuring([&] { reader->UpdateInformation(); }); // what is wrong with it is told when it is read
    auto* told = reader->GetOutputInformation(0);
    auto* steps = vtkStreamingDemandDrivenPipeline::TIME_STEPS();
    return told->Has(steps) && told->Length(steps) > 0 ? std::optional(told->Get(steps)[0]) : std::nullopt;
}

std::optional<double> timeOfGrid(const std::filesystem::path& file) {
    const auto ending = lowerEnding(file);
    if (ending == ".vtk")
        return legacyTime(file);
    return ending == ".vtp"   ? timeFrom<vtkXMLPolyDataReader>(file)
           : ending == ".vti" ? timeFrom<vtkXMLImageDataReader>(file)
           : ending == ".vtr" ? timeFrom<vtkXMLRectilinearGridReader>(file)
           : ending == ".vts" ? timeFrom<vtkXMLStructuredGridReader>(file)
                              : timeFrom<vtkXMLUnstructuredGridReader>(file);
}

} // namespace

std::optional<double> timeOf(const std::filesystem::path& file) {
    std::optional<double> time;
    if (file.extension() == ".vtm") {
        if (const auto list = readBlockList(file); list && !list->blocks.empty())
            time = timeOf(list->blocks.front().file);
    } else if (isPartitioned(file)) {
        if (const auto pieces = piecesOf(file))
            time = timeOf(pieces->front());
    } else {
        time = timeOfGrid(file);
    }
    return time && std::isfinite(*time) ? time : std::nullopt;
}

} // namespace pyro

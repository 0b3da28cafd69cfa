#include "core/case/readers/grid.h"

#include "core/case/readers/multiblock.h"
#include "core/case/readers/partitioned.h"

#include <cmath>
#include <fmt/format.h>
#include <fstream>
#include <vtkCellData.h>
#include <vtkDataArray.h>
#include <vtkInformation.h>
#include <vtkNew.h>
#include <vtkOutputWindow.h>
#include <vtkPointData.h>
#include <vtkPolyData.h>
#include <vtkStreamingDemandDrivenPipeline.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLPolyDataReader.h>
#include <vtkXMLUnstructuredGridReader.h>

namespace pyro {
namespace {

// Keeps the first complaint of the library instead of printing it.
class Complaints final : public vtkOutputWindow {
public:
    static Complaints* New();
    vtkTypeMacro(Complaints, vtkOutputWindow)
    void DisplayText(const char* text) override { keep(text); }
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
vtkSmartPointer<vtkPointSet> runReader(const std::filesystem::path& file, const XmlScan& scan) {
    vtkNew<Reader> reader;
    if (scan.cleanedText.empty()) {
        reader->SetFileName(file.c_str());
    } else {
        reader->SetReadFromInputString(true);
        reader->SetInputString(scan.cleanedText);
    }
    reader->Update();
    vtkSmartPointer<vtkPointSet> grid = reader->GetOutput();
    return grid;
}

// Puts the NaN and infinities back that were replaced in the cleaned text.
void restoreNonFinite(vtkPointSet& grid, const XmlScan& scan) {
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

} // namespace

Result<vtkSmartPointer<vtkPointSet>> readGrid(const std::filesystem::path& file) {
    const auto scan = scanXmlGrid(file);
    if (!scan)
        return tl::unexpected(scan.error());
    if ((scan->type == "UnstructuredGrid" || scan->type == "PolyData") && scan->pieces == 0)
        return noCells(file);
    vtkNew<Complaints> complaints;
    vtkOutputWindow::SetInstance(complaints);
    vtkSmartPointer<vtkPointSet> grid;
    if (scan->type == "UnstructuredGrid")
        grid = runReader<vtkXMLUnstructuredGridReader>(file, *scan);
    else if (scan->type == "PolyData")
        grid = runReader<vtkXMLPolyDataReader>(file, *scan);
    vtkOutputWindow::SetInstance(nullptr);
    if (!grid)
        return fail(ErrorCode::FormatUnknown, fmt::format("the file holds \"{}\"", scan->type), file.string(),
                    "Give an unstructured grid (.vtu), a surface (.vtp) or blocks of them (.vtm)");
    if (!complaints->first.empty())
        return fail(ErrorCode::FileUnreadable, "its data cannot be read: " + essence(complaints->first),
                    file.string(), "Copy the file again or have the solver write it again");
    const auto points = static_cast<std::uint64_t>(grid->GetNumberOfPoints());
    const auto cells = static_cast<std::uint64_t>(grid->GetNumberOfCells());
    if (points != scan->points || cells != scan->cells)
        return fail(ErrorCode::LengthMismatch,
                    fmt::format("the file declares {} points and {} cells, but {} and {} could be read",
                                scan->points, scan->cells, points, cells),
                    file.string(), "Have the solver write the file again");
    if (cells == 0 || points == 0)
        return noCells(file);
    restoreNonFinite(*grid, *scan);
    return grid;
}

namespace {

template <class Reader> std::optional<double> timeFrom(const std::filesystem::path& file) {
    vtkNew<Reader> reader;
    reader->SetFileName(file.c_str());
    reader->UpdateInformation();
    auto* told = reader->GetOutputInformation(0);
    auto* steps = vtkStreamingDemandDrivenPipeline::TIME_STEPS();
    return told->Has(steps) && told->Length(steps) > 0 ? std::optional(told->Get(steps)[0]) : std::nullopt;
}

} // namespace

std::optional<double> timeOf(const std::filesystem::path& file) {
    vtkNew<Complaints> complaints;
    vtkOutputWindow::SetInstance(complaints);
    std::optional<double> time;
    if (file.extension() == ".vtm") {
        if (const auto list = readBlockList(file); list && !list->blocks.empty())
            time = timeOf(list->blocks.front().file);
    } else if (file.extension() == ".pvtu") {
        if (const auto pieces = piecesOf(file))
            time = timeOf(pieces->front());
    } else {
        time = file.extension() == ".vtp" ? timeFrom<vtkXMLPolyDataReader>(file)
                                          : timeFrom<vtkXMLUnstructuredGridReader>(file);
    }
    vtkOutputWindow::SetInstance(nullptr);
    return time && std::isfinite(*time) ? time : std::nullopt;
}

} // namespace pyro

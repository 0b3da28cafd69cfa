#include "core/case/readers/partitioned.h"

#include "core/case/inside_folder.h"
#include "core/case/readers/format.h"

#include <algorithm>
#include <expat.h>
#include <fmt/format.h>
#include <fstream>
#include <map>
#include <memory>
#include <vtkAppendFilter.h>
#include <vtkCellData.h>
#include <vtkFieldData.h>
#include <vtkImageData.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkRectilinearGrid.h>
#include <vtkStructuredGrid.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLPImageDataReader.h>
#include <vtkXMLPRectilinearGridReader.h>
#include <vtkXMLPStructuredGridReader.h>

namespace pyro {
namespace {

void onPieceStart(void* data, const char* element, const char** pairs) {
    if (std::string_view(element) != "Piece")
        return;
    for (; *pairs != nullptr; pairs += 2)
        if (std::string_view(pairs[0]) == "Source")
            static_cast<std::vector<std::string>*>(data)->emplace_back(pairs[1]);
}

// A piece without ghost cells; null when nothing is left. The nodes that only ghosts used go with them.
vtkSmartPointer<vtkUnstructuredGrid> ownCells(vtkPointSet& piece) {
    vtkSmartPointer<vtkUnstructuredGrid> grid = vtkUnstructuredGrid::SafeDownCast(&piece);
    if (!grid)
        return nullptr;
    grid->RemoveGhostCells();
    const auto* ghosts = vtkDataSetAttributes::GhostArrayName();
    grid->GetCellData()->RemoveArray(ghosts);
    grid->GetPointData()->RemoveArray(ghosts);
    return grid->GetNumberOfCells() > 0 ? grid : nullptr;
}

// How many pieces hold each array.
using Holders = std::map<std::string, int>;
void countArrays(vtkDataSetAttributes& data, const char* on, Holders& holders) {
    for (int i = 0; i < data.GetNumberOfArrays(); ++i)
        if (const char* name = data.GetArrayName(i); name != nullptr)
            ++holders[fmt::format("\"{}\" on {}s", name, on)];
}

// Global node numbers are believed only as far as the places agree.
Done checkGlobalNumbers(const std::vector<vtkSmartPointer<vtkUnstructuredGrid>>& pieces,
                        const std::filesystem::path& file) {
    std::map<vtkIdType, std::array<double, 3>> seen;
    for (const auto& piece : pieces) {
        auto* numbers = piece->GetPointData()->GetArray("GlobalPointIds");
        if (numbers == nullptr)
            return {};
        for (vtkIdType node = 0; node < piece->GetNumberOfPoints(); ++node) {
            std::array<double, 3> at{};
            piece->GetPoint(node, at.data());
            const auto number = static_cast<vtkIdType>(numbers->GetComponent(node, 0));
            const auto [known, fresh] = seen.emplace(number, at);
            if (!fresh && known->second != at)
                return fail(ErrorCode::LengthMismatch,
                            fmt::format("two pieces place the global node {} differently", number), file.string(),
                            "Have the solver write the pieces again");
        }
    }
    return {};
}

template <class Reader>
vtkSmartPointer<vtkDataSet> readWhole(const std::filesystem::path& file) {
    vtkNew<Reader> reader;
    reader->SetFileName(file.c_str());
    reader->Update();
    return reader->GetOutput();
}

// The pieces of a structured grid overlap as their extents say: the library's reader puts them together, once each was
// checked.
Result<vtkSmartPointer<vtkPointSet>> readStructured(const std::filesystem::path& file,
                                                    const std::vector<std::filesystem::path>& pieces) {
    for (const auto& piece : pieces)
        if (const auto scan = scanXmlGrid(piece); !scan)
            return tl::unexpected(scan.error());
    vtkSmartPointer<vtkDataSet> whole;
    const auto ending = lowerEnding(file);
    const auto complaint = complaintDuring([&] {
        whole = ending == ".pvti"   ? readWhole<vtkXMLPImageDataReader>(file)
                : ending == ".pvtr" ? readWhole<vtkXMLPRectilinearGridReader>(file)
                                    : readWhole<vtkXMLPStructuredGridReader>(file);
    });
    if (!complaint.empty() || whole == nullptr)
        return fail(ErrorCode::FileUnreadable, "its pieces cannot be put together: " + complaint, file.string(),
                    "Copy all pieces again or have the solver write them again");
    return asLatticeOrCells(*whole, file.string());
}

} // namespace

bool isPartitioned(const std::filesystem::path& file) {
    const auto ending = lowerEnding(file);
    return ending == ".pvtu" || ending == ".pvti" || ending == ".pvtr" || ending == ".pvts";
}

Result<std::vector<std::filesystem::path>> piecesOf(const std::filesystem::path& pvtuFile) {
    const auto scan = scanXmlGrid(pvtuFile);
    if (!scan)
        return tl::unexpected(scan.error());
    const auto ending = lowerEnding(pvtuFile);
    if (scan->type != (ending == ".pvti"   ? "PImageData"
                       : ending == ".pvtr" ? "PRectilinearGrid"
                       : ending == ".pvts" ? "PStructuredGrid"
                                           : "PUnstructuredGrid"))
        return fail(ErrorCode::FormatUnknown,
                    fmt::format("the file holds \"{}\", which are not the pieces that {} tells", scan->type, ending),
                    pvtuFile.string(), "Give the file the ending that fits its content");
    std::ifstream stream(pvtuFile, std::ios::binary);
    const std::string text((std::istreambuf_iterator<char>(stream)), {});
    std::vector<std::string> sources;
    const std::unique_ptr<std::remove_pointer_t<XML_Parser>, void (*)(XML_Parser)> parser(XML_ParserCreate(nullptr),
                                                                                          XML_ParserFree);
    XML_SetUserData(parser.get(), &sources);
    XML_SetStartElementHandler(parser.get(), onPieceStart);
    XML_Parse(parser.get(), text.data(), static_cast<int>(text.size()), XML_TRUE); // scanned above: well-formed
    if (sources.empty())
        return fail(ErrorCode::NoCells, "the file lists no pieces", pvtuFile.string(),
                    "Have the solver write the file again");
    std::vector<std::filesystem::path> files;
    for (const auto& source : sources) {
        const auto file = insideFolder(pvtuFile, source);
        if (!file)
            return fail(ErrorCode::FileMissing, fmt::format("its piece {} lies outside of its folder", source),
                        pvtuFile.string(), "Keep the pieces beside the .pvtu file or below it");
        std::error_code status;
        if (source.empty() || !std::filesystem::is_regular_file(*file, status))
            return fail(ErrorCode::FileMissing, fmt::format("its piece {} does not exist", source), pvtuFile.string(),
                        "Copy all pieces together with the .pvtu file");
        files.push_back(*file);
    }
    return files;
}

Result<vtkSmartPointer<vtkPointSet>> readPartitioned(const std::filesystem::path& pvtuFile, Remarks& remarks) {
    const auto files = piecesOf(pvtuFile);
    if (!files)
        return tl::unexpected(files.error());
    if (lowerEnding(pvtuFile) != ".pvtu")
        return readStructured(pvtuFile, *files);
    std::vector<vtkSmartPointer<vtkUnstructuredGrid>> pieces;
    Holders holders;
    for (const auto& file : *files) {
        auto grid = readGrid(file);
        if (!grid && grid.error().code == ErrorCode::NoCells)
            continue; // a rank without any
        if (!grid)
            return tl::unexpected(grid.error());
        const auto cells = asCells(**grid, file.string());
        if (!cells)
            return tl::unexpected(cells.error());
        if (auto own = ownCells(**cells)) {
            countArrays(*own->GetPointData(), "node", holders);
            countArrays(*own->GetCellData(), "cell", holders);
            pieces.push_back(std::move(own));
        }
    }
    if (pieces.empty())
        return fail(ErrorCode::NoCells, "its pieces have no cells", pvtuFile.string(),
                    "Export the mesh together with the result");
    for (const auto& [array, count] : holders)
        if (count < static_cast<int>(pieces.size()))
            remarks.push_back(
                {Severity::Serious, "array-not-everywhere",
                 fmt::format("the array {} is left out: only {} of {} pieces have it", array, count, pieces.size()),
                 pvtuFile.string()});
    if (auto checked = checkGlobalNumbers(pieces, pvtuFile); !checked)
        return tl::unexpected(checked.error());
    vtkNew<vtkAppendFilter> joined;
    joined->MergePointsOn();
    joined->SetTolerance(0);
    for (const auto& piece : pieces)
        joined->AddInputData(piece);
    joined->Update();
    joined->GetOutput()->GetFieldData()->ShallowCopy(pieces.front()->GetFieldData()); // its time
    return vtkSmartPointer<vtkPointSet>(joined->GetOutput());
}

} // namespace pyro

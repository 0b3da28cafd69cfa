#include "core/case/writers/vtk_file.h"

#include "core/feedback/whole_file.h"

#include <fmt/format.h>
#include <vtkCellArray.h>
#include <vtkCellData.h>
#include <vtkDoubleArray.h>
#include <vtkErrorCode.h>
#include <vtkFieldData.h>
#include <vtkIdTypeArray.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkPolyData.h>
#include <vtkUnsignedCharArray.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLPolyDataWriter.h>
#include <vtkXMLUnstructuredGridWriter.h>

namespace pyro {
namespace {

vtkNew<vtkDoubleArray> toVtk(const std::string& name, int components, const std::vector<double>& values) {
    vtkNew<vtkDoubleArray> array;
    array->SetName(name.c_str());
    array->SetNumberOfComponents(components);
    array->SetArray(const_cast<double*>(values.data()), static_cast<vtkIdType>(values.size()), 1);
    return array;
}

vtkNew<vtkCellArray> cellsOf(const BlockData& block) {
    vtkNew<vtkIdTypeArray> offsets;
    vtkNew<vtkIdTypeArray> ids;
    for (const auto offset : block.offsets)
        offsets->InsertNextValue(static_cast<vtkIdType>(offset));
    for (const auto id : block.connectivity)
        ids->InsertNextValue(static_cast<vtkIdType>(id));
    vtkNew<vtkCellArray> cells;
    cells->SetData(offsets.GetPointer(), ids.GetPointer());
    return cells;
}

void fill(vtkPointSet& grid, const BlockData& block) {
    vtkNew<vtkPoints> points;
    points->SetData(toVtk("Points", 3, block.points));
    grid.SetPoints(points);
    if (block.time) {
        vtkNew<vtkDoubleArray> time;
        time->SetName("TimeValue");
        time->InsertNextValue(*block.time);
        grid.GetFieldData()->AddArray(time);
    }
    for (const auto& array : block.arrays) {
        const auto values = toVtk(array.name, array.components, array.values);
        if (array.on == Location::Node)
            grid.GetPointData()->AddArray(values);
        else
            grid.GetCellData()->AddArray(values);
    }
}

bool write(vtkXMLWriter& writer, vtkPointSet& grid, const std::filesystem::path& file, Encoding encoding) {
    vtkObject::GlobalWarningDisplayOff(); // what went wrong is told by the caller, once
    writer.SetInputData(&grid);
    writer.SetFileName(file.c_str());
    if (encoding == Encoding::Ascii)
        writer.SetDataModeToAscii();
    else
        writer.SetDataModeToAppended();
    writer.EncodeAppendedDataOff();
    if (encoding != Encoding::Appended)
        writer.SetCompressorTypeToNone();
    // Of a full disk the writer tells by its error code alone.
    return writer.Write() == 1 && writer.GetErrorCode() == vtkErrorCode::NoError;
}

std::string escaped(const std::string& name) {
    std::string out;
    for (const char c : name)
        out += c == '&' ? "&amp;" : c == '<' ? "&lt;" : c == '"' ? "&quot;" : std::string(1, c);
    return out;
}

std::string groupXml(const std::vector<BlockData>& blocks, bool boundary, const std::string& folder) {
    std::string xml;
    int index = 0;
    for (std::size_t i = 0; i < blocks.size(); ++i)
        if (blocks[i].boundary == boundary)
            xml += fmt::format("      <DataSet index=\"{}\" name=\"{}\" file=\"{}/{}.{}\"/>\n", index++,
                               escaped(blocks[i].name), escaped(folder), i, boundary ? "vtp" : "vtu");
    return xml;
}

tl::unexpected<Error> notWritten(const std::filesystem::path& file) {
    return fail(ErrorCode::WriteFailed, "the case cannot be written", file.string(),
                "Choose another folder, or check its permissions and free space");
}

} // namespace

Done writeBlock(const BlockData& block, const std::filesystem::path& file, Encoding encoding) {
    bool written = false;
    if (block.boundary) {
        vtkNew<vtkPolyData> surface;
        fill(*surface, block);
        surface->SetPolys(cellsOf(block));
        vtkNew<vtkXMLPolyDataWriter> writer;
        written = write(*writer, *surface, file, encoding);
    } else {
        vtkNew<vtkUnstructuredGrid> grid;
        fill(*grid, block);
        vtkNew<vtkUnsignedCharArray> types;
        for (const auto type : block.types)
            types->InsertNextValue(type);
        grid->SetCells(types, cellsOf(block));
        vtkNew<vtkXMLUnstructuredGridWriter> writer;
        written = write(*writer, *grid, file, encoding);
    }
    return written ? Done() : notWritten(file);
}

Done writeCase(const std::vector<BlockData>& blocks, const std::filesystem::path& vtmFile, Encoding encoding) {
    const auto folder = vtmFile.stem().string();
    std::error_code created;
    std::filesystem::create_directories(vtmFile.parent_path() / folder, created);
    if (created)
        return notWritten(vtmFile);
    for (std::size_t i = 0; i < blocks.size(); ++i) {
        const auto file = vtmFile.parent_path() / folder / (std::to_string(i) + (blocks[i].boundary ? ".vtp" : ".vtu"));
        if (auto done = writeBlock(blocks[i], file, encoding); !done)
            return done;
    }
    const auto text = fmt::format(
        "<?xml version=\"1.0\"?>\n"
        "<VTKFile type=\"vtkMultiBlockDataSet\" version=\"1.0\" byte_order=\"LittleEndian\">\n"
        "  <vtkMultiBlockDataSet>\n"
        "    <Block index=\"0\" name=\"parts\">\n{}    </Block>\n"
        "    <Block index=\"1\" name=\"boundaries\">\n{}    </Block>\n"
        "  </vtkMultiBlockDataSet>\n</VTKFile>\n",
        groupXml(blocks, false, folder), groupXml(blocks, true, folder));
    return writeFileAtomically(vtmFile, text, "the case");
}

} // namespace pyro

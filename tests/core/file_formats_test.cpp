// The same field in every kind of file, written by the library's own writers, reads the same; values against those of
// the .vtu.
#include "core/field/shell.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>
#include <vtkAppendFilter.h>
#include <vtkCellData.h>
#include <vtkDataSetWriter.h>
#include <vtkDoubleArray.h>
#include <vtkFieldData.h>
#include <vtkImageData.h>
#include <vtkIntArray.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkRectilinearGrid.h>
#include <vtkStructuredGrid.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLImageDataWriter.h>
#include <vtkXMLPImageDataWriter.h>
#include <vtkXMLPRectilinearGridWriter.h>
#include <vtkXMLPStructuredGridWriter.h>
#include <vtkXMLRectilinearGridWriter.h>
#include <vtkXMLStructuredGridWriter.h>
#include <vtkXMLUnstructuredGridWriter.h>

using namespace pyro;
using namespace pyro::test;

namespace {

constexpr std::array<int, 3> counts{5, 4, 3}; // nodes along each axis
constexpr std::array<double, 3> spacing{0.25, 0.5, 0.75};

template <class Grid>
void addFields(Grid& grid) {
    vtkNew<vtkDoubleArray> temperature;
    temperature->SetName("T [K]");
    vtkNew<vtkDoubleArray> velocity;
    velocity->SetName("velocity");
    velocity->SetNumberOfComponents(3);
    std::array<double, 3> at{};
    for (vtkIdType i = 0; i < grid.GetNumberOfPoints(); ++i) {
        grid.GetPoint(i, at.data());
        temperature->InsertNextValue(300 + 40 * at[0] + 10 * at[1] - 20 * at[2] + 3 * at[0] * at[1]);
        velocity->InsertNextTuple3(at[0], 2 * at[1], 3 - at[2]);
    }
    grid.GetPointData()->AddArray(temperature);
    grid.GetPointData()->AddArray(velocity);
    vtkNew<vtkDoubleArray> source;
    source->SetName("heat_source");
    vtkNew<vtkIntArray> material;
    material->SetName("MaterialIds");
    for (vtkIdType i = 0; i < grid.GetNumberOfCells(); ++i) {
        source->InsertNextValue(1000.0 + static_cast<double>(i));
        material->InsertNextValue(i < grid.GetNumberOfCells() / 2 ? 7 : 3);
    }
    grid.GetCellData()->AddArray(source);
    grid.GetCellData()->AddArray(material);
    vtkNew<vtkDoubleArray> time;
    time->SetName("TimeValue");
    time->InsertNextValue(12.5);
    grid.GetFieldData()->AddArray(time);
}

vtkSmartPointer<vtkImageData> image() {
    vtkNew<vtkImageData> grid;
    grid->SetDimensions(counts.data());
    grid->SetSpacing(spacing.data());
    addFields(*grid);
    return grid;
}

vtkSmartPointer<vtkRectilinearGrid> rectilinear() {
    vtkNew<vtkRectilinearGrid> grid;
    grid->SetDimensions(counts.data());
    for (int axis = 0; axis < 3; ++axis) {
        vtkNew<vtkDoubleArray> at;
        for (int i = 0; i < counts[static_cast<std::size_t>(axis)]; ++i)
            at->InsertNextValue(i * spacing[static_cast<std::size_t>(axis)]);
        axis == 0 ? grid->SetXCoordinates(at) : axis == 1 ? grid->SetYCoordinates(at) : grid->SetZCoordinates(at);
    }
    addFields(*grid);
    return grid;
}

// `mirrored`: its first index runs against x, so that its cells are left-handed.
vtkSmartPointer<vtkStructuredGrid> structured(bool mirrored = false) {
    vtkNew<vtkStructuredGrid> grid;
    grid->SetDimensions(counts.data());
    vtkNew<vtkPoints> points;
    points->SetDataTypeToDouble();
    for (int k = 0; k < counts[2]; ++k)
        for (int j = 0; j < counts[1]; ++j)
            for (int i = 0; i < counts[0]; ++i)
                points->InsertNextPoint((mirrored ? counts[0] - 1 - i : i) * spacing[0], j * spacing[1],
                                        k * spacing[2]);
    grid->SetPoints(points);
    addFields(*grid);
    return grid;
}

template <class Writer, class Grid>
void write(Grid& grid, const std::filesystem::path& file, int mode) {
    vtkNew<Writer> writer;
    writer->SetInputData(&grid);
    writer->SetFileName(file.c_str());
    writer->SetDataMode(mode);
    ASSERT_EQ(writer->Write(), 1);
}

template <class Writer, class Grid>
void writePieces(Grid& grid, const std::filesystem::path& file) {
    vtkNew<Writer> writer;
    writer->SetInputData(&grid);
    writer->SetFileName(file.c_str());
    writer->SetNumberOfPieces(3);
    writer->SetStartPiece(0);
    writer->SetEndPiece(2);
    ASSERT_EQ(writer->Write(), 1);
}

void writeLegacy(vtkDataSet& grid, const std::filesystem::path& file, bool binary, int version) {
    vtkNew<vtkDataSetWriter> writer;
    writer->SetInputData(&grid);
    writer->SetFileName(file.c_str());
    binary ? writer->SetFileTypeToBinary() : writer->SetFileTypeToASCII();
    writer->SetFileVersion(version);
    ASSERT_EQ(writer->Write(), 1);
}

// What is read of a file: each number by its name.
std::map<std::string, double> numbersOf(const std::filesystem::path& file) {
    const auto opened = mustOpen(file);
    std::map<std::string, double> out;
    out["time"] = opened.solved->time.value_or(-1);
    for (std::size_t i = 0; i < opened.solved->parts.size(); ++i) {
        const auto& part = opened.solved->parts[i];
        out[part.name + " cells"] = static_cast<double>(part.mesh.cells());
        out[part.name + " volume"] = opened.index->parts[i].size;
    }
    for (std::size_t i = 0; i < opened.solved->boundaries.size(); ++i)
        out[opened.solved->boundaries[i].name + " area"] = opened.index->boundaries[i].size;
    const auto survey = Json::parse(
        R"({"case": {"parts": {"MaterialIds 3": {"material": "m"}, "MaterialIds 7": {"material": "m"}}},
          "materials": {"m": {"conductivity": 5}},
        "gauges": [{"id": "mean", "where": {"part": ["MaterialIds 3", "MaterialIds 7"]}, "quantity": "temperature"},
        {"id": "max", "where": {"part": "MaterialIds 3"}, "quantity": "temperature", "statistic": "max"},
        {"id": "source", "where": {"part": "MaterialIds 7"}, "quantity": "heat_source", "statistic": "integral"},
        {"id": "speed", "where": {"part": "MaterialIds 7"}, "quantity": "velocity", "statistic": "max"},
        {"id": "heat", "where": {"boundary": "MaterialIds 7 z min"}, "quantity": "heat_flux", "statistic": "integral"},
        {"id": "at", "where": {"point": [0.3, 0.7, 0.4]}, "quantity": "temperature"},
        {"id": "section", "where": {"plane": {"origin": [0.3, 0, 0], "normal": [1, 0.2, 0]}},
          "quantity": "temperature"}]})");
    for (const auto& gauge : readOn(opened, survey).gauges) {
        EXPECT_TRUE(gauge.value) << file << " " << gauge.id << ": " << gauge.why;
        out[gauge.id] = gauge.value.value_or(std::nan(""));
    }
    return out;
}

class FileFormats : public testing::Test {
protected:
    TempFolder folder;
    std::map<std::string, double> expected;

    void SetUp() override {
        vtkNew<vtkAppendFilter> cells;
        const auto grid = image();
        cells->AddInputData(grid);
        cells->Update();
        cells->GetOutput()->GetFieldData()->ShallowCopy(grid->GetFieldData());
        write<vtkXMLUnstructuredGridWriter>(*cells->GetOutput(), folder / "same.vtu", vtkXMLWriter::Appended);
        expected = numbersOf(folder / "same.vtu");
        ASSERT_NEAR(expected["time"], 12.5, 0);
        ASSERT_NEAR(expected["MaterialIds 7 cells"], 12, 0);
        ASSERT_NEAR(expected["MaterialIds 7 volume"], 12 * 0.25 * 0.5 * 0.75, 1e-12);
    }

    void expectSame(const std::string& name) {
        SCOPED_TRACE(name);
        const auto found = numbersOf(folder / name);
        EXPECT_EQ(found.size(), expected.size());
        for (const auto& [what, value] : expected) {
            ASSERT_TRUE(found.contains(what)) << what;
            EXPECT_NEAR(found.at(what), value, 1e-12 * std::max(1.0, std::abs(value))) << what;
        }
    }
};

} // namespace

TEST_F(FileFormats, StructuredKinds) {
    for (const int mode : {vtkXMLWriter::Ascii, vtkXMLWriter::Binary, vtkXMLWriter::Appended}) {
        const auto name = "grid_" + std::to_string(mode);
        write<vtkXMLImageDataWriter>(*image(), folder / (name + ".vti"), mode);
        expectSame(name + ".vti");
        write<vtkXMLRectilinearGridWriter>(*rectilinear(), folder / (name + ".vtr"), mode);
        expectSame(name + ".vtr");
        write<vtkXMLStructuredGridWriter>(*structured(), folder / (name + ".vts"), mode);
        expectSame(name + ".vts");
    }
}

TEST_F(FileFormats, StructuredPieces) {
    writePieces<vtkXMLPImageDataWriter>(*image(), folder / "image.pvti");
    expectSame("image.pvti");
    writePieces<vtkXMLPRectilinearGridWriter>(*rectilinear(), folder / "rectilinear.pvtr");
    expectSame("rectilinear.pvtr");
    writePieces<vtkXMLPStructuredGridWriter>(*structured(), folder / "structured.pvts");
    expectSame("structured.pvts");
    std::filesystem::remove(folder / "image" / "image_1.vti");
    std::filesystem::remove(folder / "image_1.vti");
    NoProgress progress;
    const auto hole = openCase(folder / "image.pvti", {}, progress);
    ASSERT_FALSE(hole) << "a hole is no mesh";
    EXPECT_NE(hole.error().what.find("does not exist"), std::string::npos) << hole.error().what;
}

TEST_F(FileFormats, Legacy) {
    vtkNew<vtkAppendFilter> cells;
    const auto grid = image();
    cells->AddInputData(grid);
    cells->Update();
    cells->GetOutput()->GetFieldData()->ShallowCopy(grid->GetFieldData());
    for (const bool binary : {false, true})
        for (const int version :
             {vtkDataWriter::VTK_LEGACY_READER_VERSION_4_2, vtkDataWriter::VTK_LEGACY_READER_VERSION_5_1}) {
            const auto name = std::string(binary ? "binary_" : "text_") + std::to_string(version);
            writeLegacy(*image(), folder / (name + "_image.vtk"), binary, version);
            expectSame(name + "_image.vtk");
            writeLegacy(*rectilinear(), folder / (name + "_rectilinear.vtk"), binary, version);
            expectSame(name + "_rectilinear.vtk");
            writeLegacy(*structured(), folder / (name + "_structured.vtk"), binary, version);
            expectSame(name + "_structured.vtk");
            writeLegacy(*cells->GetOutput(), folder / (name + "_cells.vtk"), binary, version);
            expectSame(name + "_cells.vtk");
        }
}

// Left-handed cells have the volume of right-handed ones.
TEST_F(FileFormats, AMirroredGridIsTurned) {
    write<vtkXMLStructuredGridWriter>(*structured(true), folder / "mirrored.vts", vtkXMLWriter::Appended);
    const auto opened = mustOpen(folder / "mirrored.vts");
    double volume = 0;
    for (const auto& part : opened.index->parts)
        volume += part.size;
    EXPECT_NEAR(volume, 1.0 * 1.5 * 1.5, 1e-12);
    EXPECT_FALSE(has(opened.index->remarks, "flawed-cells"));
}

TEST_F(FileFormats, BlankedCellsAreLeftOut) {
    const auto grid = structured();
    grid->BlankCell(0);
    grid->BlankPoint(grid->GetNumberOfPoints() - 1); // and with it the last cell
    grid->GetCellData()->RemoveArray("MaterialIds");
    write<vtkXMLStructuredGridWriter>(*grid, folder / "blanked.vts", vtkXMLWriter::Appended);
    const auto opened = mustOpen(folder / "blanked.vts");
    ASSERT_EQ(opened.solved->parts.size(), 1U);
    EXPECT_EQ(opened.solved->parts[0].mesh.cells(), 22U);
    EXPECT_NEAR(opened.index->parts[0].size, 22 * 0.25 * 0.5 * 0.75, 1e-12);
    const auto* source = opened.solved->parts[0].find("heat_source", Location::Cell);
    ASSERT_NE(source, nullptr);
    EXPECT_EQ(source->values[0], 1001) << "of the cell after the blanked one";
}

// Of a whole structured grid the outer faces are those of its sides: the same as those found among all cells, whichever
// way its indices run.
TEST_F(FileFormats, OuterFacesOfALattice) {
    for (const bool mirrored : {false, true}) {
        const auto file = folder / (mirrored ? "left.vts" : "right.vts");
        write<vtkXMLStructuredGridWriter>(*structured(mirrored), file, vtkXMLWriter::Appended);
        OpenOptions whole;
        whole.split.parts = "";
        NoProgress progress;
        const auto opened = openCase(file, whole, progress);
        ASSERT_TRUE(opened) << opened.error().what;
        auto part = (*opened)->parts[0];
        ASSERT_TRUE(part.lattice);
        EXPECT_EQ(*part.lattice,
                  (std::array<std::size_t, 3>{static_cast<std::size_t>(counts[0]), static_cast<std::size_t>(counts[1]),
                                              static_cast<std::size_t>(counts[2])}));
        const auto quick = outerFaces(part);
        part.lattice.reset();
        const auto searched = outerFaces(part);
        EXPECT_EQ(quick.nodes, searched.nodes);
        EXPECT_EQ(quick.offsets, searched.offsets);
        EXPECT_EQ(quick.cell, searched.cell);
        EXPECT_GT(quick.cell.size(), 0U);
    }
}

// As old programs write it: version 2.0, scalars with a table of colours, vectors, a field, and no more than that.
TEST(LegacyText, OldVersionsAndTheirKeywords) {
    TempFolder folder;
    writeText(folder / "old.vtk", "# vtk DataFile Version 2.0\nflat plate\nASCII\nDATASET UNSTRUCTURED_GRID\nPOINTS 8 "
                                  "float\n0 0 0 1 0 0 1 1 0 0 1 0\n0 0 1 1 0 1 1 1 1 0 1 1\n"
                                  "CELLS 1 9\n8 0 1 2 3 4 5 6 7\nCELL_TYPES 1\n12\nPOINT_DATA 8\nSCALARS temperature "
                                  "double 1\nLOOKUP_TABLE mine\n300 310 320 330 340 350 360 370\n"
                                  "LOOKUP_TABLE mine 2\n0 0 0 1\n1 1 1 1\nVECTORS velocity float\n1 0 0 1 0 0 1 0 0 1 "
                                  "0 0\n1 0 0 1 0 0 1 0 0 1 0 0\n"
                                  "COLOR_SCALARS shade 1\n0 .1 .2 .3 .4 .5 .6 .7\nCELL_DATA 1\nFIELD data "
                                  "2\nheat_source 1 1 double\n5\nlabel 1 1 string\nx\n");
    const auto opened = mustOpen(folder / "old.vtk");
    ASSERT_EQ(opened.solved->parts.size(), 1U);
    EXPECT_EQ(opened.solved->parts[0].name, "old");
    const auto* temperature = opened.solved->parts[0].find("temperature", Location::Node);
    ASSERT_NE(temperature, nullptr);
    EXPECT_EQ(temperature->max, 370);
    EXPECT_NE(opened.solved->parts[0].find("velocity", Location::Node), nullptr);
    EXPECT_NE(opened.solved->parts[0].find("heat_source", Location::Cell), nullptr);
    EXPECT_EQ(opened.solved->boundaries.size(), 6U);
}

// Every tenth of a file, and declarations that cannot be true: one message, never a half-read field.
TEST(LegacyText, BrokenFilesAreRefused) {
    TempFolder folder;
    for (const bool binary : {false, true}) {
        writeLegacy(*image(), folder / "whole.vtk", binary, vtkDataWriter::VTK_LEGACY_READER_VERSION_4_2);
        const auto whole = readText(folder / "whole.vtk");
        NoProgress progress;
        for (std::size_t tenth = 0; tenth < 10; ++tenth) {
            const auto file = folder / ("cut" + std::to_string(tenth) + ".vtk");
            writeText(file, whole.substr(0, whole.size() * tenth / 10));
            const auto opened = openCase(file, {}, progress);
            EXPECT_FALSE(opened) << tenth << (binary ? " binary" : " text");
            if (!opened) {
                EXPECT_FALSE(opened.error().what.empty());
                EXPECT_FALSE(opened.error().remedy.empty()) << opened.error().what;
            }
        }
    }
    const std::string head = "# vtk DataFile Version 3.0\nx\nASCII\n";
    // which the library walks on trust
    const auto lists = [](const std::string& list, const std::string& version = "3.0") {
        return "# vtk DataFile Version " + version +
               "\nx\nASCII\nDATASET UNSTRUCTURED_GRID\nPOINTS 4 float\n0 0 0 1 0 0 0 1 0 0 0 1\n" + list +
               "CELL_TYPES 1\n10\n";
    };
    for (const auto& [text, code] :
         {std::pair<std::string, ErrorCode>{"not vtk at all\n\n\n\n", ErrorCode::FileUnreadable},
          {head + "DATASET UNSTRUCTURED_GRID\nPOINTS 1000000000000000 float\n", ErrorCode::SizeAbsurd},
          {head + "DATASET UNSTRUCTURED_GRID\nPOINTS -5 float\n", ErrorCode::Syntax},
          {head + "DATASET UNSTRUCTURED_GRID\nPOINTS five float\n", ErrorCode::Syntax},
          {head + "DATASET STRUCTURED_POINTS\nDIMENSIONS 100000 100000 100000\nSPACING 1 1 1\nORIGIN 0 0 0\n",
           ErrorCode::SizeAbsurd},
          {"# vtk DataFile Version 3.0\nx\nEBCDIC\nDATASET POLYDATA\n", ErrorCode::Syntax},
          {head + "FIELD data 1\na 1 1 float\n1\n", ErrorCode::NoCells},
          {head + "DATASET UNSTRUCTURED_GRID\nPOINTS 4 float\n0 0 0 1 0 0 0 1 0 0 0 1\nCELLS 1 5\n4 0 1 2 "
                  "9\nCELL_TYPES 1\n10\n",
           ErrorCode::IndexOutOfRange},
          {lists("CELLS 1 5\n4000 0 1 2 3\n"), ErrorCode::LengthMismatch},
          {lists("CELLS 1 5\n-4 0 1 2 3\n"), ErrorCode::LengthMismatch},
          {lists("CELLS 1 6\n4 0 1 2 3 0\n"), ErrorCode::LengthMismatch},
          {lists("CELLS 2 5\n4 0 1 2 3\n"), ErrorCode::LengthMismatch},
          {lists("CELLS 1 5\n4 0 1 two 3\n"), ErrorCode::FileTruncated},
          {lists("CELLS 2 4\nOFFSETS vtktypeint64\n0 400\nCONNECTIVITY vtktypeint64\n0 1 2 3\n", "5.1"),
           ErrorCode::LengthMismatch},
          {lists("CELLS 3 4\nOFFSETS vtktypeint64\n0 -4 4\nCONNECTIVITY vtktypeint64\n0 1 2 3\n", "5.1"),
           ErrorCode::LengthMismatch},
          {lists("CELLS 2 4\nOFFSETS vtktypeint32\n0 3\nCONNECTIVITY vtktypeint32\n0 1 2 3\n", "5.1"),
           ErrorCode::LengthMismatch},
          {lists("CELLS 2 4\nOFFSETS vtktypeint32\n0 4\nBEGINNINGS vtktypeint32\n0 1 2 3\n", "5.1"),
           ErrorCode::LengthMismatch}}) {
        writeText(folder / "bad.vtk", text);
        NoProgress progress;
        const auto opened = openCase(folder / "bad.vtk", {}, progress);
        ASSERT_FALSE(opened) << text;
        EXPECT_EQ(opened.error().code, code) << text << opened.error().what;
    }
}

// Cells that an array divides into parts are checked before they are taken apart.
TEST(LegacyText, NodesOutOfRangeInADividedGrid) {
    TempFolder folder;
    writeText(folder / "bad.vtk", "# vtk DataFile Version 3.0\nx\nASCII\nDATASET UNSTRUCTURED_GRID\nPOINTS 5 float\n0 "
                                  "0 0 1 0 0 0 1 0 0 0 1 1 1 1\n"
                                  "CELLS 2 10\n4 0 1 2 3\n4 1 2 3 4000000\nCELL_TYPES 2\n10 10\nCELL_DATA 2\nSCALARS "
                                  "material int 1\nLOOKUP_TABLE default\n1 2\n");
    NoProgress progress;
    const auto opened = openCase(folder / "bad.vtk", {}, progress);
    ASSERT_FALSE(opened);
    EXPECT_EQ(opened.error().code, ErrorCode::IndexOutOfRange) << opened.error().what;
}

// Which arrays divide a lone grid, and that the survey has the last word.
TEST_F(FileFormats, TheSurveyChoosesTheArrayThatDivides) {
    NoProgress progress;
    OpenOptions none;
    none.split.parts = "";
    const auto whole = openForEvaluation(folder / "same.vtu", none, progress);
    ASSERT_TRUE(whole) << whole.error().what;
    ASSERT_EQ(whole->solved->parts.size(), 1U);
    EXPECT_EQ(whole->solved->parts[0].name, "same");
    EXPECT_TRUE(whole->solved->boundaryNamed("z min"));
    OpenOptions other;
    other.split.parts = "no such array";
    const auto refused = openForEvaluation(folder / "same.vtu", other, progress);
    ASSERT_FALSE(refused);
    EXPECT_EQ(refused.error().code, ErrorCode::NameUnknown);
    OpenOptions source;
    source.split.parts = "heat_source";
    EXPECT_EQ(openForEvaluation(folder / "same.vtu", source, progress)->solved->parts.size(), 24U)
        << "whole numbers, whatever their type";
}

TEST_F(FileFormats, StructuredBlocksOfAMultiblockFile) {
    std::filesystem::create_directories(folder / "b");
    write<vtkXMLImageDataWriter>(*image(), folder / "b" / "one.vti", vtkXMLWriter::Appended);
    write<vtkXMLStructuredGridWriter>(*structured(), folder / "b" / "two.vts", vtkXMLWriter::Appended);
    writeText(folder / "mixed.vtm",
              R"(<?xml version="1.0"?><VTKFile type="vtkMultiBlockDataSet" version="1.0"><vtkMultiBlockDataSet>
        <Block index="0" name="left"><Block index="0" name="deep"><DataSet index="0" name="grid" file="b/one.vti"/>
          </Block></Block>
        <Block index="1" name="right"><DataSet index="0" name="grid" file="b/two.vts"/>
          <DataSet index="1" name="empty"/></Block>
        </vtkMultiBlockDataSet></VTKFile>)");
    const auto opened = mustOpen(folder / "mixed.vtm");
    ASSERT_EQ(opened.solved->parts.size(), 2U);
    EXPECT_EQ(opened.solved->parts[0].name, "left/deep/grid") << "the last name alone is not unique";
    EXPECT_EQ(opened.solved->parts[1].name, "right/grid");
    EXPECT_TRUE(has(opened.solved->remarks, "block-empty"));
    EXPECT_FALSE(has(opened.solved->remarks, "duplicate-name"));
}

// Two blocks of one name in one group keep it, the second with a number; below groups of their own they are told apart
// by these.
TEST_F(FileFormats, BlocksOfOneName) {
    std::filesystem::create_directories(folder / "b");
    write<vtkXMLImageDataWriter>(*image(), folder / "b" / "one.vti", vtkXMLWriter::Appended);
    const auto namesOf = [&](const std::string& inside) {
        writeText(folder / "twice.vtm", "<?xml version=\"1.0\"?><VTKFile type=\"vtkMultiBlockDataSet\" "
                                        "version=\"1.0\"><vtkMultiBlockDataSet><Block name=\"parts\">" +
                                            inside + "</Block></vtkMultiBlockDataSet></VTKFile>");
        const auto opened = mustOpen(folder / "twice.vtm");
        std::vector<std::string> names;
        for (const auto& part : opened.solved->parts)
            names.push_back(part.name);
        return names;
    };
    const std::string block = "<DataSet name=\"grid\" file=\"b/one.vti\"/>";
    EXPECT_EQ(namesOf(block + block), (std::vector<std::string>{"grid", "grid (2)"}));
    EXPECT_EQ(namesOf("<Block name=\"left\">" + block + "</Block><Block name=\"right\">" + block + "</Block>"),
              (std::vector<std::string>{"left/grid", "right/grid"}));
}

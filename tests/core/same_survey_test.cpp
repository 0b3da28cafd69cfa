// One survey on one solution in every kind of file: the readings are equal. Structured, parallel and block files by the
// writers of the library, CGNS by the format's own, the others as another library made them (tests/data/foreign).
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cgnslib.h>
#include <gtest/gtest.h>
#include <vtkCellData.h>
#include <vtkDataSetWriter.h>
#include <vtkDoubleArray.h>
#include <vtkImageData.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkRectilinearGrid.h>
#include <vtkStructuredGrid.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLImageDataWriter.h>
#include <vtkXMLPUnstructuredGridWriter.h>
#include <vtkXMLRectilinearGridWriter.h>
#include <vtkXMLStructuredGridWriter.h>
#include <vtkXMLUnstructuredGridReader.h>

using namespace pyro;
using namespace pyro::test;

namespace {

std::filesystem::path made(const std::string& name) {
    return std::filesystem::path(PYROMETER_SOURCE) / "tests/data/foreign" / name;
}

// The plate of tests/data/foreign/make.py.
constexpr std::array<int, 3> plateNodes{3, 3, 2};
constexpr std::array<double, 3> plateSpacing{0.1, 0.2, 0.3};

class SameSurvey : public testing::Test {
protected:
    void SetUp() override {
        m_reader->SetFileName(made("plate.vtu").c_str());
        m_reader->Update();
        ASSERT_EQ(grid()->GetNumberOfPoints(), 18);
    }
    vtkUnstructuredGrid* grid() { return m_reader->GetOutput(); }

    template <class Writer>
    std::filesystem::path write(vtkDataObject* data, const std::string& name) {
        vtkNew<Writer> writer;
        writer->SetInputData(data);
        writer->SetFileName((folder / name).c_str());
        EXPECT_EQ(writer->Write(), 1);
        return folder / name;
    }
    void addArrays(vtkDataSet& to) {
        to.GetPointData()->ShallowCopy(grid()->GetPointData());
        to.GetCellData()->ShallowCopy(grid()->GetCellData());
    }
    std::filesystem::path image() {
        vtkNew<vtkImageData> image;
        image->SetDimensions(plateNodes.data());
        image->SetSpacing(plateSpacing.data());
        addArrays(*image);
        return write<vtkXMLImageDataWriter>(image, "plate.vti");
    }
    std::filesystem::path rectilinear() {
        vtkNew<vtkRectilinearGrid> axes;
        axes->SetDimensions(plateNodes.data());
        std::array<vtkNew<vtkDoubleArray>, 3> at;
        for (std::size_t axis = 0; axis < 3; ++axis)
            for (int i = 0; i < plateNodes[axis]; ++i)
                at[axis]->InsertNextValue(i * plateSpacing[axis]);
        axes->SetXCoordinates(at[0]);
        axes->SetYCoordinates(at[1]);
        axes->SetZCoordinates(at[2]);
        addArrays(*axes);
        return write<vtkXMLRectilinearGridWriter>(axes, "plate.vtr");
    }
    std::filesystem::path curvilinear() {
        vtkNew<vtkStructuredGrid> nodes;
        nodes->SetDimensions(plateNodes.data());
        nodes->SetPoints(grid()->GetPoints());
        addArrays(*nodes);
        return write<vtkXMLStructuredGridWriter>(nodes, "plate.vts");
    }
    std::filesystem::path blocks() {
        std::filesystem::copy_file(made("plate.vtu"), folder / "inner.vtu");
        std::ofstream(folder / "plate.vtm")
            << R"(<VTKFile type="vtkMultiBlockDataSet" version="1.0"><vtkMultiBlockDataSet>
              <DataSet index="0" name="plate" file="inner.vtu"/></vtkMultiBlockDataSet></VTKFile>)";
        return folder / "plate.vtm";
    }
    std::filesystem::path cgns() {
        const auto file = folder / "plate.cgns";
        int id = 0;
        int base = 0;
        int zone = 0;
        int any = 0;
        EXPECT_EQ(cg_open(file.c_str(), CG_MODE_WRITE, &id), CG_OK);
        cg_base_write(id, "Base", 3, 3, &base);
        const std::array<cgsize_t, 3> size{18, 4, 0};
        cg_zone_write(id, base, "plate", size.data(), CGNS_ENUMV(Unstructured), &zone);
        for (int axis = 0; axis < 3; ++axis) {
            std::vector<double> at;
            for (vtkIdType node = 0; node < 18; ++node)
                at.push_back(grid()->GetPoint(node)[axis]);
            cg_coord_write(id, base, zone, CGNS_ENUMV(RealDouble), (std::string("Coordinate") + "XYZ"[axis]).c_str(),
                           at.data(), &any);
        }
        std::vector<cgsize_t> ids;
        for (vtkIdType cell = 0; cell < 4; ++cell)
            for (vtkIdType i = 0; i < 8; ++i)
                ids.push_back(grid()->GetCell(cell)->GetPointId(static_cast<int>(i)) + 1);
        cg_section_write(id, base, zone, "Cells", CGNS_ENUMV(HEXA_8), 1, 4, 0, ids.data(), &any);
        const auto field = [&](vtkDataArray* array, int component, int solution, const std::string& name) {
            std::vector<double> values;
            for (vtkIdType i = 0; i < array->GetNumberOfTuples(); ++i)
                values.push_back(array->GetComponent(i, component));
            cg_field_write(id, base, zone, solution, CGNS_ENUMV(RealDouble), name.c_str(), values.data(), &any);
        };
        int nodal = 0;
        cg_sol_write(id, base, zone, "Nodal", CGNS_ENUMV(Vertex), &nodal);
        field(grid()->GetPointData()->GetArray("T"), 0, nodal, "T");
        for (int axis = 0; axis < 3; ++axis)
            field(grid()->GetPointData()->GetArray("velocity"), axis, nodal, std::string("Velocity") + "XYZ"[axis]);
        int central = 0;
        cg_sol_write(id, base, zone, "Central", CGNS_ENUMV(CellCenter), &central);
        field(grid()->GetCellData()->GetArray("heat_source"), 0, central, "heat_source");
        EXPECT_EQ(cg_close(id), CG_OK);
        return file;
    }

    TempFolder folder;

private:
    vtkNew<vtkXMLUnstructuredGridReader> m_reader;
};

const Json gauges = Json::parse(R"j([
    {"id": "mean", "where": {"part": "PART"}, "quantity": "temperature"},
    {"id": "hottest", "where": {"part": "PART"}, "quantity": "temperature", "statistic": "max", "unit": "degC"},
    {"id": "p90", "where": {"part": "PART"}, "quantity": "temperature", "statistic": "p90"},
    {"id": "source", "where": {"part": "PART"}, "quantity": "heat_source", "statistic": "integral"},
    {"id": "speed", "where": {"part": "PART"}, "quantity": "velocity", "statistic": "max"},
    {"id": "slope", "where": {"part": "PART"}, "quantity": "temperature_gradient", "component": "z"},
    {"id": "above", "where": {"part": "PART"}, "quantity": "volume_above", "level": "300 K"},
    {"id": "point", "where": {"point": [0.07, 0.13, 0.11]}, "quantity": "temperature"},
    {"id": "line", "where": {"line": {"from": [0, 0, 0], "to": [0.2, 0.4, 0.3]}}, "quantity": "temperature",
      "statistic": "mean"},
    {"id": "section", "where": {"plane": {"origin": [0.05, 0, 0], "normal": [1, 0, 0]}}, "quantity": "temperature"},
    {"id": "through", "where": {"plane": {"origin": [0.05, 0, 0], "normal": [1, 0, 0]}}, "quantity": "heat_flux",
      "statistic": "integral"},
    {"id": "isotherm", "where": {"isotherm": {"value": "303 K"}}, "quantity": "area"},
    {"id": "bottom", "where": {"boundary": "z min"}, "quantity": "heat_flux", "statistic": "integral"},
    {"id": "end", "where": {"boundary": "x max"}, "quantity": "temperature"},
    {"id": "film", "where": {"boundary": "x max"}, "quantity": "film_coefficient", "reference": "290 K"},
    {"id": "resistance", "where": {"part": "PART"}, "quantity": "thermal_resistance", "statistic": "max",
      "reference": "290 K", "per": "4 W"},
    {"id": "sum", "formula": "bottom + 2 * source"}
])j");

Readings surveyed(const OpenedCase& opened) {
    const auto part = opened.solved->parts.at(0).name;
    Json survey{{"materials", {{"m", {{"conductivity", 5}}}}}, {"gauges", gauges}};
    survey["case"]["parts"][part]["material"] = "m";
    for (auto& gauge : survey["gauges"])
        if (gauge.contains("where") && gauge["where"].contains("part"))
            gauge["where"]["part"] = part;
    return readOn(opened, survey);
}

} // namespace

TEST_F(SameSurvey, EqualReadingsInEveryKindOfFile) {
    const auto expected = surveyed(mustOpen(made("plate.vtu")));
    for (const auto& gauge : expected.gauges)
        ASSERT_TRUE(gauge.value) << gauge.id << ": " << gauge.why;
    EXPECT_NEAR(*expected.gauges[0].value, 300 + 5 + 4 - 4.5, 1e-12) << "the plate's mean by its field";
    EXPECT_NEAR(*expected.gauges[12].value, -5 * 30 * 0.2 * 0.4, 1e-9);
    for (const auto& file :
         {image(), rectilinear(), curvilinear(), write<vtkXMLPUnstructuredGridWriter>(grid(), "plate.pvtu"),
          write<vtkDataSetWriter>(grid(), "plate.vtk"), blocks(), cgns(), made("plate.e"), made("plate.xdmf"),
          made("plate_binary.xdmf"), made("plate_pieces.vtkhdf"), made("plate_42.vtk")}) {
        SCOPED_TRACE(file);
        const auto opened = mustOpen(file);
        EXPECT_EQ(opened.solved->boundaries.size(), 6U);
        const auto found = surveyed(opened);
        ASSERT_EQ(found.gauges.size(), expected.gauges.size());
        for (std::size_t i = 0; i < found.gauges.size(); ++i) {
            const auto& gauge = found.gauges[i];
            if (file.extension() == ".e" && (gauge.id == "source" || gauge.id == "sum"))
                continue; // that library writes no cell data there
            ASSERT_TRUE(gauge.value) << gauge.id << ": " << gauge.why;
            EXPECT_NEAR(*gauge.value, *expected.gauges[i].value,
                        1e-12 * std::max(1.0, std::abs(*expected.gauges[i].value)))
                << gauge.id;
            EXPECT_EQ(gauge.unit, expected.gauges[i].unit);
        }
    }
}

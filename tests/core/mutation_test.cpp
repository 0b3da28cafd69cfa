// Files of every kind with bytes changed, cut out and repeated at random places: each opens, or ends with one message;
// none ends the program that asked, hangs, or leaves a file beside. PYROMETER_MUTATIONS sets how many (200 without it),
// the seed is fixed.
#include "core/case/store.h"
#include "tests/support/hostile.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cgnslib.h>
#include <cstdlib>
#include <gtest/gtest.h>
#include <random>
#include <set>
#include <vtkDoubleArray.h>
#include <vtkImageData.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkStructuredGrid.h>
#include <vtkXMLImageDataWriter.h>
#include <vtkXMLStructuredGridWriter.h>

using namespace pyro;
using namespace pyro::test;

namespace {

struct Seed {
    std::string name; // with the ending
    std::string text;
    bool shell = false; // opened with a thickness for its part
};

template <class Writer, class Grid>
std::string writtenBy(Grid& grid, const std::filesystem::path& file, int mode) {
    vtkNew<Writer> writer;
    writer->SetInputData(&grid);
    writer->SetFileName(file.c_str());
    writer->SetDataMode(mode);
    EXPECT_EQ(writer->Write(), 1);
    return readText(file);
}

// Images and structured grids of two cells along each axis.
void addStructured(const std::filesystem::path& folder, std::vector<Seed>& out) {
    vtkNew<vtkImageData> image;
    image->SetDimensions(3, 3, 3);
    vtkNew<vtkDoubleArray> kelvin;
    kelvin->SetName("T [K]");
    vtkNew<vtkPoints> points;
    for (vtkIdType i = 0; i < 27; ++i) {
        kelvin->InsertNextValue(300 + static_cast<double>(i));
        points->InsertNextPoint(image->GetPoint(i));
    }
    image->GetPointData()->AddArray(kelvin);
    vtkNew<vtkStructuredGrid> grid;
    grid->SetDimensions(3, 3, 3);
    grid->SetPoints(points);
    grid->GetPointData()->AddArray(kelvin);
    for (const int mode : {vtkXMLWriter::Ascii, vtkXMLWriter::Appended}) {
        out.push_back({"case.vti", writtenBy<vtkXMLImageDataWriter>(*image, folder / "seed.vti", mode)});
        out.push_back({"case.vts", writtenBy<vtkXMLStructuredGridWriter>(*grid, folder / "seed.vts", mode)});
    }
}

// A zone of eight hexahedra with a field, in one of the format's two containers.
std::string cgnsFile(const std::filesystem::path& file, int container) {
    int id = 0;
    int base = 0;
    int zone = 0;
    int number = 0;
    cg_set_file_type(container);
    EXPECT_EQ(cg_open(file.c_str(), CG_MODE_WRITE, &id), CG_OK);
    cg_base_write(id, "Base", 3, 3, &base);
    const std::array<cgsize_t, 9> size{3, 3, 3, 2, 2, 2, 0, 0, 0};
    cg_zone_write(id, base, "Zone", size.data(), CGNS_ENUMV(Structured), &zone);
    for (std::size_t axis = 0; axis < 3; ++axis) {
        std::vector<double> at;
        for (int i = 0; i < 27; ++i)
            at.push_back(std::array{i % 3, i / 3 % 3, i / 9}[axis]);
        cg_coord_write(id, base, zone, CGNS_ENUMV(RealDouble), ("Coordinate" + std::string(1, "XYZ"[axis])).c_str(),
                       at.data(), &number);
    }
    int solution = 0;
    cg_sol_write(id, base, zone, "Flow", CGNS_ENUMV(Vertex), &solution);
    cg_field_write(id, base, zone, solution, CGNS_ENUMV(RealDouble), "Temperature", std::vector<double>(27, 300).data(),
                   &number);
    const std::array<cgsize_t, 6> range{1, 1, 1, 3, 3, 1};
    cg_boco_write(id, base, zone, "Bottom", CGNS_ENUMV(BCWall), CGNS_ENUMV(PointRange), 2, range.data(), &number);
    cg_close(id);
    return readText(file);
}

std::vector<Seed> seeds(const std::filesystem::path& folder) {
    auto part = boxPart("block", {{1, 1, 1}, {2, 2, 2}});
    addNodeField(part, "T [K]", [](const Point& at) { return 300 + at[0]; });
    std::vector<Seed> out;
    for (const auto encoding : {Encoding::Appended, Encoding::Raw, Encoding::Ascii}) {
        EXPECT_TRUE(writeBlock(part, folder / "seed.vtu", encoding));
        out.push_back({"case.vtu", readText(folder / "seed.vtu")});
    }
    auto sheet = boxSide("sheet", {{1, 1, 1}, {2, 2, 2}}, 2, true);
    sheet.boundary = false;
    addNodeField(sheet, "T [K]", [](const Point& at) { return 300 + at[0]; });
    EXPECT_TRUE(writeBlock(sheet, folder / "sheet.vtu", Encoding::Ascii));
    out.push_back({"sheet.vtu", readText(folder / "sheet.vtu"), true});
    addStructured(folder, out);
    out.push_back({"case.stl", "solid s\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex 0 1 "
                               "0\nendloop\nendfacet\nendsolid s\n"});
    const auto foreign = std::filesystem::path(PYROMETER_SOURCE) / "tests/data/foreign";
    for (const auto* name : {"plate.vtk", "plate_42.vtk", "plate.e", "plate.xdmf", "plate_text.xdmf",
                             "plate_binary.xdmf", "plate_steps.xdmf", "plate.h5", "plate_pieces.vtkhdf",
                             "plate_steps.vtkhdf", "plane_mixed.vtk", "plane_mixed.e"})
        out.push_back({name, readText(foreign / name)});
    for (const int container : {CG_FILE_ADF, CG_FILE_HDF5})
        out.push_back({"case.cgns", cgnsFile(folder / "seed.cgns", container)});
    for (const auto& entry : std::filesystem::directory_iterator(foreign))
        if (entry.path().extension() == ".h5" || entry.path().extension() == ".bin")
            std::filesystem::copy_file(entry.path(), folder / entry.path().filename());
    return out;
}

std::string mutated(std::string text, std::mt19937& random) {
    const auto place = [&] {
        return std::uniform_int_distribution<std::size_t>(0, text.empty() ? 0 : text.size() - 1)(random);
    };
    for (auto times = std::uniform_int_distribution<int>(1, 3)(random); times > 0 && !text.empty(); --times) {
        const auto at = place();
        const auto length = std::min<std::size_t>(text.size() - at,
                                                  std::uniform_int_distribution<std::size_t>(1, 16)(random));
        switch (std::uniform_int_distribution<int>(0, 5)(random)) {
        case 0:
            text[at] = static_cast<char>(std::uniform_int_distribution<int>(0, 255)(random));
            break;
        case 1:
            text.erase(at, length);
            break;
        case 2:
            text.insert(at, text.substr(place(), length));
            break;
        case 3:
            text.replace(at, length, std::string(length, '\xff'));
            break;
        case 4: // a number where one stands already
            if (const auto digit = text.find_first_of("0123456789", at); digit != std::string::npos)
                text.replace(digit, 1,
                             std::array{"99999999999", "-1", "nan", "0",
                                        "1e300"}[std::uniform_int_distribution<std::size_t>(0, 4)(random)]);
            break;
        default:
            text.resize(at);
        }
    }
    return text;
}

} // namespace

TEST(Mutations, EveryFileOpensOrEndsWithOneMessage) {
    const char* wanted = std::getenv("PYROMETER_MUTATIONS");
    const int count = wanted != nullptr ? std::atoi(wanted) : 200;
    TempFolder folder;
    const auto all = seeds(folder.path());
    std::mt19937 random(20261129);
    int opened = 0;
    int refused = 0;
    int broken = 0; // the reader's own process, which is what it is there for
    for (int i = 0; i < count; ++i) {
        const auto& seed = all[static_cast<std::size_t>(i) % all.size()];
        const bool data = seed.name == "plate.h5"; // read by way of the file that tells of it
        const auto text = mutated(seed.text, random);
        writeText(folder / seed.name, text);
        if (data)
            writeText(folder / "plate.xdmf",
                      readText(std::filesystem::path(PYROMETER_SOURCE) / "tests/data/foreign/plate.xdmf"));
        std::set<std::string> before;
        for (const auto& entry : std::filesystem::directory_iterator(folder.path()))
            before.insert(entry.path().filename());
        NoProgress progress;
        OpenOptions options;
        options.memoryLimit = std::uint64_t{4} << 30U;
        if (seed.shell)
            options.split.thickness["sheet"] = 0.01;
        const auto found = openForEvaluation(data ? folder / "plate.xdmf" : folder / seed.name, options, progress);
        SCOPED_TRACE("mutation " + std::to_string(i) + " of " + seed.name);
        if (found) {
            ++opened;
        } else {
            ++(found.error().code == ErrorCode::ReaderCrashed ? broken : refused);
            EXPECT_FALSE(found.error().what.empty());
            EXPECT_FALSE(found.error().remedy.empty()) << found.error().what;
            EXPECT_EQ(found.error().text().find('\n'), std::string::npos) << found.error().text();
        }
        for (const auto& entry : std::filesystem::directory_iterator(folder.path()))
            EXPECT_TRUE(before.contains(entry.path().filename())) << entry.path();
    }
    std::cout << count << " mutated: " << opened << " open, " << refused << " refused, " << broken
              << " broke their reader\n";
    EXPECT_GT(refused, count / 4);
    EXPECT_GT(opened, count / 20);
}

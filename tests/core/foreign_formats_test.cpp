// Files of formats that VTK does not own: of another library's making (tests/data/foreign), by the format's own
// library, and by hand.
#include "core/case/case_endings.h"
#include "core/case/readers/format.h"
#include "core/evaluate/known_history.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <fmt/format.h>
#include <gtest/gtest.h>
#include <set>
#include <vtk_hdf5.h>
#include <vtk_netcdf.h>

using namespace pyro;
using namespace pyro::test;

namespace {

std::filesystem::path foreign(const std::string& name) {
    return std::filesystem::path(PYROMETER_SOURCE) / "tests/data/foreign" / name;
}

ErrorCode refusedAs(const std::filesystem::path& file) {
    NoProgress progress;
    const auto opened = openCase(file, {}, progress);
    EXPECT_FALSE(opened) << file;
    if (opened)
        return {};
    EXPECT_FALSE(opened.error().what.empty());
    EXPECT_FALSE(opened.error().remedy.empty()) << opened.error().what;
    return opened.error().code;
}

std::vector<double> readingsOf(const std::filesystem::path& file) {
    const auto opened = mustOpen(file);
    const auto part = opened.solved->parts.at(0).name;
    std::vector<double> out{static_cast<double>(opened.solved->parts[0].mesh.cells()), opened.index->parts[0].size};
    auto survey = Json::parse(R"({"materials": {"m": {"conductivity": 5}}, "gauges": [
        {"id": "mean", "quantity": "temperature"}, {"id": "max", "quantity": "temperature", "statistic": "max"},
          {"id": "source", "quantity": "heat_source", "statistic": "integral"},
        {"id": "speed", "quantity": "velocity", "statistic": "max"}, {"id": "heat", "quantity": "heat_flux",
          "statistic": "integral"}]})");
    survey["case"]["parts"][part]["material"] = "m";
    for (auto& gauge : survey["gauges"])
        gauge["where"] = gauge["id"] == "heat" ? Json{{"boundary", "z min"}} : Json{{"part", part}};
    for (const auto& gauge : readOn(opened, survey).gauges) {
        EXPECT_TRUE(gauge.value) << file << " " << gauge.id << ": " << gauge.why;
        out.push_back(gauge.value.value_or(std::nan("")));
    }
    return out;
}

} // namespace

TEST(Foreign, TheSameFieldInEveryKind) {
    const auto expected = readingsOf(foreign("plate.vtu"));
    EXPECT_NEAR(expected[1], 0.2 * 0.4 * 0.3, 1e-15);
    EXPECT_NEAR(expected.back(), -5 * 30 * 0.2 * 0.4, 1e-9) << "30 K/m downwards"; // out of the bottom, colder above
    for (const auto* name : {"plate.vtk", "plate_42.vtk", "plate.e", "plate.xdmf", "plate_text.xdmf",
                             "plate_binary.xdmf", "plate_pieces.vtkhdf"}) {
        SCOPED_TRACE(name);
        const auto found = readingsOf(foreign(name));
        ASSERT_EQ(found.size(), expected.size());
        for (std::size_t i = 0; i < found.size(); ++i)
            if (i != 4 || std::string_view(name) != "plate.e") { // this library writes no cell data there
                EXPECT_NEAR(found[i], expected[i], 1e-12 * std::max(1.0, std::abs(expected[i]))) << i;
            }
    }
}

// No ending stands for two formats, and the page of formats names each.
TEST(Foreign, EveryEndingStandsForOneFormatAndIsTold) {
    const auto page = readText(std::filesystem::path(PYROMETER_SOURCE) / "docs" / "formats.md");
    std::set<std::string_view> seen;
    for (const auto ending : caseEndings) {
        EXPECT_TRUE(seen.insert(ending).second) << ending;
        EXPECT_NE(page.find(fmt::format("`{}`", ending)), std::string::npos) << ending;
        EXPECT_NE(formatOf(fmt::format("a{}", ending)), nullptr) << ending;
    }
}

TEST(Foreign, StepsWithinOneFile) {
    NoProgress progress;
    const auto series = seriesOf(foreign("plate_steps.xdmf"), std::nullopt, {}, progress);
    ASSERT_TRUE(series);
    ASSERT_EQ(series->steps.size(), 3U);
    for (std::size_t i = 0; i < 3; ++i) {
        const double t = std::array{0.0, 0.5, 2.0}[i];
        EXPECT_EQ(series->steps[i].step.time, t);
        const auto opened = openStep(series->steps[i], nullptr, {}, progress);
        ASSERT_TRUE(opened) << opened.error().what;
        EXPECT_EQ(opened->solved->parts[0].name, "plate_steps");
        EXPECT_EQ(opened->solved->time, t);
        EXPECT_NEAR(opened->solved->parts[0].find("T", Location::Node)->max, 300 + 10 + 8 + 10 * t, 1e-9);
    }
    const auto hdf = seriesOf(foreign("plate_steps.vtkhdf"), std::nullopt, {}, progress);
    ASSERT_TRUE(hdf);
    ASSERT_EQ(hdf->steps.size(), 3U);
    for (std::size_t i = 0; i < 3; ++i) {
        const auto opened = openStep(hdf->steps[i], nullptr, {}, progress);
        ASSERT_TRUE(opened) << opened.error().what;
        EXPECT_EQ(opened->solved->time, hdf->steps[i].step.time);
        EXPECT_NEAR(opened->solved->parts[0].find("T", Location::Node)->max, 300 + 10 + 8 + 10 * *opened->solved->time,
                    1e-9);
        EXPECT_EQ(opened->solved->parts[0].find("heat_source", Location::Cell)->max, 31);
    }
    const auto last = seriesOf(foreign("plate_steps.xdmf"), false, {}, progress);
    ASSERT_EQ(last->steps.size(), 1U);
    EXPECT_EQ(last->steps[0].within, 2) << "the last one alone";
}

namespace {

// New ones of a netCDF file that is being defined; their numbers.
int dimensionOf(int file, const char* name, std::size_t length) {
    int out = 0;
    EXPECT_EQ(nc_def_dim(file, name, length, &out), NC_NOERR) << name;
    return out;
}
int variableOf(int file, const char* name, nc_type type, const std::vector<int>& dims) {
    int out = 0;
    EXPECT_EQ(nc_def_var(file, name, type, static_cast<int>(dims.size()), dims.data(), &out), NC_NOERR) << name;
    return out;
}

// Two blocks of one hexahedron and one tetrahedron, a side set, a nodal and an element variable that only the first
// block has, three of a vector, two steps. In one array for each variable, as large files have them, or in one for all.
void writeExodus(const std::filesystem::path& file, int mode, bool large, int brokenNode = 0) {
    int id = 0;
    ASSERT_EQ(nc_create(file.c_str(), NC_CLOBBER | mode, &id), NC_NOERR);
    const auto dim = [&](const char* name, std::size_t length) { return dimensionOf(id, name, length); };
    const auto var = [&](const char* name, nc_type type, const std::vector<int>& dims) {
        return variableOf(id, name, type, dims);
    };
    const int length = dim("len_string", 33);
    const int time = dim("time_step", NC_UNLIMITED);
    const int nodes = dim("num_nodes", 9);
    dim("num_dim", 3);
    dim("num_elem", 2);
    const int blocks = dim("num_el_blk", 2);
    const int sets = dim("num_side_sets", 1);
    const int hexes = dim("num_el_in_blk1", 1);
    const int hexNodes = dim("num_nod_per_el1", 8);
    const int tets = dim("num_el_in_blk2", 1);
    const int tetNodes = dim("num_nod_per_el2", 4);
    const int sides = dim("num_side_ss1", 2);
    const int nodal = dim("num_nod_var", 4);
    const int ofElements = dim("num_elem_var", 1);
    const int globals = dim("num_glo_var", 2);
    const int globalNames = var("name_glo_var", NC_CHAR, {globals, length});
    const int globalValues = var("vals_glo_var", NC_DOUBLE, {time, globals});
    const int times = var("time_whole", NC_DOUBLE, {time});
    std::array<int, 3> coordinates{};
    for (std::size_t axis = 0; axis < 3; ++axis)
        coordinates[axis] = var((std::string("coord") + "xyz"[axis]).c_str(), NC_DOUBLE, {nodes});
    const int blockNames = var("eb_names", NC_CHAR, {blocks, length});
    const int blockIds = var("eb_prop1", NC_INT, {blocks});
    const int setIds = var("ss_prop1", NC_INT, {sets});
    const int first = var("connect1", NC_INT, {hexes, hexNodes});
    const int second = var("connect2", NC_INT, {tets, tetNodes});
    nc_put_att_text(id, first, "elem_type", 4, "HEX8");
    nc_put_att_text(id, second, "elem_type", 5, "TETRA");
    const int setElements = var("elem_ss1", NC_INT, {sides});
    const int setSides = var("side_ss1", NC_INT, {sides});
    const int nodalNames = var("name_nod_var", NC_CHAR, {nodal, length});
    const int elementNames = var("name_elem_var", NC_CHAR, {ofElements, length});
    std::vector<int> values;
    if (large)
        for (int i = 1; i <= 4; ++i)
            values.push_back(var(("vals_nod_var" + std::to_string(i)).c_str(), NC_DOUBLE, {time, nodes}));
    else
        values.push_back(var("vals_nod_var", NC_DOUBLE, {time, nodal, nodes}));
    const int source = var("vals_elem_var1eb1", NC_DOUBLE, {time, hexes});
    ASSERT_EQ(nc_enddef(id), NC_NOERR);
    const std::vector<double> x{0, 1, 1, 0, 0, 1, 1, 0, 2};
    const std::vector<double> y{0, 0, 1, 1, 0, 0, 1, 1, 0};
    const std::vector<double> z{0, 0, 0, 0, 1, 1, 1, 1, 0};
    for (std::size_t axis = 0; axis < 3; ++axis)
        nc_put_var_double(id, coordinates[axis], (axis == 0 ? x : axis == 1 ? y : z).data());
    const auto text = [&](int variable, std::size_t line, const std::string& written) {
        const std::array<std::size_t, 2> start{line, 0};
        const std::array<std::size_t, 2> count{1, written.size()};
        nc_put_vara_text(id, variable, start.data(), count.data(), written.c_str());
    };
    text(blockNames, 0, "core");
    for (std::size_t i = 0; i < 4; ++i)
        text(nodalNames, i, std::array{"temperature", "vel_x", "vel_y", "vel_z"}[i]);
    text(elementNames, 0, "heat_source");
    text(globalNames, 0, "residual");
    text(globalNames, 1, "T_max K");
    const std::vector<int> ids{10, 20};
    nc_put_var_int(id, blockIds, ids.data());
    nc_put_var_int(id, setIds, std::vector<int>{7}.data());
    nc_put_var_int(id, first, std::vector<int>{1, 2, 3, 4, 5, 6, 7, 8}.data());
    nc_put_var_int(id, second, std::vector<int>{2, 9, 3, brokenNode == 0 ? 6 : brokenNode}.data());
    nc_put_var_int(id, setElements, std::vector<int>{1, 2}.data());
    // the bottom of the one, the first face of the other: z = 0 both
    nc_put_var_int(id, setSides, std::vector<int>{5, 4}.data());
    for (std::size_t step = 0; step < 2; ++step) {
        const double t = 3.5 * static_cast<double>(step);
        const std::array<std::size_t, 1> at{step};
        nc_put_var1_double(id, times, at.data(), &t);
        for (std::size_t v = 0; v < 4; ++v) {
            std::vector<double> of;
            for (std::size_t n = 0; n < 9; ++n)
                of.push_back(v == 0 ? 300 + 10 * x[n] + t : v == 1 ? x[n] : v == 2 ? y[n] : 2 + z[n]);
            const std::array<std::size_t, 3> start{step, large ? 0 : v, 0};
            const std::array<std::size_t, 3> count{1, large ? 9U : 1U, 9};
            nc_put_vara_double(id, values[large ? v : 0], start.data(), count.data(), of.data());
        }
        const double watts = 1000 + t;
        const std::array<std::size_t, 2> start{step, 0};
        const std::array<std::size_t, 2> both{1, 2};
        nc_put_vara_double(id, globalValues, start.data(), both.data(),
                           std::array<double, 2>{1e-3 / (1 + t), 320 + t}.data());
        const std::array<std::size_t, 2> count{1, 1};
        nc_put_vara_double(id, source, start.data(), count.data(), &watts);
    }
    nc_close(id);
}

// One piece of a bar of two hexahedra along z, computed in parallel: its own hexahedron, four nodes that both pieces
// have.
void writeExodusPiece(const std::filesystem::path& file, bool second) {
    int id = 0;
    ASSERT_EQ(nc_create(file.c_str(), NC_CLOBBER, &id), NC_NOERR);
    const auto dim = [&](const char* name, std::size_t length) { return dimensionOf(id, name, length); };
    const auto var = [&](const char* name, nc_type type, const std::vector<int>& dims) {
        return variableOf(id, name, type, dims);
    };
    const int length = dim("len_string", 33);
    const int time = dim("time_step", NC_UNLIMITED);
    const int nodes = dim("num_nodes", 8);
    dim("num_dim", 3);
    const int blocks = dim("num_el_blk", 1);
    const int sets = dim("num_side_sets", 1);
    const int hexes = dim("num_el_in_blk1", 1);
    const int hexNodes = dim("num_nod_per_el1", 8);
    const int sides = second ? dim("num_side_ss1", 1) : -1; // the first piece has none of the set
    const int nodal = dim("num_nod_var", 1);
    const int ofElements = dim("num_elem_var", 1);
    const int times = var("time_whole", NC_DOUBLE, {time});
    std::array<int, 3> coordinates{};
    for (std::size_t axis = 0; axis < 3; ++axis)
        coordinates[axis] = var((std::string("coord") + "xyz"[axis]).c_str(), NC_DOUBLE, {nodes});
    const int blockIds = var("eb_prop1", NC_INT, {blocks});
    const int setIds = var("ss_prop1", NC_INT, {sets});
    const int connect = var("connect1", NC_INT, {hexes, hexNodes});
    nc_put_att_text(id, connect, "elem_type", 4, "HEX8");
    const int map = var("node_num_map", NC_INT, {nodes});
    const int setElements = second ? var("elem_ss1", NC_INT, {sides}) : -1;
    const int setSides = second ? var("side_ss1", NC_INT, {sides}) : -1;
    const int nodalNames = var("name_nod_var", NC_CHAR, {nodal, length});
    const int elementNames = var("name_elem_var", NC_CHAR, {ofElements, length});
    const int temperature = var("vals_nod_var1", NC_DOUBLE, {time, nodes});
    const int source = var("vals_elem_var1eb1", NC_DOUBLE, {time, hexes});
    ASSERT_EQ(nc_enddef(id), NC_NOERR);
    const double lowest = second ? 1 : 0;
    std::vector<double> x{0, 1, 1, 0, 0, 1, 1, 0};
    std::vector<double> y{0, 0, 1, 1, 0, 0, 1, 1};
    std::vector<double> z;
    std::vector<double> kelvin;
    std::vector<int> numbers;
    for (std::size_t i = 0; i < 8; ++i) {
        z.push_back(lowest + (i < 4 ? 0 : 1));
        kelvin.push_back(300 + 10 * z.back() + x[i]);
        numbers.push_back(static_cast<int>(i) + 1 + (second ? 4 : 0));
    }
    nc_put_var_double(id, coordinates[0], x.data());
    nc_put_var_double(id, coordinates[1], y.data());
    nc_put_var_double(id, coordinates[2], z.data());
    nc_put_var_int(id, blockIds, std::vector<int>{10}.data());
    nc_put_var_int(id, setIds, std::vector<int>{7}.data());
    nc_put_var_int(id, connect, std::vector<int>{1, 2, 3, 4, 5, 6, 7, 8}.data());
    nc_put_var_int(id, map, numbers.data());
    if (second) {
        nc_put_var_int(id, setElements, std::vector<int>{1}.data());
        nc_put_var_int(id, setSides, std::vector<int>{6}.data());
    }
    const std::array<std::size_t, 2> start{0, 0};
    const std::array<std::size_t, 2> name{1, 11};
    nc_put_vara_text(id, nodalNames, start.data(), name.data(), "temperature");
    nc_put_vara_text(id, elementNames, start.data(), name.data(), "heat_source");
    const double seconds = 4;
    const std::array<std::size_t, 1> first{0};
    nc_put_var1_double(id, times, first.data(), &seconds);
    const std::array<std::size_t, 2> all{1, 8};
    nc_put_vara_double(id, temperature, start.data(), all.data(), kelvin.data());
    const double watts = second ? 2000 : 1000;
    const std::array<std::size_t, 2> one{1, 1};
    nc_put_vara_double(id, source, start.data(), one.data(), &watts);
    nc_close(id);
}

class Exodus : public testing::TestWithParam<std::tuple<int, bool>> {};
INSTANTIATE_TEST_SUITE_P(Kinds, Exodus,
                         testing::Combine(testing::Values(0, NC_64BIT_OFFSET, NC_NETCDF4), testing::Bool()));

} // namespace

TEST(ExodusPieces, AnyOneStandsForAll) {
    TempFolder folder;
    writeExodusPiece(folder / "bar.e.2.0", false);
    NoProgress progress;
    const auto half = openCase(folder / "bar.e.2.0", {}, progress);
    ASSERT_FALSE(half);
    EXPECT_EQ(half.error().code, ErrorCode::FileMissing) << "half of it is no case";
    writeExodusPiece(folder / "bar.e.2.1", true);
    for (const auto* name : {"bar.e.2.0", "bar.e.2.1"}) {
        const auto opened = mustOpen(folder / name);
        ASSERT_EQ(opened.solved->parts.size(), 1U);
        const auto& part = opened.solved->parts[0];
        EXPECT_EQ(part.name, "block 10");
        EXPECT_EQ(part.mesh.nodes(), 12U) << "four of them are the same";
        EXPECT_NEAR(opened.index->parts[0].size, 2, 1e-12);
        EXPECT_EQ(opened.index->parts[0].shell.faces(), 10U) << "no face between the pieces";
        for (std::size_t i = 0; i < 12; ++i)
            EXPECT_NEAR(part.find("temperature", Location::Node)->values[i],
                        300 + 10 * part.mesh.node(i)[2] + part.mesh.node(i)[0], 1e-12);
        EXPECT_EQ(part.find("heat_source", Location::Cell)->values[1], 2000);
        ASSERT_TRUE(opened.solved->boundaryNamed("side set 7"));
        EXPECT_NEAR(opened.index->boundaries[*opened.solved->boundaryNamed("side set 7")].size, 1, 1e-12);
        EXPECT_EQ(opened.solved->time, 4);
    }
}

TEST_P(Exodus, BlocksSideSetsAndSteps) {
    const auto& [mode, large] = GetParam();
    TempFolder folder;
    const auto file = folder / "run.exo";
    writeExodus(file, mode, large);
    NoProgress progress;
    const auto series = seriesOf(file, std::nullopt, {}, progress);
    ASSERT_TRUE(series);
    ASSERT_EQ(series->steps.size(), 2U);
    EXPECT_EQ(series->steps[1].step.time, 3.5);
    for (std::size_t step = 0; step < 2; ++step) {
        const auto opened = openStep(series->steps[step], nullptr, {}, progress);
        ASSERT_TRUE(opened) << opened.error().what;
        const auto& solved = *opened->solved;
        ASSERT_EQ(solved.parts.size(), 2U);
        EXPECT_EQ(solved.parts[0].name, "core");
        EXPECT_EQ(solved.parts[1].name, "block 20") << "nameless";
        EXPECT_NEAR(opened->index->parts[0].size, 1, 1e-12);
        EXPECT_NEAR(opened->index->parts[1].size, 1.0 / 6, 1e-12);
        ASSERT_TRUE(solved.boundaryNamed("side set 7"));
        const auto at = *solved.boundaryNamed("side set 7");
        EXPECT_NEAR(opened->index->boundaries[at].size, 1.5, 1e-12);
        EXPECT_EQ(std::ranges::count(opened->index->boundaries[at].part, noNumber), 0);
        const double t = 3.5 * static_cast<double>(step);
        EXPECT_NEAR(solved.parts[1].find("temperature", Location::Node)->max, 320 + t, 1e-12);
        const auto* velocity = solved.parts[0].find("vel", Location::Node);
        ASSERT_NE(velocity, nullptr);
        EXPECT_EQ(velocity->components, 3);
        EXPECT_EQ(velocity->values[3 * 6 + 2], 3);
        ASSERT_NE(solved.parts[0].find("heat_source", Location::Cell), nullptr);
        EXPECT_NEAR(solved.parts[0].find("heat_source", Location::Cell)->values[0], 1000 + t, 1e-12);
        EXPECT_EQ(solved.parts[1].find("heat_source", Location::Cell), nullptr) << "this block has none";
        ASSERT_TRUE(solved.monitored) << "its global variables, at all times";
        EXPECT_EQ(solved.monitored->times, (std::vector<double>{0, 3.5}));
        ASSERT_EQ(solved.monitored->columns.size(), 2U);
        EXPECT_EQ(solved.monitored->columns[0].first, "residual");
        EXPECT_EQ(solved.monitored->columns[1].second, (std::vector<double>{320, 323.5}));
        Remarks remarks;
        const auto history = knownHistory(CaseEntry{"a", file.string(), {}, {}, {}, Json::object()}, folder.path(),
                                          file, &solved, remarks);
        ASSERT_NE(history, nullptr);
        EXPECT_EQ(history->along, "time_s");
        EXPECT_EQ(history->columns[1].title, "T_max K");
    }
}

TEST_P(Exodus, BrokenOnesAreRefused) {
    const auto& [mode, large] = GetParam();
    TempFolder folder;
    writeExodus(folder / "whole.e", mode, large);
    const auto whole = readText(folder / "whole.e");
    for (std::size_t tenth = 0; tenth < 10; ++tenth) {
        writeText(folder / "cut.e", whole.substr(0, whole.size() * tenth / 10));
        SCOPED_TRACE(tenth);
        refusedAs(folder / "cut.e");
    }
    writeExodus(folder / "node.e", mode, large, 99);
    EXPECT_EQ(refusedAs(folder / "node.e"), ErrorCode::IndexOutOfRange);
}

namespace {

const std::string cubeText = "0 0 0 1 0 0 1 1 0 0 1 0 0 0 1 1 0 1 1 1 1 0 1 1";
std::string item(const std::string& dims, const std::string& numbers, const std::string& more = "") {
    return "<DataItem Format=\"XML\" Dimensions=\"" + dims + "\" " + more + ">" + numbers + "</DataItem>";
}
std::string grid(const std::string& name, const std::string& topology, const std::string& geometry,
                 const std::string& more = "") {
    return "<Grid Name=\"" + name + "\" GridType=\"Uniform\">" + topology + geometry + more + "</Grid>";
}
const std::string hexahedron = "<Topology TopologyType=\"Hexahedron\" NumberOfElements=\"1\">" +
                               item("1 8", "0 1 2 3 4 5 6 7", "NumberType=\"Int\"") + "</Topology>";
const std::string corners = "<Geometry GeometryType=\"XYZ\">" + item("8 3", cubeText) + "</Geometry>";
std::string temperature(const std::string& dims, const std::string& numbers, const std::string& center = "Node") {
    return "<Attribute Name=\"T\" AttributeType=\"Scalar\" Center=\"" + center + "\">" + item(dims, numbers) +
           "</Attribute>";
}
const std::string eight = temperature("8", "300 310 320 330 340 350 360 370");

class Xdmf : public testing::Test {
protected:
    TempFolder folder;
    std::filesystem::path write(const std::string& grids) {
        const auto file = folder / ("case" + std::to_string(++m_number) + ".xdmf");
        writeText(file,
                  "<?xml version=\"1.0\"?><Xdmf Version=\"3.0\" xmlns:xi=\"http://www.w3.org/2001/XInclude\"><Domain>" +
                      grids + "</Domain></Xdmf>");
        return file;
    }
    OpenedCase open(const std::string& grids) { return mustOpen(write(grids)); }
    int m_number = 0;
};

} // namespace

TEST_F(Xdmf, CoordinatesAndTopologiesOfEveryKind) {
    const std::vector<std::string> ways{
        grid("g", hexahedron, corners, eight),
        grid("g", hexahedron,
             "<Geometry GeometryType=\"X_Y_Z\">" + item("8", "0 1 1 0 0 1 1 0") + item("8", "0 0 1 1 0 0 1 1") +
                 item("8", "0 0 0 0 1 1 1 1") + "</Geometry>",
             eight),
        grid("g",
             "<Topology TopologyType=\"Mixed\" NumberOfElements=\"1\">" + item("9", "9 0 1 2 3 4 5 6 7") +
                 "</Topology>",
             corners, eight),
        grid("g", "<Topology TopologyType=\"3DCoRectMesh\" Dimensions=\"2 2 2\"/>",
             "<Geometry GeometryType=\"ORIGIN_DXDYDZ\">" + item("3", "0 0 0") + item("3", "1 1 1") + "</Geometry>",
             eight),
        grid("g", "<Topology TopologyType=\"3DRectMesh\" Dimensions=\"2 2 2\"/>",
             "<Geometry GeometryType=\"VXVYVZ\">" + item("2", "0 1") + item("2", "0 1") + item("2", "0 1") +
                 "</Geometry>",
             eight),
        grid("g", "<Topology TopologyType=\"3DSMesh\" Dimensions=\"2 2 2\"/>",
             "<Geometry GeometryType=\"XYZ\">" + item("2 2 2 3", "0 0 0 1 0 0 0 1 0 1 1 0 0 0 1 1 0 1 0 1 1 1 1 1") +
                 "</Geometry>",
             eight),
        grid("g", hexahedron, corners,
             "<Attribute Name=\"T\" Center=\"Node\"><DataItem ItemType=\"HyperSlab\" Dimensions=\"8\">" +
                 item("3 2", "0 1 1 1 8 1") + item("8 2", "0 300 0 310 0 320 0 330 0 340 0 350 0 360 0 370") +
                 "</DataItem></Attribute>"),
        "<Grid Name=\"tree\" GridType=\"Tree\">" + grid("g", hexahedron, corners, eight) + "</Grid>",
        grid("mesh", hexahedron, corners) + grid("T",
                                                 "<Topology Reference=\"XML\">/Xdmf/Domain/Grid[1]/Topology</Topology>",
                                                 "<Geometry Reference=\"/Xdmf/Domain/Grid[1]/Geometry\"/>", eight),
        grid("mesh", hexahedron, corners) +
            "<Grid Name=\"T\" GridType=\"Uniform\"><xi:include "
            "xpointer=\"xpointer(/Xdmf/Domain/Grid[@Name='mesh']/*[self::Topology or self::Geometry])\"/>" +
            eight + "</Grid>"};
    for (const auto& way : ways) {
        SCOPED_TRACE(way);
        const auto opened = open(way);
        ASSERT_EQ(opened.solved->parts.size(), 1U) << "grids on one mesh are one";
        EXPECT_NEAR(opened.index->parts[0].size, 1, 1e-12);
        const auto* values = opened.solved->parts[0].find("T", Location::Node);
        ASSERT_NE(values, nullptr);
        EXPECT_EQ(values->min, 300);
        EXPECT_EQ(values->max, 370);
        EXPECT_EQ(opened.solved->boundaries.size(), 6U);
    }
}

TEST_F(Xdmf, SpatialCollectionsAreParts) {
    const std::string above = "<Geometry GeometryType=\"XYZ\">" +
                              item("8 3", "0 0 1 1 0 1 1 1 1 0 1 1 0 0 2 1 0 2 1 1 2 0 1 2") + "</Geometry>";
    const auto opened = open("<Grid Name=\"all\" GridType=\"Collection\" CollectionType=\"Spatial\">" +
                             grid("lower", hexahedron, corners, eight) + grid("upper", hexahedron, above, eight) +
                             "</Grid>");
    ASSERT_EQ(opened.solved->parts.size(), 2U);
    EXPECT_EQ(opened.solved->parts[0].name, "lower");
    EXPECT_EQ(opened.solved->parts[1].name, "upper");
    EXPECT_EQ(opened.solved->boundaries.size(), 10U) << "where they touch there is none";
}

// Facets with numbers, as a library tags them, become boundaries.
TEST_F(Xdmf, TaggedFacesAreBoundaries) {
    const std::string facets = "<Topology TopologyType=\"Quadrilateral\" NumberOfElements=\"2\">" +
                               item("2 4", "0 3 2 1 4 5 6 7", "NumberType=\"Int\"") + "</Topology>";
    const auto opened = open(grid("mesh", hexahedron, corners, eight) +
                             grid("tags", facets, "<Geometry Reference=\"/Xdmf/Domain/Grid[1]/Geometry\"/>",
                                  "<Attribute Name=\"facet_tags\" Center=\"Cell\">" +
                                      item("2 1", "4 9", "NumberType=\"Int\"") + "</Attribute>"));
    ASSERT_EQ(opened.solved->parts.size(), 1U);
    ASSERT_TRUE(opened.solved->boundaryNamed("facet_tags 4"));
    ASSERT_TRUE(opened.solved->boundaryNamed("facet_tags 9"));
    EXPECT_TRUE(opened.solved->boundaryNamed("x min")) << "the rest is divided at edges";
    EXPECT_EQ(opened.index->boundaries[0].part[0], 0U);
}

TEST_F(Xdmf, BrokenAndHostileOnesAreRefused) {
    const auto with = [](const std::string& topology) {
        return "<Topology TopologyType=\"Hexahedron\" NumberOfElements=\"1\">" + topology + "</Topology>";
    };
    const auto hdf = [&](const std::string& place) {
        return grid("g", with("<DataItem Format=\"HDF\" Dimensions=\"1 8\">" + place + "</DataItem>"), corners);
    };
    writeText(folder / "text.h5", "this is no HDF5 file");
    for (const auto& [text, code] :
         {std::pair<std::string, ErrorCode>{"", ErrorCode::NoCells},
          {grid("g", hexahedron, ""), ErrorCode::Syntax},
          {grid("g", with(item("1 8", "0 1 2 3 4 5 6 99")), corners), ErrorCode::IndexOutOfRange},
          {grid("g", with(item("1 8", "0 1 2 3 4 5 6 -1")), corners), ErrorCode::IndexOutOfRange},
          {grid("g", with(item("1 8", "0 1 2 3 4 5 6")), corners), ErrorCode::LengthMismatch},
          {grid("g", with(item("1 8", "0 1 2 3 four 5 6 7")), corners), ErrorCode::Syntax},
          {grid("g", with(item("1000000000 1000000000", "0 1 2 3 4 5 6 7")), corners), ErrorCode::LengthMismatch},
          {grid("g", "<Topology TopologyType=\"Dodecahedron\" NumberOfElements=\"1\"/>", corners),
           ErrorCode::NotSupported},
          {grid("g", "<Topology Reference=\"/Xdmf/Domain/Grid/Topology\"/>", corners), ErrorCode::Syntax},
          {grid("g", "<Topology Reference=\"/Xdmf[[\"/>", corners), ErrorCode::Syntax},
          {hdf("../other.h5:/a"), ErrorCode::FileMissing},
          {hdf("/etc/passwd:/a"), ErrorCode::FileMissing},
          {hdf("missing.h5:/a"), ErrorCode::FileMissing},
          {hdf("text.h5:/a"), ErrorCode::FileUnreadable},
          {hdf("nothing"), ErrorCode::Syntax},
          {grid("g", hexahedron, corners, temperature("7", "1 2 3 4 5 6 7")), ErrorCode::LengthMismatch},
          {grid("g", hexahedron,
                "<Geometry GeometryType=\"XYZ\">" + item("8 3", cubeText.substr(0, 30)) + "</Geometry>"),
           ErrorCode::LengthMismatch}}) {
        SCOPED_TRACE(text);
        EXPECT_EQ(refusedAs(write(text)), code);
    }
    writeText(folder / "cut.xdmf", "<?xml version=\"1.0\"?><Xdmf><Domain><Grid");
    EXPECT_EQ(refusedAs(folder / "cut.xdmf"), ErrorCode::Syntax);
    writeText(folder / "bomb.xdmf", "<?xml version=\"1.0\"?><!DOCTYPE x [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b "
                                    "\"&a;&a;&a;&a;\">]><Xdmf><Domain>&b;</Domain></Xdmf>");
    EXPECT_EQ(refusedAs(folder / "bomb.xdmf"), ErrorCode::NoCells);
    writeText(folder / "other.xdmf", "<html/>");
    EXPECT_EQ(refusedAs(folder / "other.xdmf"), ErrorCode::FileUnreadable);
}

// Numbers in HDF5: what lies outside of the file, was never written, or is no number.
TEST_F(Xdmf, HdfDataAreCheckedBeforeTheyAreRead) {
    const auto path = (folder / "data.h5").string();
    const auto id = H5Fcreate(path.c_str(), H5F_ACC_TRUNC, H5P_DEFAULT, H5P_DEFAULT);
    const std::array<hsize_t, 2> dims{1, 8};
    const auto space = H5Screate_simple(2, dims.data(), nullptr);
    const std::array<int, 8> nodes{0, 1, 2, 3, 4, 5, 6, 7};
    const auto good = H5Dcreate2(id, "good", H5T_NATIVE_INT, space, H5P_DEFAULT, H5P_DEFAULT, H5P_DEFAULT);
    H5Dwrite(good, H5T_NATIVE_INT, H5S_ALL, H5S_ALL, H5P_DEFAULT, nodes.data());
    H5Dclose(good);
    const std::array<hsize_t, 1> huge{hsize_t{1} << 48U};
    const std::array<hsize_t, 1> chunk{1024};
    const auto wide = H5Screate_simple(1, huge.data(), nullptr);
    const auto chunked = H5Pcreate(H5P_DATASET_CREATE);
    H5Pset_chunk(chunked, 1, chunk.data());
    H5Dclose(H5Dcreate2(id, "huge", H5T_NATIVE_DOUBLE, wide, H5P_DEFAULT, chunked, H5P_DEFAULT));
    H5Dclose(H5Dcreate2(id, "unwritten", H5T_NATIVE_INT, space, H5P_DEFAULT, H5P_DEFAULT, H5P_DEFAULT));
    H5Lcreate_external("elsewhere.h5", "/good", id, "outside", H5P_DEFAULT, H5P_DEFAULT);
    H5Lcreate_soft("/loop", id, "loop", H5P_DEFAULT, H5P_DEFAULT);
    const auto words = H5Tcopy(H5T_C_S1);
    H5Dclose(H5Dcreate2(id, "words", words, space, H5P_DEFAULT, H5P_DEFAULT, H5P_DEFAULT));
    H5Fclose(id);
    const auto with = [&](const std::string& name, const std::string& size = "1 8") {
        return write(
            grid("g",
                 "<Topology TopologyType=\"Hexahedron\" NumberOfElements=\"1\"><DataItem Format=\"HDF\" Dimensions=\"" +
                     size + "\">data.h5:/" + name + "</DataItem></Topology>",
                 corners, eight));
    };
    EXPECT_EQ(mustOpen(with("good")).solved->parts[0].mesh.cells(), 1U);
    EXPECT_EQ(refusedAs(with("good", "2 8")), ErrorCode::LengthMismatch);
    EXPECT_EQ(refusedAs(with("huge")), ErrorCode::SizeAbsurd);
    EXPECT_EQ(refusedAs(with("unwritten")), ErrorCode::FileTruncated);
    EXPECT_EQ(refusedAs(with("outside")), ErrorCode::NotSupported);
    EXPECT_EQ(refusedAs(with("loop")), ErrorCode::WrongType);
    EXPECT_EQ(refusedAs(with("words")), ErrorCode::WrongType);
    EXPECT_EQ(refusedAs(with("none/deep")), ErrorCode::NameUnknown);
    const auto whole = readText(path);
    for (std::size_t tenth = 0; tenth < 10; ++tenth) {
        writeText(path, whole.substr(0, whole.size() * tenth / 10));
        refusedAs(with("good"));
    }
}

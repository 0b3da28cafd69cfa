// Cases in two dimensions: plane cells of every kind, whichever file they come from, against closed solutions per metre
// of depth.
#include "core/field/cell_lattice.h"
#include "core/report/readings_json.h"
#include "tests/support/flat_block.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cgnslib.h>
#include <cmath>
#include <gtest/gtest.h>
#include <map>
#include <netcdf.h>
#include <vtkCellData.h>
#include <vtkCellType.h>
#include <vtkDoubleArray.h>
#include <vtkIntArray.h>
#include <vtkNew.h>
#include <vtkPointData.h>
#include <vtkUnstructuredGrid.h>
#include <vtkXMLUnstructuredGridWriter.h>

using namespace pyro;
using namespace pyro::test;

namespace {

Point plate(double r, double s) { return {0.06 * r, 0.04 * s, 0}; }
double plateField(const Point& at) { return 300 + 1000 * at[0]; }
const Json aluminium{{"materials", {{"m", {{"conductivity", "200 W/(m.K)"}}}}}};

Json surveyOf(const std::string& part) {
    auto survey = aluminium;
    survey["case"]["parts"][part]["material"] = "m";
    return survey;
}

std::vector<std::string> boundariesOf(const OpenedCase& opened) {
    std::vector<std::string> names;
    for (const auto& boundary : opened.solved->boundaries)
        names.push_back(boundary.name);
    return names;
}

class PlaneCells : public testing::TestWithParam<std::pair<Flat, int>> {
protected:
    TempFolder folder;
    OpenedCase open(std::array<int, 2> n, const FlatMap& map, const Field& field) {
        return mustOpen(FlatBlock(GetParam().first, GetParam().second, n, map, field).write(folder / "flat.vtu"));
    }
};

} // namespace

INSTANTIATE_TEST_SUITE_P(AllKinds, PlaneCells,
                         testing::Values(std::pair{Flat::Triangles, 1}, std::pair{Flat::Quads, 1},
                                         std::pair{Flat::Pixels, 1}, std::pair{Flat::Polygons, 1},
                                         std::pair{Flat::CurvedTriangles, 2}, std::pair{Flat::CurvedQuads, 2},
                                         std::pair{Flat::CurvedTriangles, 3}, std::pair{Flat::CurvedQuads, 4}));

TEST_P(PlaneCells, ALinearFieldOnAPlateIsExact) {
    const auto opened = open({6, 4}, plate, plateField);
    ASSERT_TRUE(opened.solved->plane);
    EXPECT_EQ(opened.solved->plane->normal, (Point{0, 0, 1}));
    EXPECT_EQ(opened.solved->plane->depth, 1);
    EXPECT_FALSE(opened.solved->plane->given);
    EXPECT_EQ(boundariesOf(opened), (std::vector<std::string>{"x min", "x max", "y min", "y max"}));
    EXPECT_NEAR(opened.index->parts[0].size, 0.06 * 0.04, 1e-12);
    EXPECT_FALSE(has(opened.index->remarks, "flawed-cells"));
    EXPECT_NEAR(heatThrough(opened, "x min"), 200 * 1000 * 0.04, 1e-6);
    EXPECT_NEAR(heatThrough(opened, "x max"), -200 * 1000 * 0.04, 1e-6);
    EXPECT_NEAR(heatThrough(opened, "y max"), 0, 1e-6);
    const auto read = [&](const char* gauge) { return readGauge(opened, Json::parse(gauge), surveyOf("flat")); };
    const auto hot = read(R"({"id": "g", "where": {"part": "flat"}, "quantity": "temperature", "statistic": "max"})");
    EXPECT_NEAR(hot.value.value_or(0), 360, 1e-9);
    ASSERT_TRUE(hot.place);
    EXPECT_NEAR(hot.place->at[2], 0, 1e-12); // in the plane of the file
    EXPECT_NEAR(
        read(R"({"id": "g", "where": {"point": [0.033, 0.017, 0]}, "quantity": "temperature"})").value.value_or(0), 333,
        1e-9);
    const auto area = read(R"({"id": "g", "where": {"part": "flat"}, "quantity": "area"})");
    EXPECT_NEAR(area.value.value_or(0), 0.0024, 1e-12);
    EXPECT_EQ(area.unit, "m2");
    EXPECT_NEAR(read(R"({"id": "g", "where": {"boundary": "x max"}, "quantity": "length"})").value.value_or(0), 0.04,
                1e-12);
    EXPECT_NEAR(read(R"({"id": "g", "where": {"part": "flat"}, "quantity": "temperature", "statistic": "mean"})")
                    .value.value_or(0),
                330, 1e-9);
}

// Conduction through a cylinder's wall per metre, 2 pi k dT / ln(r2/r1), a quarter of it (closed solution; e.g. VDI
// Heat Atlas, E1).
TEST_P(PlaneCells, HeatThroughAQuarterOfAWall) {
    const auto [kind, order] = GetParam();
    const int n = order == 1 ? 32 : 4;
    // in the plane y = 0
    const auto wall = [](double r, double s) {
        return Point{(1 + r) * std::cos(s * M_PI / 2), 0, (1 + r) * std::sin(s * M_PI / 2)};
    };
    const auto field = [](const Point& at) { return 400 - 100 * std::log(std::hypot(at[0], at[2])) / std::log(2.0); };
    const auto opened = open({n, 2 * n}, wall, field); // cells about as long as wide
    ASSERT_TRUE(opened.solved->plane);
    EXPECT_EQ(opened.solved->plane->normal, (Point{0, 1, 0}));
    const double within = order == 1 ? 4e-3 : order == 2 ? 1e-3 : 2e-4;
    EXPECT_NEAR(opened.index->parts[0].size, M_PI / 4 * 3, within * M_PI / 4 * 3);
    const double exact = 200 * 100 * (M_PI / 2) / std::log(2.0);
    double in = 0;
    double out = 0;
    for (const auto& name : boundariesOf(opened)) {
        const double heat = heatThrough(opened, name);
        (heat > 0 ? out : in) += heat;
    }
    EXPECT_NEAR(out, exact, within * exact);
    EXPECT_NEAR(in, -exact, within * exact);
}

class TwoDimensions : public testing::Test {
protected:
    TempFolder folder;
    NoProgress progress;
    int written = 0;

    OpenedCase openDeep(const std::filesystem::path& file, double depth) {
        OpenOptions options;
        options.split.depth = depth;
        auto opened = openForEvaluation(file, options, progress);
        EXPECT_TRUE(opened) << (opened ? "" : opened.error().text());
        return opened ? *opened : OpenedCase{};
    }
};

TEST_F(TwoDimensions, IsToldAsTheFileHasIt) {
    const auto file = FlatBlock(Flat::Quads, 1, {6, 4}, plate, plateField).write(folder / "flat.vtu");
    const auto opened = mustOpen(file);
    const auto series = seriesOf(file, std::nullopt, {}, progress);
    const auto quantities = recognise(*opened.solved, {});
    ASSERT_TRUE(series && quantities);
    const auto told = inspectionToJson(*series, opened, *quantities);
    EXPECT_EQ(told["plane"], Json::parse(R"({"normal": [0, 0, 1], "depth": 1, "per_metre": true})"));
    const auto& part = told["parts"][0];
    EXPECT_EQ(part["cells"], 24);
    EXPECT_EQ(part["nodes"], 35);
    EXPECT_EQ(part["dimension"], 2);
    EXPECT_NEAR(part["size"].get<double>(), 0.0024, 1e-12);
    EXPECT_EQ(part["extent"][2], Json::parse("[0, 0]"));
    EXPECT_EQ(told["boundaries"][0]["cells"], 4);
    EXPECT_EQ(told["boundaries"][0]["nodes"], 5);
}

TEST_F(TwoDimensions, AnotherDepthScalesWhatFlows) {
    const auto file = FlatBlock(Flat::Quads, 1, {6, 4}, plate, plateField).write(folder / "flat.vtu");
    const auto metre = mustOpen(file);
    const auto thin = openDeep(file, 0.012);
    ASSERT_TRUE(thin.solved->plane);
    EXPECT_TRUE(thin.solved->plane->given);
    EXPECT_NEAR(heatThrough(thin, "x min"), 0.012 * heatThrough(metre, "x min"), 1e-9);
    const Json flow{
        {"id", "q"}, {"where", {{"boundary", "x min"}}}, {"quantity", "heat_flux"}, {"statistic", "integral"}};
    EXPECT_NE(readGauge(metre, flow, surveyOf("flat")).method.find("per metre of depth"), std::string::npos);
    EXPECT_EQ(readGauge(thin, flow, surveyOf("flat")).method.find("per metre of depth"), std::string::npos);
    EXPECT_NEAR(mustOpen(file).index->parts[0].size, 0.0024, 1e-12); // the other depth has a store of its own
}

// What a mesher writes into one grid: cells of two materials and the lines of a boundary, told apart by one array.
TEST_F(TwoDimensions, LinesAmongTheCellsAreBoundaries) {
    FlatBlock block(Flat::Quads, 1, {6, 4}, plate, plateField);
    block.addLines();
    vtkNew<vtkIntArray> material;
    material->SetName("material");
    for (int cell = 0; cell < 24; ++cell)
        material->InsertNextValue(cell % 6 < 3 ? 1 : 2);
    for (int line = 0; line < 6; ++line)
        material->InsertNextValue(7);
    block.grid->GetCellData()->AddArray(material);
    const auto opened = mustOpen(block.write(folder / "mixed.vtu"));
    ASSERT_TRUE(opened.solved->plane);
    ASSERT_EQ(opened.solved->parts.size(), 2U);
    ASSERT_TRUE(opened.solved->boundaryNamed("material 7"));
    EXPECT_NEAR(opened.index->boundaries[*opened.solved->boundaryNamed("material 7")].size, 0.06, 1e-12);
    EXPECT_FALSE(opened.solved->boundaryNamed("material 1 y min"));
    EXPECT_TRUE(opened.solved->boundaryNamed("material 1 x min"));
    EXPECT_FALSE(opened.solved->boundaryNamed("material 1 x max")); // where it touches the other one
}

TEST_F(TwoDimensions, ATiltedPlane) {
    const auto tilted = [](double r, double s) { return Point{0.06 * r, 0.06 * r, 1 + 0.04 * s}; };
    const auto opened = mustOpen(
        FlatBlock(Flat::Triangles, 1, {6, 4}, tilted, plateField).write(folder / "tilted.vtu"));
    ASSERT_TRUE(opened.solved->plane);
    const auto& normal = opened.solved->plane->normal;
    EXPECT_NEAR(std::abs(normal[0]), std::sqrt(0.5), 1e-9);
    EXPECT_NEAR(opened.index->parts[0].size, 0.06 * std::sqrt(2.0) * 0.04, 1e-12);
    EXPECT_EQ(opened.solved->boundaries.size(), 4U);
}

TEST_F(TwoDimensions, SurfacesInSpaceStaySurfaces) {
    const auto bent = [](double r, double s) { return Point{0.06 * r, 0.04 * s, 0.01 * r * r}; };
    const auto opened = mustOpen(FlatBlock(Flat::Quads, 1, {6, 4}, bent, plateField).write(folder / "bent.vtu"));
    EXPECT_FALSE(opened.solved->plane);
    EXPECT_EQ(opened.solved->parts[0].dimension, 2);
    std::ofstream(folder / "flat.stl") << "solid s\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1 0 0\nvertex "
                                          "0 1 0\nendloop\nendfacet\nendsolid s\n";
    EXPECT_FALSE(mustOpen(folder / "flat.stl").solved->plane);
}

TEST_F(TwoDimensions, ADepthThatNothingNeedsIsTold) {
    const BoxMesh box{{1, 1, 1}, {2, 2, 2}};
    auto part = boxPart("block", box);
    addNodeField(part, "T", [](const Point& at) { return 300 + at[0]; });
    ASSERT_TRUE(writeCase({part}, folder / "block.vtm"));
    EXPECT_TRUE(has(openDeep(folder / "block.vtm", 0.5).solved->remarks, "depth-unused"));
}

TEST_F(TwoDimensions, BrokenCellsAreRefused) {
    const auto refused = [&](int type, const std::vector<vtkIdType>& ids) {
        FlatBlock block(Flat::Quads, 1, {2, 2}, plate, plateField);
        block.grid->InsertNextCell(type, static_cast<vtkIdType>(ids.size()), ids.data());
        const auto opened = openForEvaluation(block.write(folder / ("broken" + std::to_string(++written) + ".vtu")), {},
                                              progress);
        return opened ? std::optional<ErrorCode>() : std::optional(opened.error().code);
    };
    EXPECT_EQ(refused(VTK_TRIANGLE, {0, 1, 99}), ErrorCode::IndexOutOfRange);
    EXPECT_EQ(refused(VTK_TRIANGLE, {0, 1}), ErrorCode::LengthMismatch);
    EXPECT_EQ(refused(VTK_QUAD, {0, 1, 2}), ErrorCode::LengthMismatch);
    EXPECT_EQ(refused(VTK_LAGRANGE_TRIANGLE, {0, 1, 2, 3, 4}), ErrorCode::NotSupported);
}

// Plane zones, structured and not, boundaries by range and by elements.
TEST_F(TwoDimensions, CgnsInTwoDimensions) {
    int file = 0;
    int base = 0;
    const auto path = folder / "plane.cgns";
    cg_set_file_type(CG_FILE_HDF5);
    ASSERT_EQ(cg_open(path.c_str(), CG_MODE_WRITE, &file), CG_OK);
    ASSERT_EQ(cg_base_write(file, "Base", 2, 2, &base), CG_OK);
    const auto zone = [&](const char* name, double left, bool structured) {
        std::array<cgsize_t, 6> size{3, 2, 2, 1, 0, 0};
        if (!structured)
            size = {6, 2, 0, 0, 0, 0};
        int number = 0;
        EXPECT_EQ(cg_zone_write(file, base, name, size.data(),
                                structured ? CGNS_ENUMV(Structured) : CGNS_ENUMV(Unstructured), &number),
                  CG_OK);
        const std::vector<double> x{left, left + 1, left + 2, left, left + 1, left + 2};
        const std::vector<double> y{0, 0, 0, 1, 1, 1};
        std::vector<double> kelvin;
        for (const double at : x)
            kelvin.push_back(300 + 10 * at);
        int made = 0;
        EXPECT_EQ(cg_coord_write(file, base, number, CGNS_ENUMV(RealDouble), "CoordinateX", x.data(), &made), CG_OK);
        EXPECT_EQ(cg_coord_write(file, base, number, CGNS_ENUMV(RealDouble), "CoordinateY", y.data(), &made), CG_OK);
        int solution = 0;
        EXPECT_EQ(cg_sol_write(file, base, number, "Nodal", CGNS_ENUMV(Vertex), &solution), CG_OK);
        EXPECT_EQ(
            cg_field_write(file, base, number, solution, CGNS_ENUMV(RealDouble), "Temperature", kelvin.data(), &made),
            CG_OK);
        return number;
    };
    int made = 0;
    const int grid = zone("Left", 0, true);
    const std::array<cgsize_t, 4> range{1, 1, 1, 2};
    ASSERT_EQ(
        cg_boco_write(file, base, grid, "cold", CGNS_ENUMV(BCWall), CGNS_ENUMV(PointRange), 2, range.data(), &made),
        CG_OK);
    const int cells = zone("Right", 2, false);
    const std::array<cgsize_t, 8> quads{1, 2, 5, 4, 2, 3, 6, 5};
    ASSERT_EQ(cg_section_write(file, base, cells, "Cells", CGNS_ENUMV(QUAD_4), 1, 2, 0, quads.data(), &made), CG_OK);
    const std::array<cgsize_t, 2> bar{3, 6};
    ASSERT_EQ(cg_section_write(file, base, cells, "Edges", CGNS_ENUMV(BAR_2), 3, 3, 0, bar.data(), &made), CG_OK);
    const std::array<cgsize_t, 2> elements{3, 3};
    ASSERT_EQ(
        cg_boco_write(file, base, cells, "hot", CGNS_ENUMV(BCWall), CGNS_ENUMV(PointRange), 2, elements.data(), &made),
        CG_OK);
    ASSERT_EQ(cg_boco_gridlocation_write(file, base, cells, made, CGNS_ENUMV(EdgeCenter)), CG_OK);
    const std::array<cgsize_t, 3> nodes{1, 2, 3};
    ASSERT_EQ(
        cg_boco_write(file, base, cells, "floor", CGNS_ENUMV(BCWall), CGNS_ENUMV(PointList), 3, nodes.data(), &made),
        CG_OK);
    ASSERT_EQ(cg_close(file), CG_OK);
    const auto opened = mustOpen(path);
    ASSERT_TRUE(opened.solved->plane);
    ASSERT_EQ(opened.solved->parts.size(), 2U);
    for (const auto& [name, length] : {std::pair{"cold", 1.0}, std::pair{"hot", 1.0}, std::pair{"floor", 2.0}}) {
        const auto at = opened.solved->boundaryNamed(name);
        ASSERT_TRUE(at) << name;
        EXPECT_NEAR(opened.index->boundaries[*at].size, length, 1e-12) << name;
    }
    EXPECT_NEAR(heatThrough(opened, "cold"), 200 * 10, 1e-9);
    EXPECT_NEAR(heatThrough(opened, "hot"), -200 * 10, 1e-9);
}

TEST_F(TwoDimensions, ExodusInTwoDimensions) {
    const auto path = folder / "plane.e";
    int id = 0;
    ASSERT_EQ(nc_create(path.c_str(), NC_CLOBBER, &id), NC_NOERR);
    const auto extent = [&](const char* name, std::size_t length) {
        int made = 0;
        EXPECT_EQ(nc_def_dim(id, name, length, &made), NC_NOERR);
        return made;
    };
    const auto define = [&](const char* name, nc_type type, const std::vector<int>& dims) {
        int made = 0;
        EXPECT_EQ(nc_def_var(id, name, type, static_cast<int>(dims.size()), dims.data(), &made), NC_NOERR);
        return made;
    };
    const int text = extent("len_string", 33);
    const int time = extent("time_step", NC_UNLIMITED);
    const int nodes = extent("num_nodes", 6);
    extent("num_dim", 2);
    extent("num_elem", 2);
    const int blocks = extent("num_el_blk", 1);
    const int sets = extent("num_side_sets", 1);
    const int quads = extent("num_el_in_blk1", 2);
    const int corners = extent("num_nod_per_el1", 4);
    const int sides = extent("num_side_ss1", 2);
    const int nodal = extent("num_nod_var", 1);
    const int times = define("time_whole", NC_DOUBLE, {time});
    const int x = define("coordx", NC_DOUBLE, {nodes});
    const int y = define("coordy", NC_DOUBLE, {nodes});
    const int blockIds = define("eb_prop1", NC_INT, {blocks});
    const int setIds = define("ss_prop1", NC_INT, {sets});
    const int connect = define("connect1", NC_INT, {quads, corners});
    nc_put_att_text(id, connect, "elem_type", 5, "QUAD4");
    const int setElements = define("elem_ss1", NC_INT, {sides});
    const int setSides = define("side_ss1", NC_INT, {sides});
    const int names = define("name_nod_var", NC_CHAR, {nodal, text});
    const int kelvin = define("vals_nod_var1", NC_DOUBLE, {time, nodes});
    ASSERT_EQ(nc_enddef(id), NC_NOERR);
    const std::array<double, 6> atX{0, 1, 2, 0, 1, 2};
    const std::array<double, 6> atY{0, 0, 0, 1, 1, 1};
    const std::array<double, 6> values{300, 300, 300, 310, 310, 310};
    const std::array<int, 8> rows{1, 2, 5, 4, 2, 3, 6, 5};
    const std::array<int, 2> both{1, 2};
    const std::array<int, 2> top{3, 3};
    const int one = 1;
    nc_put_var_double(id, x, atX.data());
    nc_put_var_double(id, y, atY.data());
    nc_put_var_int(id, connect, rows.data());
    nc_put_var_int(id, blockIds, &one);
    nc_put_var_int(id, setIds, &one);
    nc_put_var_int(id, setElements, both.data());
    nc_put_var_int(id, setSides, top.data());
    const std::array<std::size_t, 2> origin{0, 0};
    const std::array<std::size_t, 2> name{1, 11};
    nc_put_vara_text(id, names, origin.data(), name.data(), "temperature");
    const std::array<std::size_t, 2> step{1, 6};
    const std::array<std::size_t, 1> first{0};
    const std::array<std::size_t, 1> single{1};
    const double zero = 0;
    nc_put_vara_double(id, times, first.data(), single.data(), &zero);
    nc_put_vara_double(id, kelvin, origin.data(), step.data(), values.data());
    ASSERT_EQ(nc_close(id), NC_NOERR);
    const auto opened = mustOpen(path);
    ASSERT_TRUE(opened.solved->plane);
    ASSERT_TRUE(opened.solved->boundaryNamed("side set 1"));
    EXPECT_NEAR(heatThrough(opened, "side set 1"), -200 * 10 * 2, 1e-9);
}

// As two libraries of another origin write it (tests/data/foreign/make_plane.py): marked edges in a mesh of their own,
// fields of any continuity, of second order, lines among the cells, types with newer names.
TEST_F(TwoDimensions, OfAnotherLibrarysMaking) {
    const auto foreign = std::filesystem::path(PYROMETER_SOURCE) / "tests/data/foreign";
    const struct {
        const char* file;
        const char* left; // the boundary at x = 0
        std::string part;
    } rows[]{{"plane_marked.xdmf", "edges 1", "plane_marked"},
             {"plane_torn.pvd", "x min", "plane_torn"},
             {"plane_curved.pvd", "x min", "plane_curved"},
             {"plane_mixed.vtk", "gmsh:physical 9", "gmsh:physical 1"},
             {"plane_mixed.vtu", "gmsh:physical 9", "gmsh:physical 1"},
             {"plane_mixed.e", "block 1", "block 0"}};
    for (const auto& row : rows) {
        SCOPED_TRACE(row.file);
        const auto series = seriesOf(foreign / row.file, std::nullopt, {}, progress);
        ASSERT_TRUE(series);
        const auto opened = openStep(series->steps.back(), nullptr, {}, progress);
        ASSERT_TRUE(opened) << opened.error().text();
        ASSERT_TRUE(opened->solved->plane);
        ASSERT_EQ(opened->solved->parts.size(), 1U);
        EXPECT_EQ(opened->solved->parts[0].name, row.part);
        EXPECT_NEAR(opened->index->parts[0].size, 0.0024, 1e-10);
        ASSERT_TRUE(opened->solved->boundaryNamed(row.left));
        EXPECT_NEAR(opened->index->boundaries[*opened->solved->boundaryNamed(row.left)].size, 0.04, 1e-10);
        EXPECT_NEAR(heatThrough(*opened, row.left), 200 * 1000 * 0.04, 1e-5);
        for (const auto& array : opened->solved->parts[0].arrays)
            EXPECT_FALSE(array.name.starts_with("vtk")) << array.name;
    }
}

// CGNS files written by the format's own library, in both of its containers, against the field they were made from.
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cgnslib.h>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

double temperatureAt(double x, double y, double z) { return 300 + 40 * x + 10 * y - 20 * z; }

void done(int status) { ASSERT_EQ(status, CG_OK) << cg_get_error(); }

// A lattice of nodes in a box, its lengths times `scale` in the file.
struct Lattice {
    std::array<int, 3> n{4, 3, 5};
    std::array<double, 3> low{0, 0, 0};
    std::array<double, 3> high{1, 0.5, 2};
    double scale = 1;

    cgsize_t nodes() const { return n[0] * n[1] * n[2]; }
    cgsize_t cells() const { return (n[0] - 1) * (n[1] - 1) * (n[2] - 1); }
    template <class Value>
    std::vector<double> atNodes(Value value) const {
        std::vector<double> out;
        for (int k = 0; k < n[2]; ++k)
            for (int j = 0; j < n[1]; ++j)
                for (int i = 0; i < n[0]; ++i)
                    out.push_back(value(low[0] + (high[0] - low[0]) * i / (n[0] - 1),
                                        low[1] + (high[1] - low[1]) * j / (n[1] - 1),
                                        low[2] + (high[2] - low[2]) * k / (n[2] - 1)));
        return out;
    }
    cgsize_t node(int i, int j, int k) const { return 1 + i + n[0] * (j + n[1] * k); }
};

class Cgns : public testing::TestWithParam<int> { // the container
protected:
    TempFolder folder;
    int file = 0;
    int base = 0;

    void begin(const std::string& name) {
        done(cg_set_file_type(GetParam()));
        done(cg_open((folder / name).c_str(), CG_MODE_WRITE, &file));
        done(cg_base_write(file, "Base", 3, 3, &base));
    }
    int zone(const std::string& name, const Lattice& of, bool structured) const {
        std::array<cgsize_t, 9> size{of.nodes(), of.cells(), 0};
        if (structured)
            size = {of.n[0], of.n[1], of.n[2], of.n[0] - 1, of.n[1] - 1, of.n[2] - 1, 0, 0, 0};
        int number = 0;
        done(cg_zone_write(file, base, name.c_str(), size.data(),
                           structured ? CGNS_ENUMV(Structured) : CGNS_ENUMV(Unstructured), &number));
        int coordinate = 0;
        for (std::size_t axis = 0; axis < 3; ++axis) {
            const auto values = of.atNodes([&](double x, double y, double z) {
                return of.scale * std::array{x, y, z}[axis];
            });
            done(cg_coord_write(file, base, number, CGNS_ENUMV(RealDouble),
                                ("Coordinate" + std::string(1, "XYZ"[axis])).c_str(), values.data(), &coordinate));
        }
        return number;
    }
    int solution(int of, const std::string& name, CGNS_ENUMT(GridLocation_t) location) const {
        int number = 0;
        done(cg_sol_write(file, base, of, name.c_str(), location, &number));
        return number;
    }
    void field(int of, int solution, const std::string& name, const std::vector<double>& values) const {
        int number = 0;
        done(cg_field_write(file, base, of, solution, CGNS_ENUMV(RealDouble), name.c_str(), values.data(), &number));
    }
    int boundary(int of, const std::string& name, CGNS_ENUMT(PointSetType_t) set, const std::vector<cgsize_t>& points,
                 cgsize_t count, CGNS_ENUMT(GridLocation_t) location,
                 CGNS_ENUMT(BCType_t) type = CGNS_ENUMV(BCWall)) const {
        int number = 0;
        done(cg_boco_write(file, base, of, name.c_str(), type, set, count, points.data(), &number));
        if (location != CGNS_ENUMV(Vertex))
            done(cg_boco_gridlocation_write(file, base, of, number, location));
        return number;
    }
    void hexahedra(int of, const Lattice& lattice, const std::string& name, cgsize_t first = 1) const {
        std::vector<cgsize_t> ids;
        for (int k = 0; k + 1 < lattice.n[2]; ++k)
            for (int j = 0; j + 1 < lattice.n[1]; ++j)
                for (int i = 0; i + 1 < lattice.n[0]; ++i)
                    for (const auto& [a, b, c] : {std::array{0, 0, 0},
                                                  {1, 0, 0},
                                                  {1, 1, 0},
                                                  {0, 1, 0},
                                                  {0, 0, 1},
                                                  {1, 0, 1},
                                                  {1, 1, 1},
                                                  {0, 1, 1}})
                        ids.push_back(lattice.node(i + a, j + b, k + c));
        int number = 0;
        done(cg_section_write(file, base, of, name.c_str(), CGNS_ENUMV(HEXA_8), first, first + lattice.cells() - 1, 0,
                              ids.data(), &number));
    }
    // The faces at the lowest z.
    void bottom(int of, const Lattice& lattice, const std::string& name, cgsize_t first) const {
        std::vector<cgsize_t> ids;
        for (int j = 0; j + 1 < lattice.n[1]; ++j)
            for (int i = 0; i + 1 < lattice.n[0]; ++i)
                for (const auto& [a, b] : {std::array{0, 0}, {0, 1}, {1, 1}, {1, 0}})
                    ids.push_back(lattice.node(i + a, j + b, 0));
        int number = 0;
        done(cg_section_write(file, base, of, name.c_str(), CGNS_ENUMV(QUAD_4), first,
                              first + static_cast<cgsize_t>(ids.size() / 4) - 1, 0, ids.data(), &number));
    }
    void end() const { done(cg_close(file)); }

    static double area(const OpenedCase& opened, const std::string& name) {
        const auto at = opened.solved->boundaryNamed(name);
        EXPECT_TRUE(at) << name;
        return at ? opened.index->boundaries[*at].size : std::nan("");
    }
    // Every face of a boundary is one of a part.
    static void expectMatched(const OpenedCase& opened) {
        for (const auto& remark : opened.index->remarks)
            EXPECT_NE(remark.code, "boundary-unmatched") << remark.text;
    }
    static void expectField(const Region& part) {
        const auto* temperature = part.find("Temperature", Location::Node);
        ASSERT_NE(temperature, nullptr);
        for (std::size_t i = 0; i < part.mesh.nodes(); ++i) {
            const auto [x, y, z] = part.mesh.node(i);
            ASSERT_NEAR(temperature->values[i], temperatureAt(x, y, z), 1e-12 * 300);
        }
    }
};

} // namespace

INSTANTIATE_TEST_SUITE_P(Containers, Cgns, testing::Values(CG_FILE_ADF, CG_FILE_HDF5),
                         [](const auto& made) { return made.param == CG_FILE_ADF ? "Adf" : "Hdf5"; });

// Every way in which a structured zone names its boundaries, rind cells, and a vector of three arrays.
TEST_P(Cgns, AStructuredZone) {
    const Lattice lattice;
    begin("blocks.cgns");
    const int block = zone("Block", lattice, true);
    const int atNodes = solution(block, "Nodal", CGNS_ENUMV(Vertex));
    field(block, atNodes, "Temperature", lattice.atNodes(temperatureAt));
    for (std::size_t axis = 0; axis < 3; ++axis)
        field(block, atNodes, "Velocity" + std::string(1, "XYZ"[axis]),
              lattice.atNodes([&](double x, double y, double z) {
                  return std::array{x, y, z}[axis];
              }));
    const int inCells = solution(block, "Cells", CGNS_ENUMV(CellCenter));
    done(cg_goto(file, base, "Zone_t", block, "FlowSolution_t", inCells, "end"));
    const std::array<int, 6> rind{1, 1, 0, 0, 0, 2};
    done(cg_rind_write(rind.data()));
    std::vector<double> source; // the rind holds what must not be read
    for (int k = 0; k < 4 + 2; ++k)
        for (int j = 0; j < 2; ++j)
            for (int i = -1; i < 3 + 1; ++i)
                source.push_back(i < 0 || i > 2 || k > 3 ? 1e9 : 1000 + i + 3 * (j + 2 * k));
    field(block, inCells, "HeatSource", source);
    boundary(block, "zmin", CGNS_ENUMV(PointRange), {1, 1, 1, 4, 3, 1}, 2, CGNS_ENUMV(Vertex));
    boundary(block, "xmax", CGNS_ENUMV(PointRange), {4, 1, 1, 4, 2, 4}, 2, CGNS_ENUMV(IFaceCenter));
    boundary(block, "twoFaces", CGNS_ENUMV(PointList), {1, 1, 1, 2, 1, 1}, 2, CGNS_ENUMV(JFaceCenter));
    boundary(block, "nodes", CGNS_ENUMV(PointList), {1, 3, 1, 2, 3, 1, 1, 3, 2, 2, 3, 2}, 4, CGNS_ENUMV(Vertex));
    end();
    const auto opened = mustOpen(folder / "blocks.cgns");
    ASSERT_EQ(opened.solved->parts.size(), 1U);
    const auto& part = opened.solved->parts[0];
    EXPECT_EQ(part.name, "Block");
    EXPECT_NEAR(opened.index->parts[0].size, 1, 1e-12);
    expectField(part);
    const auto* velocity = part.find("Velocity", Location::Node);
    ASSERT_NE(velocity, nullptr);
    EXPECT_EQ(velocity->components, 3);
    EXPECT_EQ(velocity->values[3 * 59 + 2], 2);
    const auto* heat = part.find("HeatSource", Location::Cell);
    ASSERT_NE(heat, nullptr);
    EXPECT_EQ(heat->min, 1000);
    EXPECT_EQ(heat->max, 1023);
    EXPECT_NEAR(area(opened, "zmin"), 0.5, 1e-12);
    EXPECT_NEAR(area(opened, "xmax"), 1, 1e-12);
    EXPECT_NEAR(area(opened, "twoFaces"), 2 * 0.5 / 3, 1e-12);
    EXPECT_NEAR(area(opened, "nodes"), 0.5 / 3, 1e-12);
    expectMatched(opened);
}

// Two zones with a boundary of one family each, another by nodes, faces that nobody names; lengths in mm and
// temperatures in Celsius.
TEST_P(Cgns, UnstructuredZonesWithFamiliesAndUnits) {
    begin("parts.cgns");
    done(cg_goto(file, base, "end"));
    done(cg_dataclass_write(CGNS_ENUMV(Dimensional)));
    done(cg_units_write(CGNS_ENUMV(Kilogram), CGNS_ENUMV(Millimeter), CGNS_ENUMV(Second), CGNS_ENUMV(Celsius),
                        CGNS_ENUMV(Degree)));
    int family = 0;
    done(cg_family_write(file, base, "walls", &family));
    Lattice left{{3, 3, 3}, {0, 0, 0}, {1, 1, 1}, 1000};
    Lattice right{{3, 3, 3}, {1, 0, 0}, {2, 1, 1}, 1000};
    for (const auto& [name, lattice] : {std::pair("left", left), std::pair("right", right)}) {
        const int of = zone(name, lattice, false);
        hexahedra(of, lattice, "Cells");
        bottom(of, lattice, "Bottom", 9);
        field(of, solution(of, "Flow", CGNS_ENUMV(Vertex)), "Temperature",
              lattice.atNodes([](double x, double y, double z) { return temperatureAt(x, y, z) - 273.15; }));
        const int wall = boundary(of, "w", CGNS_ENUMV(PointRange), {9, 12}, 2, CGNS_ENUMV(FaceCenter),
                                  CGNS_ENUMV(FamilySpecified));
        done(cg_goto(file, base, "Zone_t", of, "ZoneBC_t", 1, "BC_t", wall, "end"));
        done(cg_famname_write("walls"));
        boundary(of, "top", CGNS_ENUMV(PointRange), {19, 27}, 2, CGNS_ENUMV(Vertex));
    }
    end();
    const auto opened = mustOpen(folder / "parts.cgns");
    ASSERT_EQ(opened.solved->parts.size(), 2U);
    EXPECT_EQ(opened.solved->parts[1].name, "right");
    expectField(opened.solved->parts[0]);
    expectField(opened.solved->parts[1]);
    EXPECT_NEAR(opened.index->parts[1].size, 1, 1e-12);
    EXPECT_NEAR(area(opened, "walls"), 2, 1e-12);
    EXPECT_NEAR(area(opened, "left top"), 1, 1e-12);
    EXPECT_TRUE(
        std::ranges::any_of(opened.solved->remarks, [](const Remark& one) { return one.code == "units-converted"; }));
}

// Sections of one kind are parts; those that differ in kind are one. Faces that no condition names are a boundary by
// their section.
TEST_P(Cgns, SectionsAreParts) {
    const Lattice lattice{{3, 2, 2}, {0, 0, 0}, {2, 1, 1}};
    begin("sections.cgns");
    const int of = zone("Zone", lattice, false);
    int number = 0;
    const std::vector<cgsize_t> first{1, 2, 5, 4, 7, 8, 11, 10};
    const std::vector<cgsize_t> second{2, 3, 6, 5, 8, 9, 12, 11};
    done(cg_section_write(file, base, of, "chip", CGNS_ENUMV(HEXA_8), 1, 1, 0, first.data(), &number));
    done(cg_section_write(file, base, of, "board", CGNS_ENUMV(HEXA_8), 2, 2, 0, second.data(), &number));
    bottom(of, lattice, "under", 3);
    field(of, solution(of, "Flow", CGNS_ENUMV(CellCenter)), "Temperature", {310, 320});
    end();
    const auto opened = mustOpen(folder / "sections.cgns");
    ASSERT_EQ(opened.solved->parts.size(), 2U);
    EXPECT_EQ(opened.solved->parts[1].name, "Zone board");
    EXPECT_EQ(opened.solved->parts[1].find("Temperature", Location::Cell)->max, 320);
    EXPECT_NEAR(area(opened, "under"), 2, 1e-12);
}

// A mesh of faces: each cell by the faces around it, or each face by the cells on both sides.
TEST_P(Cgns, PolyhedraByTheirFaces) {
    for (const bool parents : {false, true}) {
        const Lattice lattice{{2, 2, 3}, {0, 0, 0}, {1, 1, 2}};
        begin("faces.cgns");
        const int of = zone("Zone", lattice, false);
        std::vector<cgsize_t> ring;
        std::vector<cgsize_t> offsets{0};
        const auto face = [&](std::initializer_list<cgsize_t> ids) {
            ring.insert(ring.end(), ids);
            offsets.push_back(static_cast<cgsize_t>(ring.size()));
        };
        face({1, 3, 4, 2}); // below
        face({5, 6, 8, 7}); // between
        face({9, 10, 12, 11});
        for (const cgsize_t up : {0, 4}) {
            face({1 + up, 2 + up, 6 + up, 5 + up});
            face({2 + up, 4 + up, 8 + up, 6 + up});
            face({4 + up, 3 + up, 7 + up, 8 + up});
            face({3 + up, 1 + up, 5 + up, 7 + up});
        }
        int number = 0;
        done(cg_poly_section_write(file, base, of, "Faces", CGNS_ENUMV(NGON_n), 1, 11, 0, ring.data(), offsets.data(),
                                   &number));
        if (parents) {
            std::vector<cgsize_t> cells(44, 0);
            const std::array<cgsize_t, 11> left{12, 12, 13, 12, 12, 12, 12, 13, 13, 13, 13};
            std::ranges::copy(left, cells.begin());
            cells[11 + 1] = 13; // the right side of the face between
            done(cg_parent_data_write(file, base, of, number, cells.data()));
        } else {
            const std::vector<cgsize_t> around{1, 2, 4, 5, 6, 7, -2, 3, 8, 9, 10, 11};
            const std::vector<cgsize_t> ends{0, 6, 12};
            done(cg_poly_section_write(file, base, of, "Cells", CGNS_ENUMV(NFACE_n), 12, 13, 0, around.data(),
                                       ends.data(), &number));
        }
        field(of, solution(of, "Flow", CGNS_ENUMV(Vertex)), "Temperature", lattice.atNodes(temperatureAt));
        boundary(of, "inlet", CGNS_ENUMV(PointList), {1}, 1, CGNS_ENUMV(FaceCenter));
        end();
        const auto opened = mustOpen(folder / "faces.cgns");
        ASSERT_EQ(opened.solved->parts.size(), 1U);
        EXPECT_NEAR(opened.index->parts[0].size, 2, 1e-12);
        EXPECT_EQ(opened.solved->parts[0].fileCells, 2U);
        expectField(opened.solved->parts[0]);
        EXPECT_NEAR(area(opened, "inlet"), 1, 1e-12);
        expectMatched(opened); // the faces of plain cells stay whole
    }
}

TEST_P(Cgns, StepsByIterativeData) {
    const Lattice lattice{{2, 2, 2}};
    begin("steps.cgns");
    const int of = zone("Zone", lattice, true);
    for (int step = 0; step < 3; ++step)
        field(of, solution(of, "At" + std::to_string(step), CGNS_ENUMV(Vertex)), "Temperature",
              lattice.atNodes([&](double, double, double) { return 300.0 + step; }));
    field(of, solution(of, "Always", CGNS_ENUMV(CellCenter)), "Conductivity", {5});
    done(cg_biter_write(file, base, "Steps", 3));
    done(cg_goto(file, base, "BaseIterativeData_t", 1, "end"));
    const std::array<double, 3> times{0, 2.5, 10};
    const cgsize_t count = 3;
    done(cg_array_write("TimeValues", CGNS_ENUMV(RealDouble), 1, &count, times.data()));
    done(cg_ziter_write(file, base, of, "ZoneSteps"));
    done(cg_goto(file, base, "Zone_t", of, "ZoneIterativeData_t", 1, "end"));
    std::string pointers;
    for (const auto* name : {"At0", "At1", "At2"}) {
        std::string padded = name;
        padded.resize(32, ' ');
        pointers += padded;
    }
    const std::array<cgsize_t, 2> shape{32, 3};
    done(cg_array_write("FlowSolutionPointers", CGNS_ENUMV(Character), 2, shape.data(), pointers.data()));
    end();
    NoProgress progress;
    const auto series = seriesOf(folder / "steps.cgns", std::nullopt, {}, progress);
    ASSERT_TRUE(series) << series.error().text();
    ASSERT_EQ(series->steps.size(), 3U);
    EXPECT_EQ(series->steps[1].step.time, 2.5);
    for (std::size_t step = 0; step < 3; ++step) {
        const auto opened = openStep(series->steps[step], nullptr, {}, progress);
        ASSERT_TRUE(opened) << opened.error().text();
        EXPECT_EQ(opened->solved->parts[0].find("Temperature", Location::Node)->max, 300 + static_cast<double>(step));
        EXPECT_NE(opened->solved->parts[0].find("Conductivity", Location::Cell), nullptr);
    }
}

TEST_P(Cgns, BrokenOnesAreRefused) {
    begin("whole.cgns");
    const Lattice lattice;
    const int of = zone("Zone", lattice, false);
    hexahedra(of, lattice, "Cells");
    field(of, solution(of, "Flow", CGNS_ENUMV(Vertex)), "Temperature", lattice.atNodes(temperatureAt));
    end();
    EXPECT_TRUE(mustOpen(folder / "whole.cgns").solved);
    const auto whole = readText(folder / "whole.cgns");
    const auto refused = [&](const std::string& name, std::initializer_list<ErrorCode> codes) {
        NoProgress progress;
        const auto opened = openCase(folder / name, {}, progress);
        ASSERT_FALSE(opened) << name;
        EXPECT_FALSE(opened.error().what.empty());
        EXPECT_FALSE(opened.error().remedy.empty()) << opened.error().what;
        EXPECT_TRUE(codes.size() == 0 || std::ranges::find(codes, opened.error().code) != codes.end())
            << name << ": " << opened.error().text();
    };
    for (std::size_t tenth = 0; tenth < 10; ++tenth) {
        writeText(folder / "cut.cgns", whole.substr(0, whole.size() * tenth / 10));
        NoProgress progress;
        if (const auto opened = openCase(folder / "cut.cgns", {}, progress))
            expectField((*opened)->parts[0]); // only what fills up the last block of an ADF file is gone
        else
            refused("cut.cgns", {});
    }
    writeText(folder / "text.cgns", "this is no such file");
    refused("text.cgns", {ErrorCode::FileUnreadable});

    begin("nodes.cgns");
    std::vector<cgsize_t> ids{1, 2, 3, 99};
    int number = 0;
    const std::array<cgsize_t, 3> size{4, 1, 0};
    int small = 0;
    done(cg_zone_write(file, base, "Zone", size.data(), CGNS_ENUMV(Unstructured), &small));
    for (const auto* name : {"CoordinateX", "CoordinateY", "CoordinateZ"})
        done(cg_coord_write(file, base, small, CGNS_ENUMV(RealDouble), name, std::array{0., 1., 2., 3.}.data(),
                            &number));
    done(cg_section_write(file, base, small, "Cells", CGNS_ENUMV(TETRA_4), 1, 1, 0, ids.data(), &number));
    end();
    refused("nodes.cgns", {ErrorCode::IndexOutOfRange});

    begin("short.cgns");
    zone("Zone", lattice, false); // says 24 cells and holds none
    end();
    refused("short.cgns", {ErrorCode::LengthMismatch});

    begin("range.cgns");
    const int block = zone("Zone", lattice, true);
    boundary(block, "out", CGNS_ENUMV(PointRange), {1, 1, 1, 9, 9, 1}, 2, CGNS_ENUMV(Vertex));
    end();
    refused("range.cgns", {ErrorCode::IndexOutOfRange, ErrorCode::FileUnreadable});

    begin("link.cgns");
    zone("Zone", lattice, true);
    done(cg_goto(file, base, "end"));
    done(cg_link_write("Other", "/etc/passwd", "/Base"));
    end();
    refused("link.cgns", {ErrorCode::NotSupported});

    done(cg_set_file_type(GetParam()));
    done(cg_open((folder / "empty.cgns").c_str(), CG_MODE_WRITE, &file));
    end();
    refused("empty.cgns", {ErrorCode::NoCells, ErrorCode::FileUnreadable});
}

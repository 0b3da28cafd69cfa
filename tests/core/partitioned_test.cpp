// A partitioned case reads as the whole it was cut from.
#include "core/case/readers/partitioned.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <fstream>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

double bumpy(const Point& at) { return 300 + 40 * at[0] * at[0] - 7 * at[1] * at[2] + 3 * at[2]; }

// Of the box [0,1] x [0,1] x [0,1] in 8 x 4 x 4 hexahedra, what lies between two of its layers along x.
BlockData slab(int from, int to) {
    auto part = boxPart("slab", {{(to - from) / 8.0, 1, 1}, {to - from, 4, 4}, {from / 8.0, 0, 0}});
    addNodeField(part, "temperature", bumpy);
    addCellField(part, "heat_source", [](const Point& at) { return 1000 * at[0]; });
    part.time = 90;
    return part;
}

class Partitioned : public testing::Test {
protected:
    // Writes a piece; those of its cells that begin at or beyond `ghostsFrom` along x are marked as ghosts.
    void piece(const std::string& name, BlockData block, double ghostsFrom = 2) {
        addCellField(block, "vtkGhostType", [&](const Point& at) { return at[0] > ghostsFrom ? 1.0 : 0.0; });
        ASSERT_TRUE(writeBlock(block, folder / name, Encoding::Ascii));
        std::ifstream in(folder / name);
        std::string text((std::istreambuf_iterator<char>(in)), {});
        const auto at = text.rfind("Float64", text.find("vtkGhostType"));
        text.replace(at, 7, "UInt8");
        std::ofstream(folder / name) << text;
    }
    void list(const std::string& pieces) {
        std::ofstream(folder / "case.pvtu")
            << R"(<VTKFile type="PUnstructuredGrid" version="1.0"><PUnstructuredGrid GhostLevel="0">)" << pieces
            << "</PUnstructuredGrid></VTKFile>";
    }
    Result<OpenedCase> open() {
        NoProgress progress;
        return openForEvaluation(folder / "case.pvtu", {}, progress);
    }
    TempFolder folder;
};

const char* const twoPieces = R"(<Piece Source="left half.vtu"/><Piece Source="right.vtu"/>)";

} // namespace

TEST_F(Partitioned, GaugesAreThoseOfTheSingleFile) {
    ASSERT_TRUE(writeBlock(slab(0, 8), folder / "case.vtu"));
    piece("left half.vtu", slab(0, 5), 3 / 8.0); // two layers of ghosts
    piece("right.vtu", slab(3, 8));
    list(twoPieces);
    const auto pieces = open();
    ASSERT_TRUE(pieces) << pieces.error().text();
    const auto whole = mustOpen(folder / "case.vtu");
    EXPECT_EQ(pieces->solved->parts[0].fileCells, 128U);
    EXPECT_EQ(pieces->solved->parts[0].mesh.nodes(), 225U); // 9 x 5 x 5: the cut's nodes once
    EXPECT_EQ(pieces->solved->time, 90);
    for (const char* gauge : {R"({"id": "g", "where": "all", "quantity": "temperature"})",
                              R"({"id": "g", "where": "all", "quantity": "temperature", "statistic": "deviation"})",
                              R"({"id": "g", "where": "all", "quantity": "temperature", "statistic": "p95"})",
                              R"({"id": "g", "where": "all", "quantity": "heat_source", "statistic": "integral"})",
                              R"({"id": "g", "where": "all", "quantity": "temperature_gradient", "statistic": "max"})",
                              R"({"id": "g", "where": {"plane": {"origin": [0.4, 0, 0], "normal": [1, 0.3, 0]}},
           "quantity": "temperature"})",
                              R"({"id": "g", "where": {"point": [0.4, 0.3, 0.3]}, "quantity": "temperature"})"}) {
        const auto a = readGauge(*pieces, Json::parse(gauge));
        const auto b = readGauge(whole, Json::parse(gauge));
        ASSERT_TRUE(a.value && b.value) << gauge << a.why << b.why;
        EXPECT_NEAR(*a.value, *b.value, 1e-12 * std::abs(*b.value)) << gauge; // sums in another order
    }
}

TEST_F(Partitioned, AnArrayThatSomePieceLacksIsToldNotLost) {
    auto left = slab(0, 4);
    addNodeField(left, "pressure", [](const Point&) { return 1e5; });
    piece("left half.vtu", left);
    piece("right.vtu", slab(4, 8));
    list(twoPieces);
    const auto opened = open();
    ASSERT_TRUE(opened);
    const auto& remarks = opened->solved->remarks;
    const auto told = std::ranges::find(remarks, "array-not-everywhere", &Remark::code);
    ASSERT_NE(told, remarks.end());
    EXPECT_NE(told->text.find("\"pressure\" on nodes is left out: only 1 of 2"), std::string::npos) << told->text;
}

TEST_F(Partitioned, AHoleIsAnErrorThatNamesThePiece) {
    piece("left half.vtu", slab(0, 4));
    list(twoPieces);
    auto opened = open();
    ASSERT_FALSE(opened);
    EXPECT_EQ(opened.error().code, ErrorCode::FileMissing);
    EXPECT_NE(opened.error().what.find("right.vtu"), std::string::npos);
    list(R"(<Piece Source="../right.vtu"/>)");
    opened = open();
    ASSERT_FALSE(opened);
    EXPECT_NE(opened.error().what.find("outside"), std::string::npos);
    list("");
    opened = open();
    ASSERT_FALSE(opened);
    EXPECT_EQ(opened.error().code, ErrorCode::NoCells);
}

TEST_F(Partitioned, ARankWithoutCellsIsPassedOver) {
    piece("left half.vtu", slab(0, 8));
    std::ofstream(folder / "right.vtu") << R"(<VTKFile type="UnstructuredGrid" version="1.0"><UnstructuredGrid>
          <Piece NumberOfPoints="0" NumberOfCells="0">
        <Points><DataArray type="Float64" NumberOfComponents="3" format="ascii"></DataArray></Points><Cells>
          <DataArray type="Int64" Name="connectivity" format="ascii"></DataArray>
        <DataArray type="Int64" Name="offsets" format="ascii"></DataArray>
          <DataArray type="UInt8" Name="types" format="ascii"></DataArray></Cells></Piece></UnstructuredGrid>
          </VTKFile>)";
    list(twoPieces);
    const auto opened = open();
    ASSERT_TRUE(opened) << opened.error().text();
    EXPECT_EQ(opened->solved->parts[0].fileCells, 128U);
    EXPECT_EQ(opened->solved->remarks.end(),
              std::ranges::find(opened->solved->remarks, "array-not-everywhere", &Remark::code))
        << "what has no cells need have no arrays";
}

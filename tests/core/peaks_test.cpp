// Local maxima and their prominence: against a plain sorted union-find on random fields, and where they are known
// exactly.
#include "core/field/mesh_edges.h"
#include "core/field/peaks.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>
#include <numeric>
#include <random>
#include <set>

using namespace pyro;
using namespace pyro::test;

namespace {

// Everything sorted, added one by one from the top; the textbook way.
struct PlainPeak {
    std::size_t top;
    double prominence;
    bool operator<(const PlainPeak& other) const {
        return std::pair(top, prominence) < std::pair(other.top, other.prominence);
    }
};
std::set<PlainPeak> plain(const std::vector<double>& values, const std::vector<std::vector<std::size_t>>& neighbours) {
    std::vector<std::size_t> order(values.size());
    std::iota(order.begin(), order.end(), std::size_t{0});
    const auto higher = [&](std::size_t a, std::size_t b) {
        return values[a] > values[b] || (values[a] == values[b] && a < b);
    };
    std::ranges::sort(order, higher);
    std::vector<std::size_t> parent(values.size(), values.size());
    const auto find = [&](std::size_t at) {
        while (parent[at] != at)
            at = parent[at];
        return at;
    };
    std::set<PlainPeak> peaks;
    for (const auto vertex : order) {
        parent[vertex] = vertex; // a set is named after its highest vertex
        for (const auto other : neighbours[vertex]) {
            if (parent[other] == values.size())
                continue;
            const auto a = find(vertex);
            const auto b = find(other);
            if (a == b)
                continue;
            const auto ends = higher(a, b) ? b : a;
            if (ends != vertex)
                peaks.insert({ends, values[ends] - values[vertex]});
            parent[ends] = ends == a ? b : a;
        }
    }
    peaks.insert({order.front(), values[order.front()] - values[order.back()]});
    return peaks;
}

class Peaks : public testing::Test {
protected:
    const Region& open(std::vector<BlockData> blocks, const std::string& name) {
        EXPECT_TRUE(writeCase(blocks, folder / name));
        opened.push_back(mustOpen(folder / name));
        return opened.back().solved->parts[0];
    }
    static PeakPart nodesOf(const Region& region) {
        return {&region.mesh, region.find("T", Location::Node)->values, Location::Node};
    }
    TempFolder folder;
    std::vector<OpenedCase> opened;
};

} // namespace

TEST(MeshEdges, EveryEdgeOnce) {
    EXPECT_EQ(edgesOf(CellType::Tetrahedron).size(), 6U);
    EXPECT_EQ(edgesOf(CellType::Hexahedron).size(), 12U);
    EXPECT_EQ(edgesOf(CellType::Wedge).size(), 9U);
    EXPECT_EQ(edgesOf(CellType::Pyramid).size(), 8U);
    EXPECT_EQ(CellLattice::of(CellType::CurvedHexahedron, 27)->edges().size(), 54U)
        << "three directions of nine lines of two";
    EXPECT_EQ(edgesOf(CellType::Quad).size(), 4U);
}

TEST_F(Peaks, AgreeWithAPlainSortOnRandomFields) {
    std::mt19937 random(7);
    for (const auto cells : {Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids})
        for (const int steps : {5, 1000000}) { // many equal values, and hardly any
            auto part = boxPart("box", {{1, 1, 1}, {9, 8, 7}}, cells);
            addNodeField(part, "T",
                         [&](const Point&) { return static_cast<double>(random() % static_cast<unsigned>(steps)); });
            const auto& region = open({part}, std::to_string(random()) + ".vtm");
            const auto view = nodesOf(region);
            std::vector<double> values;
            for (std::size_t i = 0; i < region.mesh.nodes(); ++i)
                values.push_back(view.values[i]);
            std::vector<std::vector<std::size_t>> neighbours(values.size());
            for (std::size_t cell = 0; cell < region.mesh.cells(); ++cell)
                forEdges(region.mesh.type(cell), region.mesh.cell(cell), [&](std::size_t a, std::size_t b) {
                    neighbours[a].push_back(b);
                    neighbours[b].push_back(a);
                });
            for (const double sign : {1.0, -1.0}) {
                auto signedValues = values;
                for (auto& value : signedValues)
                    value *= sign;
                std::set<PlainPeak> ours;
                // those without any prominence are parts of plateaus
                for (const auto& peak : PeakField({view}, {}, sign).peaks(0))
                    if (peak.prominence > 0)
                        ours.insert({peak.top.number, peak.prominence});
                std::set<PlainPeak> theirs;
                for (const auto& peak : plain(signedValues, neighbours))
                    if (peak.prominence > 0)
                        theirs.insert(peak);
                ASSERT_EQ(ours.size(), theirs.size());
                EXPECT_FALSE(ours < theirs || theirs < ours);
            }
        }
}

// Two ridges of known height: 100 at x = 0.2 and 80 at x = 0.8, and a saddle of 50 between them at x = 0.5, all on
// nodes.
TEST_F(Peaks, AKnownSaddle) {
    auto part = boxPart("bar", {{1, 0.1, 0.1}, {10, 1, 1}});
    addNodeField(part, "T", [](const Point& at) {
        const double x = at[0];
        return x <= 0.2   ? 20 + 400 * x
               : x <= 0.5 ? 100 - 50 * (x - 0.2) / 0.3
               : x <= 0.8 ? 50 + 30 * (x - 0.5) / 0.3
                          : 80 - 300 * (x - 0.8);
    });
    const auto& region = open({part}, "bar.vtm");
    const auto found = PeakField({nodesOf(region)}, {}).peaks(1);
    ASSERT_EQ(found.size(), 2U);
    EXPECT_NEAR(found[0].value, 100, 1e-9);
    EXPECT_NEAR(found[0].prominence, 80, 1e-9); // down to the lowest, 20
    EXPECT_FALSE(found[0].saddle);
    EXPECT_NEAR(found[1].value, 80, 1e-9);
    EXPECT_NEAR(found[1].prominence, 30, 1e-9);
    ASSERT_TRUE(found[1].saddle);
    EXPECT_NEAR(region.mesh.node(found[1].saddle->number)[0], 0.5, 1e-9);
    EXPECT_NEAR(region.mesh.node(found[1].top.number)[0], 0.8, 1e-9);
    // Within 25 of the lower peak: x from 0.55 (55) to 0.883; nodes at 0.6, 0.7, 0.8 are 60, 70, 80.
    const std::vector<double> one(region.mesh.nodes(), 1);
    const PeakField field({nodesOf(region)}, {});
    const auto sizes = field.regionSizes(found, 25, {one});
    EXPECT_EQ(sizes[1], 12); // 4 nodes each at 0.6, 0.7, 0.8
    EXPECT_EQ(sizes[0], 8);  // 100 at 0.2 and 83.3 at 0.3; the flank at 0.1 is 60
}

// Equal peaks: the one first in the file is the higher; the other's prominence ends at the saddle all the same.
TEST_F(Peaks, EqualPeaksAndPlateaus) {
    auto part = boxPart("bar", {{1, 0.1, 0.1}, {10, 1, 1}});
    addNodeField(part, "T", [](const Point& at) { return at[0] < 0.25 || at[0] > 0.75 ? 10.0 : 4.0; });
    const auto& region = open({part}, "flat.vtm");
    const PeakField field({nodesOf(region)}, {});
    const auto found = field.peaks(0.1);
    ASSERT_EQ(found.size(), 2U) << "every plateau is one peak";
    const auto centres = field.centres(found);
    EXPECT_NEAR(region.mesh.node(centres[0].number)[0], 0.1, 1e-9) << "of 0, 0.1 and 0.2";
    EXPECT_NEAR(region.mesh.node(centres[1].number)[0], 0.9, 1e-9);
    EXPECT_NEAR(found[0].prominence, 6, 1e-12);
    EXPECT_NEAR(found[1].prominence, 6, 1e-12);
    EXPECT_EQ(found[0].top.number, 0U);
    EXPECT_FALSE(found[0].saddle);
    EXPECT_TRUE(found[1].saddle);
}

TEST_F(Peaks, ValuesThatAreNotFiniteAreLeftOutAndConstantFieldsHaveOne) {
    auto part = boxPart("bar", {{1, 0.1, 0.1}, {10, 1, 1}});
    addNodeField(part, "T", [](const Point& at) {
        return at[0] > 0.45 && at[0] < 0.55 ? std::nan("") : at[0] < 0.5 ? 5 - at[0] : at[0];
    });
    const auto& region = open({part}, "holes.vtm");
    const PeakField field({nodesOf(region)}, {});
    EXPECT_EQ(field.leftOut(), 4U);
    const auto found = field.peaks(0.05);
    ASSERT_EQ(found.size(), 2U) << "nothing joins the two sides";
    EXPECT_NEAR(found[0].value, 5, 1e-12);
    EXPECT_NEAR(found[0].prominence, 4.4, 1e-9); // the lowest of all is 0.6
    EXPECT_NEAR(found[1].prominence, 0.4, 1e-9); // the lowest on its own side
    EXPECT_NEAR(found[1].value, 1, 1e-12);
    auto even = boxPart("bar", {{1, 0.1, 0.1}, {10, 1, 1}});
    addNodeField(even, "T", [](const Point&) { return 7.0; });
    const auto flat = PeakField({nodesOf(open({even}, "even.vtm"))}, {}).peaks(0);
    ASSERT_FALSE(flat.empty());
    EXPECT_EQ(flat[0].prominence, 0);
}

// On cells, neighbours share a node. Parts that touch are joined.
TEST_F(Peaks, OnCellsAndAcrossParts) {
    auto part = boxPart("bar", {{1, 0.1, 0.1}, {10, 1, 1}});
    addCellField(part, "C", [](const Point& at) {
        return std::abs(at[0] - 0.45) < 0.06 ? 1 : at[0] < 0.5 ? 8 - at[0] : 3 + at[0];
    });
    const auto& region = open({part}, "cells.vtm");
    const PeakPart cells{&region.mesh, region.find("C", Location::Cell)->values, Location::Cell};
    const auto found = PeakField({cells}, {}).peaks(0.5);
    ASSERT_EQ(found.size(), 2U);
    EXPECT_NEAR(found[0].value, 7.95, 1e-9);
    EXPECT_NEAR(found[1].value, 3.95, 1e-9);
    EXPECT_NEAR(found[1].prominence, 2.95, 1e-9);
    // Two bars end to end with one rise over both: two peaks apart, one when joined.
    auto left = boxPart("left", {{1, 0.1, 0.1}, {4, 1, 1}});
    auto right = boxPart("right", {{1, 0.1, 0.1}, {4, 1, 1}, {1, 0, 0}});
    for (auto* bar : {&left, &right})
        addNodeField(*bar, "T", [](const Point& at) { return 10 * at[0]; });
    open({left, right}, "two.vtm");
    const auto& parts = opened.back().solved->parts;
    const std::vector<PeakPart> both{nodesOf(parts[0]), nodesOf(parts[1])};
    EXPECT_EQ(PeakField(both, {}).peaks(0.5).size(), 2U);
    std::uint32_t end = 0;
    std::uint32_t begin = 0;
    for (std::uint32_t i = 0; i < parts[0].mesh.nodes(); ++i) {
        if (parts[0].mesh.node(i) == Point{1, 0, 0})
            end = i;
        if (parts[1].mesh.node(i) == Point{1, 0, 0})
            begin = i;
    }
    const auto joined = PeakField(both, {PeakJoin{PeakVertex{0, end}, PeakVertex{1, begin}}}).peaks(0.5);
    ASSERT_EQ(joined.size(), 1U);
    EXPECT_EQ(joined[0].top.part, 1U);
    EXPECT_NEAR(joined[0].prominence, 20, 1e-9);
}

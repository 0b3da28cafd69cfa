// A case is opened in two stages, picture first; what is derived from its mesh lies beside its store and is made
// anew only where it no longer holds.
#include "core/evaluate/evaluate.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

class Opening : public testing::Test {
protected:
    void SetUp() override {
        const BoxMesh box{{1, 2, 3}, {2, 3, 4}};
        auto part = boxPart("block", box);
        addNodeField(part, "temperature", [](const Point& at) { return 300 + at[2]; });
        ASSERT_TRUE(writeCase({part, boxSide("base", box, 2, false)}, file));
    }

    std::filesystem::path beside(const char* ending) const { return storePath({file}).replace_extension(ending); }
    std::filesystem::file_time_type changed(const char* ending) const {
        return std::filesystem::last_write_time(beside(ending));
    }

    TempFolder folder;
    std::filesystem::path file = std::filesystem::weakly_canonical(folder / "block.vtm");
    NoProgress progress;
};

// Tells what was reported and can stop after a while.
class Listener final : public Progress {
public:
    void report(double share, std::string_view what) override {
        EXPECT_GE(share, last) << what;
        last = share;
        heard.emplace_back(what);
    }
    bool cancelled() const override { return stop; }

    double last = 0;
    std::vector<std::string> heard;
    bool stop = false;
};

} // namespace

TEST_F(Opening, TheFirstStageKnowsTheSurfaceOnly) {
    const auto first = openForPicture({{}, file}, {}, progress);
    ASSERT_TRUE(first);
    EXPECT_FALSE(first->index->measured);
    ASSERT_EQ(first->index->parts.size(), 1U);
    EXPECT_EQ(first->index->parts[0].shell.faces(), 2U * (2 * 3 + 3 * 4 + 4 * 2));
    EXPECT_TRUE(first->index->parts[0].cellMeasure.empty());
    EXPECT_TRUE(first->index->boundaries.empty());
    EXPECT_FALSE(std::filesystem::exists(beside(".index")));

    const auto whole = measured(*first, progress);
    ASSERT_TRUE(whole);
    EXPECT_TRUE(whole->index->measured);
    EXPECT_EQ(whole->solved, first->solved) << "the same case, not a second copy";
    EXPECT_NEAR(whole->index->parts[0].size, 6, 1e-12);
    EXPECT_EQ(whole->index->parts[0].shell.faces(), first->index->parts[0].shell.faces());
    EXPECT_NEAR(whole->index->boundaries.at(0).size, 2, 1e-12);
    EXPECT_TRUE(std::filesystem::exists(beside(".index")));
}

TEST_F(Opening, WhatHoldsIsNotMadeAgain) {
    ASSERT_TRUE(openForEvaluation(file, {}, progress));
    const auto shells = changed(".shells");
    const auto index = changed(".index");
    ASSERT_TRUE(openForEvaluation(file, {}, progress));
    EXPECT_EQ(changed(".shells"), shells);
    EXPECT_EQ(changed(".index"), index);

    std::filesystem::remove(beside(".index")); // only this one is missing
    ASSERT_TRUE(openForEvaluation(file, {}, progress));
    EXPECT_EQ(changed(".shells"), shells);
    EXPECT_TRUE(std::filesystem::exists(beside(".index")));
}

TEST_F(Opening, WhatIsDamagedIsMadeAgain) {
    for (const auto* ending : {".shells", ".index"}) {
        SCOPED_TRACE(ending);
        ASSERT_TRUE(openForEvaluation(file, {}, progress));
        const auto whole = readText(beside(ending));
        writeText(beside(ending), whole.substr(0, whole.size() / 2));
        const auto again = openForEvaluation(file, {}, progress);
        ASSERT_TRUE(again) << again.error().text();
        EXPECT_NEAR(again->index->parts[0].size, 6, 1e-12);
        EXPECT_EQ(readText(beside(ending)).size(), whole.size());
    }
}

TEST_F(Opening, AnotherMeshUnderTheSameNameIsMeasuredAnew) {
    ASSERT_TRUE(openForEvaluation(file, {}, progress));
    auto part = boxPart("block", {{1, 2, 4}, {2, 3, 5}});
    addNodeField(part, "temperature", [](const Point& at) { return 300 + at[2]; });
    ASSERT_TRUE(writeCase({part}, file));
    const auto again = openForEvaluation(file, {}, progress);
    ASSERT_TRUE(again);
    EXPECT_NEAR(again->index->parts[0].size, 8, 1e-12);
    EXPECT_FALSE(again->solved->boundaryNamed("base"));
    EXPECT_EQ(again->index->boundaries.size(), 6U) << "its ends, which the file does not name";
}

TEST_F(Opening, AnIndexOfAnotherFileIsNotBelieved) {
    const auto other = std::filesystem::weakly_canonical(folder / "other.vtm");
    auto part = boxPart("block", {{1, 1, 1}, {2, 2, 2}});
    addNodeField(part, "temperature", [](const Point&) { return 300; });
    ASSERT_TRUE(writeCase({part}, other));
    ASSERT_TRUE(openForEvaluation(file, {}, progress));
    ASSERT_TRUE(openForEvaluation(other, {}, progress));
    for (const auto* ending : {".shells", ".index"})
        std::filesystem::copy_file(storePath({other}).replace_extension(ending), beside(ending),
                                   std::filesystem::copy_options::overwrite_existing);
    const auto again = openForEvaluation(file, {}, progress);
    ASSERT_TRUE(again);
    EXPECT_NEAR(again->index->parts[0].size, 6, 1e-12);
}

TEST_F(Opening, ProgressOnlyGrowsAndNamesTheWork) {
    Listener listener;
    ASSERT_TRUE(openForEvaluation(file, {}, listener));
    const auto told = [&](const std::string& words) {
        return std::ranges::any_of(listener.heard,
                                   [&](const std::string& one) { return one.find(words) != std::string::npos; });
    };
    EXPECT_TRUE(told("reading"));
    EXPECT_TRUE(told("outer faces of block"));
    EXPECT_TRUE(told("measuring block"));
    EXPECT_LE(listener.last, 1.0);
}

TEST_F(Opening, CancelBetweenTheStagesKeepsTheFirst) {
    const auto first = openForPicture({{}, file}, {}, progress);
    ASSERT_TRUE(first);
    Listener stopped;
    stopped.stop = true;
    const auto none = measured(*first, stopped);
    ASSERT_FALSE(none);
    EXPECT_TRUE(none.error().cancelled());
    EXPECT_FALSE(std::filesystem::exists(beside(".index")));
    EXPECT_TRUE(measured(*first, progress));
}

// Cells of one kind need no list of where each begins; others do. Both must read the same.
TEST_F(Opening, CellsOfOneKindAndOfSeveralAreReadAlike) {
    for (const auto cells : {Cells::Hexahedra, Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids}) {
        auto part = boxPart("block", {{1, 1, 1}, {2, 2, 2}}, cells);
        addNodeField(part, "temperature", [](const Point&) { return 300; });
        const auto alone = folder / "alone.vtu";
        ASSERT_TRUE(writeBlock(part, alone));
        const auto one = mustOpen(alone);
        EXPECT_TRUE(one.solved->parts[0].mesh.offsets.empty());

        auto mixed = part; // one more cell, of another kind
        const auto node = static_cast<std::uint32_t>(mixed.points.size() / 3);
        mixed.points.insert(mixed.points.end(), {2, 0, 0, 3, 0, 0, 2, 1, 0, 2, 0, 1, 3, 0, 1, 2, 1, 1});
        mixed.connectivity.insert(mixed.connectivity.end(), {node, node + 1, node + 2, node + 3});
        if (cells == Cells::Tetrahedra)
            mixed.connectivity.insert(mixed.connectivity.end(), {node + 4, node + 5});
        mixed.types.push_back(
            static_cast<std::uint8_t>(cells == Cells::Tetrahedra ? CellType::Wedge : CellType::Tetrahedron));
        mixed.offsets.push_back(mixed.connectivity.size());
        mixed.arrays[0].values.resize(mixed.points.size() / 3, 300);
        ASSERT_TRUE(writeBlock(mixed, folder / "mixed.vtu"));
        const auto both = mustOpen(folder / "mixed.vtu");
        const auto& a = one.solved->parts[0].mesh;
        const auto& b = both.solved->parts[0].mesh;
        ASSERT_EQ(b.offsets.size(), b.cells() + 1);
        ASSERT_EQ(b.cells(), a.cells() + 1);
        for (std::size_t cell = 0; cell < a.cells(); ++cell)
            EXPECT_TRUE(std::ranges::equal(a.cell(cell), b.cell(cell))) << cell;
        const double added = cells == Cells::Tetrahedra ? 0.5 : 1.0 / 6;
        EXPECT_NEAR(both.index->parts[0].size, 1 + added, 1e-12);
    }
}

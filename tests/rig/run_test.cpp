// A whole run: files and the history that grows while it runs.
#include "rig/run.h"

#include "core/feedback/csv_rows.h"
#include "tests/support/temp_folder.h"

#include <fstream>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::rig;

namespace {

const char* const block = R"j({"rig": 1, "grid": {"x": {"spacing": 0.02}, "y": {"spacing": 1}, "z": {"spacing": 1}},
    "materials": {"metal": {"conductivity": 50, "density": 8000, "heat_capacity": 500}},
    "boxes": [{"part": "hot, left", "material": "metal", "from": [0, 0, 0], "to": [0.1, 1, 1], "power": "100 W"},
      {"part": "right", "material": "metal", "from": [0.1, 0, 0], "to": [0.2, 1, 1]}],
    "environments": [{"boundary": "air", "temperature": 300, "film_coefficient": 20,
      "faces": [{"side": "+x"}]}] MORE})j";

class Run : public testing::Test {
protected:
    RunOrder order(const std::string& more) {
        std::string text = block;
        text.replace(text.find("MORE"), 4, more);
        std::ofstream(folder / "in.rig.json") << text;
        return {folder / "in.rig.json", folder / "out.vtm", folder / "history.csv"};
    }
    std::vector<CsvRow> history() {
        std::ifstream in(folder / "history.csv");
        const auto rows = parseCsv(std::string((std::istreambuf_iterator<char>(in)), {}));
        EXPECT_TRUE(rows);
        return rows ? *rows : std::vector<CsvRow>();
    }
    test::TempFolder folder;
    NoProgress progress;
};

} // namespace

TEST_F(Run, ATransientLeavesItsStepsAndALineForEach) {
    ASSERT_TRUE(
        run(order(R"j(, "transient": {"start": 300, "duration": 40, "step": 10, "write_every": 2})j"), progress));
    for (const char* name : {"out_0000.vtm", "out_0001.vtm", "out_0002.vtm"})
        EXPECT_TRUE(std::filesystem::exists(folder / name)) << name;
    const auto rows = history();
    ASSERT_EQ(rows.size(), 4U);
    ASSERT_EQ(rows[0].size(), 8U);
    EXPECT_EQ(rows[0][4], "hot, left mean K");
    EXPECT_EQ(rows[1][0], "0");
    EXPECT_EQ(rows[3][0], "40");
    EXPECT_EQ(rows[3][1], "100");
    EXPECT_NEAR(std::stod(rows[3][2]) + std::stod(rows[3][3]), 100, 1e-6) << "what does not leave is stored";
    EXPECT_GE(std::stod(rows[3][5]), std::stod(rows[3][4])) << "the highest is not below the mean";
}

TEST_F(Run, ARefinementLeavesALineForEachGrid) {
    ASSERT_TRUE(run(order(R"j(, "refine": {})j"), progress));
    EXPECT_TRUE(std::filesystem::exists(folder / "out.vtm"));
    const auto rows = history();
    ASSERT_EQ(rows.size(), 3U);
    EXPECT_EQ(rows[1][0], "10");
    EXPECT_EQ(rows[2][0], "20");
    EXPECT_NEAR(std::stod(rows[2][1]), 100, 1e-6);
}

TEST_F(Run, AHistoryThatCannotBeWrittenIsToldBeforeAnythingIsSolved) {
    auto wanted = order("");
    wanted.history = folder / "no such folder" / "h.csv";
    const auto done = run(wanted, progress);
    ASSERT_FALSE(done);
    EXPECT_EQ(done.error().code, ErrorCode::WriteFailed);
    EXPECT_FALSE(std::filesystem::exists(folder / "out.vtm"));
}

// The stage Trust in the real window: a gap between two parts is found, told and gone to; hotspots are pinned and listed.
#include "app/stages/trust_sheet.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

using namespace pyro;
using namespace pyro::test;

namespace {

class TrustWindowTest : public WindowTest {
protected:
    // Two bars with 0.4 mm between them, each warm at its far end.
    void openGap() {
        auto left = boxPart("left", {{0.1, 0.05, 0.05}, {10, 4, 4}});
        auto right = boxPart("right", {{0.1, 0.05, 0.05}, {10, 4, 4}, {0.1004, 0, 0}});
        for (auto* part : {&left, &right})
            addNodeField(*part, "T [K]", [](const Point& at) { return 300 + 500 * std::abs(at[0] - 0.1); });
        ASSERT_TRUE(writeCase({left, right}, folder / "gap.vtm"));
        window->open(QString::fromStdString((folder / "gap.vtm").string()));
        settle();
    }
};

} // namespace

TEST_F(TrustWindowTest, TheGapStandsFirstAndIsGoneTo) {
    openGap();
    type(Qt::Key_2);
    settle();
    EXPECT_EQ(window->session().view().stage, "Trust");
    auto* table = find<QTableView>("checksTable");
    ASSERT_TRUE(table->isVisible());
    int row = 0;
    while (row < table->model()->rowCount() && cell(table, row, "check") != "Parts that lie close together touch")
        ++row;
    ASSERT_LT(row, table->model()->rowCount());
    EXPECT_EQ(cell(table, row, ""), "broken");
    EXPECT_TRUE(cell(table, row, "found").contains("between left and right")) << cell(table, row, "found").toStdString();
    EXPECT_TRUE(find<QLabel>("trustCounts")->text().contains("broken"));
    table->selectRow(row);
    ASSERT_TRUE(window->session().markedPlace());
    EXPECT_NEAR((*window->session().markedPlace())[0], 0.1, 0.002);
    EXPECT_TRUE(find<QLabel>("trustTitle")->text().contains("close together"));
    click(button("showCheck"));
    settle();
    EXPECT_TRUE(window->session().view().isolated);
}

TEST_F(TrustWindowTest, HotspotsAreListedAndMarked) {
    openGap();
    type(Qt::Key_4);
    window->session().addGauge("all");
    auto* statistic = find<QComboBox>("gaugeStatistic");
    statistic->setCurrentIndex(statistic->findData("hotspots"));
    emit statistic->activated(statistic->currentIndex());
    settle();
    auto* spots = find<QTableView>("termsTable");
    ASSERT_TRUE(spots->isVisible());
    ASSERT_EQ(spots->model()->rowCount(), 2) << "one at either end";
    EXPECT_EQ(cell(spots, 0, "part"), "right"); // 0.4 mm further out
    EXPECT_EQ(cell(spots, 1, "part"), "left");
    spots->selectRow(1);
    ASSERT_TRUE(window->session().markedPlace());
    EXPECT_NEAR((*window->session().markedPlace())[0], 0, 1e-9);
}

// The stage Compare: pictures under one camera, what changed as a table, the baseline chosen, the wipe dragged.
#include "app/stages/compare/compare_view.h"
#include "app/stages/compare/sweep_map.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QCheckBox>
#include <QComboBox>
#include <fstream>

using namespace pyro;
using namespace pyro::test;

namespace {

class CompareWindow : public WindowTest {
protected:
    // The same parts on other meshes, the core 20 K cooler.
    void SetUp() override {
        WindowTest::SetUp();
        auto a = boxPart("cold plate", {{0.1, 0.1, 0.01}, {7, 7, 3}}, Cells::Tetrahedra);
        auto b = boxPart("hot core", {{0.02, 0.02, 0.02}, {3, 3, 3}, {0.04, 0.04, 0.01}}, Cells::Wedges);
        addNodeField(a, "T [degC]", [](const Point& at) { return 30 + 200 * at[0]; });
        addNodeField(b, "T [degC]", [](const Point& at) { return 70 + 1000 * (at[2] - 0.01); });
        ASSERT_TRUE(writeCase({a, b}, folder / "cool.vtm"));
        auto json = Json::parse(std::ifstream(survey));
        json["cases"].push_back({{"name", "cooler"}, {"file", "cool.vtm"}, {"parameters", {{"flow", "2 L/min"}}}});
        writeText(survey, json.dump());
        openSurvey();
        type(Qt::Key_6);
        settle();
    }
    CompareView& view() { return *find<CompareView>("compareView"); }
    bool waitFor(std::function<bool()> holds) { return QTest::qWaitFor(std::move(holds), 20000); }
    QTableView* table() { return find<QTableView>("compareTable"); }
    int rowOf(const QString& name) {
        for (int row = 0; row < table()->model()->rowCount(); ++row)
            if (cell(table(), row, "What") == name)
                return row;
        ADD_FAILURE() << "no row " << name.toStdString();
        return 0;
    }
};

} // namespace

TEST_F(CompareWindow, BothCasesAreSeenUnderOneCameraAndRange) {
    ASSERT_EQ(window->session().view().stage, "Compare");
    ASSERT_TRUE(waitFor([&] { return view().panes().size() == 2 && view().panes()[1]->look().picture != nullptr; }));
    auto* first = view().panes()[0];
    auto* second = view().panes()[1];
    EXPECT_EQ(first->look().title, "first");
    EXPECT_EQ(second->look().title, "cooler");
    EXPECT_EQ(first->look().range, second->look().range);
    EXPECT_EQ(second->look().figure, "90.0 \u00b0C");

    const auto before = window->session().view().camera;
    const QPoint middle = second->rect().center();
    QTest::mousePress(second, Qt::LeftButton, {}, middle);
    QTest::mouseMove(second, middle + QPoint(60, 20));
    QTest::mouseRelease(second, Qt::LeftButton, {}, middle + QPoint(60, 20));
    EXPECT_NE(window->session().view().camera, before);
    for (std::size_t axis = 0; axis < 3; ++axis)
        EXPECT_NEAR(first->camera().position[axis], second->camera().position[axis], 1e-9) << "they turn together";
}

TEST_F(CompareWindow, TheKeysOfTheViewMoveAllPictures) {
    ASSERT_TRUE(waitFor([&] { return view().panes().size() == 2 && view().panes()[1]->look().picture != nullptr; }));
    const auto before = view().panes()[1]->camera();
    type(Qt::Key_X);
    EXPECT_NE(view().panes()[1]->camera(), before);
    EXPECT_NEAR(view().panes()[0]->camera().position[1], view().panes()[0]->camera().focus[1], 1e-9) << "along x";
    EXPECT_NEAR(view().panes()[1]->camera().scale, view().panes()[0]->camera().scale, 1e-9);
}

TEST_F(CompareWindow, TheMouseTellsTheValueInEveryPicture) {
    ASSERT_TRUE(waitFor([&] { return view().panes().size() == 2 && view().panes()[1]->look().picture != nullptr; }));
    auto* first = view().panes()[0];
    const auto core = first->pixelOf({0.05, 0.05, 0.03}); // its top, 110 and 90 degC
    QTest::mouseMove(first, core.toPoint());
    EXPECT_TRUE(waitFor([&] { return !first->reading().isEmpty(); }));
    EXPECT_EQ(first->reading(), "110.0 \u00b0C");
    EXPECT_EQ(view().panes()[1]->reading(), "90.0 \u00b0C");
}

TEST_F(CompareWindow, TheTableTellsWhatChanged) {
    const auto row = rowOf("Core, max");
    EXPECT_EQ(cell(table(), row, "first"), "110.0 \u00b0C");
    EXPECT_EQ(cell(table(), row, "cooler"), "90.0 \u00b0C");
    EXPECT_EQ(cell(table(), row, "Difference"), "-20.0 K");
    EXPECT_EQ(table()->model()->index(row, table()->model()->columnCount() - 1).data().toString(), "within, was over");
    pick("baselineBox", "cooler");
    EXPECT_EQ(window->session().survey().compare->baseline, "cooler");
    EXPECT_EQ(cell(table(), rowOf("hot core, max"), "Difference"), "+20.0 K") << "named as the baseline names it";
    EXPECT_EQ(rowOf("hot core, max"), 0) << "it got worse";
    trigger("undo");
    EXPECT_FALSE(window->session().survey().compare);
}

TEST_F(CompareWindow, TheDifferenceHasItsOwnScale) {
    click(button("showDifference"));
    ASSERT_TRUE(waitFor([&] {
        return view().panes().size() == 2 && view().panes()[1]->look().isDifference &&
               view().panes()[1]->look().picture != nullptr;
    }));
    const auto& look = view().panes()[1]->look();
    EXPECT_EQ(look.title, "cooler \u2212 first");
    EXPECT_NEAR(look.range[0], -20, 1e-4);
    EXPECT_NEAR(look.range[1], 20, 1e-4) << "zero in the middle";
    EXPECT_TRUE(look.figure.startsWith("-20.0 K")) << look.figure.toStdString();
    const auto core = view().panes()[1]->pixelOf({0.05, 0.05, 0.03});
    QTest::mouseMove(view().panes()[1], core.toPoint());
    EXPECT_TRUE(waitFor([&] { return view().panes()[1]->reading() == "-20.0 K"; }))
        << view().panes()[1]->reading().toStdString();
}

TEST_F(CompareWindow, AWipeIsDraggedAndStays) {
    click(button("showWipe"));
    ASSERT_TRUE(waitFor([&] { return view().panes().size() == 2; }));
    auto* handle = find<QWidget>("wipeHandle");
    ASSERT_TRUE(handle->isVisible());
    EXPECT_NEAR(handle->x() + 3, view().width() / 2, 2);
    const QPoint middle = handle->rect().center();
    QTest::mousePress(handle, Qt::LeftButton, {}, middle);
    QTest::mouseMove(handle, middle - QPoint(100, 0));
    QTest::mouseRelease(handle, Qt::LeftButton, {}, middle - QPoint(100, 0));
    EXPECT_TRUE(waitFor([&] { return window->session().view().compare.wipe < 0.45; }));
    EXPECT_NEAR(handle->x() + 3, window->session().view().compare.wipe * view().width(), 2);
}

TEST_F(CompareWindow, AVariantIsLeftOutOfThePictures) {
    ASSERT_TRUE(waitFor([&] { return view().panes().size() == 2; }));
    QCheckBox* tick = nullptr;
    for (auto* one : window->findChildren<QCheckBox*>())
        if (one->accessibleName() == "variant cooler")
            tick = one;
    ASSERT_NE(tick, nullptr);
    QTest::mouseClick(tick, Qt::LeftButton, {}, QPoint(6, tick->height() / 2));
    EXPECT_TRUE(waitFor([&] { return view().panes().size() == 1; }));
    EXPECT_EQ(cell(table(), rowOf("Core, max"), "cooler"), "90.0 \u00b0C") << "the table goes on comparing it";
    trigger("undo");
    EXPECT_TRUE(waitFor([&] { return view().panes().size() == 2; }));
}

TEST_F(CompareWindow, MeasuredDataAndASweepHaveTheirTables) {
    writeText(folder / "tc.csv", "name,x [mm],y [mm],z [mm],value [degC]\ntop,50,50,30,112\nnowhere,500,500,500,20\n");
    std::filesystem::copy(folder / "pair.vtm", folder / "pair3.vtm");
    std::filesystem::copy(folder / "cool.vtm", folder / "cool3.vtm");
    writeText(folder / "sweep.csv",
              "file,flow [L/min],plate [mm]\npair.vtm,1,2\ncool.vtm,2,2\npair3.vtm,1,3\ncool3.vtm,2,3\n");
    auto json = Json::parse(std::ifstream(survey));
    json["measured"] = {{{"id", "tc"}, {"file", "tc.csv"}, {"case", "first"}}};
    json["sweep"] = {{"table", "sweep.csv"}, {"like", "first"}};
    json["cases"][1].erase("parameters");
    json["view"]["stage"] = "Compare";
    writeText(folder / "more.survey.json", json.dump());
    survey = folder / "more.survey.json";
    openSurvey();
    click(button("measuredTableTab"));
    auto* measured = find<QTableView>("measuredTable");
    ASSERT_TRUE(waitFor([&] { return measured->model()->rowCount() == 2; }));
    EXPECT_EQ(cell(measured, 0, "Deviation"), "-2.0 K");
    EXPECT_EQ(cell(measured, 1, "Deviation"), "unknown") << "it lies outside, which is said";
    click(button("sweepTableTab"));
    auto* sweep = find<QTableView>("sweepTable");
    ASSERT_TRUE(waitFor([&] { return sweep->model()->rowCount() == 4; }));
    EXPECT_EQ(cell(sweep, 1, "Verdict"), "within");
    EXPECT_EQ(cell(sweep, 0, "Verdict"), "over");
    auto* map = find<SweepMap>("sweepMap");
    ASSERT_TRUE(map->map());
    EXPECT_EQ(map->map()->x, "flow");
    EXPECT_NEAR(map->map()->at(1, 2), -10, 1e-6);
    EXPECT_NEAR(map->map()->at(1.5, 2.5), (-10 + 10) / 2.0, 1e-6) << "between the cases";
    ASSERT_FALSE(map->map()->zeroLine().empty());
    EXPECT_NEAR(map->map()->zeroLine()[0][0][0], 1.5, 1e-6) << "where the limit is met";
}

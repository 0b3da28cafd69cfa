// What a key did, or why it did nothing; one range for all cases; what is stated of a case and its materials.
#include "app/session/dialogs.h"
#include "core/survey/survey_file.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QComboBox>
#include <QTableView>

using namespace pyro;
using namespace pyro::test;

namespace {

class FeedbackTest : public WindowTest {
protected:
    QString told() { return window->viewport().notice().text(); }
    // A second case of the same parts, hotter by 40 K.
    void writeHotter() {
        const BoxMesh plate{{0.1, 0.1, 0.01}, {10, 10, 2}};
        const BoxMesh core{{0.02, 0.02, 0.02}, {4, 4, 4}, {0.04, 0.04, 0.01}};
        auto a = boxPart("cold plate", plate);
        auto b = boxPart("hot core", core);
        addNodeField(a, "T [degC]", [](const Point& at) { return 70 + 200 * at[0]; });
        addNodeField(b, "T [degC]", [](const Point& at) { return 130 + 1000 * (at[2] - 0.01); });
        ASSERT_TRUE(writeCase({a, b}, folder / "hotter.vtm"));
    }
};

} // namespace

TEST_F(FeedbackTest, EveryKeySaysWhatItDid) {
    openSurvey();
    type(Qt::Key_A);
    EXPECT_EQ(told(), "All parts are shown already");
    window->session().selection().selectPart("hot core");
    type(Qt::Key_H);
    EXPECT_NE(told().indexOf("Hidden: Core"), -1) << told().toStdString();
    EXPECT_TRUE(window->viewport().notice().isVisible());
    type(Qt::Key_V);
    EXPECT_NE(told().indexOf("Kept as viewpoint"), -1) << told().toStdString();
    type(Qt::Key_Period);
    EXPECT_EQ(told(), "This case has one step");
    type(Qt::Key_N, Qt::ShiftModifier);
    EXPECT_EQ(told(), "No reading is pinned");
    type(Qt::Key_Up, Qt::ControlModifier);
    EXPECT_NE(told().indexOf("No section is chosen"), -1) << told().toStdString();
    type(Qt::Key_C);
    settle();
    type(Qt::Key_Up, Qt::ControlModifier);
    EXPECT_NE(told().indexOf("Section forward by"), -1) << told().toStdString();
    EXPECT_NE(told().indexOf("cold plate"), -1) << "and where it is: " << told().toStdString();
    type(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(told().indexOf("Undone: "), 0) << told().toStdString();
    type(Qt::Key_I);
    EXPECT_EQ(told(), "Show isotherms");
    ASSERT_TRUE(QTest::qWaitFor([&] { return !window->viewport().notice().isVisible(); }, 20000)) << "it fades";
}

// Without a range of its own the strip spans both cases, whichever is looked at; the button gives each its own.
TEST_F(FeedbackTest, OneRangeIsForAllCases) {
    writeHotter();
    openSurvey();
    EXPECT_FALSE(button("commonRange")->isVisible()) << "one case, one step";
    window->open(QString::fromStdString((folder / "hotter.vtm").string()));
    settle();
    ASSERT_TRUE(button("commonRange")->isVisible());
    EXPECT_TRUE(button("commonRange")->isChecked());
    const auto range = [&] { return *shownRange(window->session().seen()); };
    EXPECT_NEAR(range()[0] - 273.15, 30, 0.1);
    EXPECT_NEAR(range()[1] - 273.15, 150, 0.1);
    auto view = window->session().view();
    view.caseName = "first";
    window->session().editView("Choose case", view);
    settle();
    EXPECT_NEAR(range()[1] - 273.15, 150, 0.1) << "a colour means the same on the other case";
    click(button("commonRange"));
    settle();
    EXPECT_NEAR(range()[1] - 273.15, 110, 0.1);
    click(button("commonRange"));
    EXPECT_NEAR(range()[1] - 273.15, 150, 0.1);
}

TEST_F(FeedbackTest, ASymmetryFactorAndANewMaterialAreTyped) {
    openSurvey();
    type(Qt::Key_1);
    fill("symmetryFactor", "4");
    settle();
    EXPECT_EQ(window->session().survey().cases[0].symmetry, 4);
    EXPECT_EQ(window->session().activeCase()->readings->symmetry, 4);
    fill("symmetryFactor", "half");
    EXPECT_NE(window->message().indexOf("symmetry factor"), -1);
    EXPECT_EQ(window->session().survey().cases[0].symmetry, 4);
    click(button("newMaterial"));
    auto* table = find<QTableView>("materialsTable");
    ASSERT_EQ(table->model()->rowCount(), 1);
    EXPECT_TRUE(table->isVisible());
    enter(table, 0, "Material", "glycol");
    enter(table, 0, "Viscosity", "0.0012");
    ASSERT_TRUE(window->session().survey().materials.contains("glycol"));
    EXPECT_NEAR(window->session().survey().materials.at("glycol").viscosity->si, 0.0012, 1e-12);
    EXPECT_EQ(cell(table, 0, "Viscosity"), "0.0012 Pa.s");
}

// Surfaces in the colours of their materials have a legend; without it the picture is another one.
TEST_F(FeedbackTest, MaterialsHaveALegend) {
    openSurvey();
    auto view = window->session().view();
    view.field.isotherms.ground = Ground::Materials;
    window->session().editView("Ground", view);
    settle();
    const auto picture = window->viewport().picture();
    const auto tone = materialTone(materialGroups(window->session().seen())[0]);
    const QColor wanted = QColor::fromRgbF(static_cast<float>(tone[0]), static_cast<float>(tone[1]),
                                           static_cast<float>(tone[2]));
    int found = 0; // swatches in the upper right corner
    for (int y = 10; y < 60; ++y)
        for (int x = picture.width() - 200; x < picture.width() - 20; ++x)
            found += (picture.pixel(x, y) & 0xFFFFFF) == (wanted.rgb() & 0xFFFFFF) ? 1 : 0;
    EXPECT_GE(found, 100) << "a swatch of 12 x 10 pixels";
}

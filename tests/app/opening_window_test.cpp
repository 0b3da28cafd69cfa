// The opening in the real window: start page, folders, rows and faces, cells from a spreadsheet, boundaries divided and
// joined.
#include "app/session/dialogs.h"
#include "app/session/folder_dialog.h"
#include "app/stages/start_page.h"
#include "core/survey/edit.h"
#include "core/survey/survey_file.h"
#include "tests/app/window_fixture.h"
#include "tests/support/meshes.h"

#include <QApplication>
#include <QClipboard>
#include <QComboBox>
#include <QDialogButtonBox>
#include <QTableView>
#include <QToolButton>
#include <QTreeWidget>

using namespace pyro;
using namespace pyro::test;

namespace {

class OpeningWindowTest : public WindowTest {
protected:
    void openCase(const std::string& file) {
        dialogs::answerNextFile(QString::fromStdString((folder / file).string()));
        trigger("openCase");
        settle();
    }
    void writeBar(const std::string& name) {
        auto bar = boxPart("bar", {{0.1, 0.02, 0.02}, {10, 4, 4}});
        addNodeField(bar, "T [degC]", [](const Point& at) { return 120 - 1000 * at[0]; });
        ASSERT_TRUE(writeBlock(bar, folder / name));
    }
    std::vector<std::string> boundaries() const {
        std::vector<std::string> names;
        for (const auto& one : window->session().activeCase()->opened->solved->boundaries)
            names.push_back(one.name);
        return names;
    }
};

} // namespace

TEST_F(OpeningWindowTest, TheStartPageOffersWhatWasOpenLately) {
    auto* page = find<StartPage>("startPage");
    ASSERT_TRUE(page->isVisible());
    EXPECT_TRUE(page->findChildren<QToolButton*>("startTile").isEmpty()) << "nothing was open yet";
    openSurvey();
    EXPECT_FALSE(page->isVisible());
    trigger("newSurvey");
    ASSERT_TRUE(page->isVisible());
    const auto tiles = page->findChildren<QToolButton*>("startTile");
    ASSERT_EQ(tiles.size(), 1);
    EXPECT_FALSE(tiles.front()->icon().isNull());
    QTest::mouseClick(tiles.front(), Qt::LeftButton);
    settle();
    EXPECT_FALSE(page->isVisible());
    EXPECT_EQ(window->session().file().toStdString(), survey.string());
}

TEST_F(OpeningWindowTest, AFolderListsItsCasesAndOpensSeveral) {
    std::filesystem::create_directories(folder / "runs");
    writeBar("runs/a.vtu");
    writeBar("runs/b.vtu");
    writeText(folder / "runs/words.txt", "none");
    dialogs::answerNextFile(QString::fromStdString((folder / "runs").string()));
    click(button("startFolder"));
    auto* dialog = find<FolderDialog>("folderDialog");
    ASSERT_NE(dialog, nullptr);
    auto* list = dialog->findChild<QTreeWidget*>("folderList");
    ASSERT_EQ(list->topLevelItemCount(), 2);
    auto* open = dialog->findChild<QDialogButtonBox*>()->button(QDialogButtonBox::Open);
    EXPECT_FALSE(open->isEnabled()) << "nothing is ticked";
    for (int row = 0; row < 2; ++row)
        list->topLevelItem(row)->setCheckState(0, Qt::Checked);
    EXPECT_EQ(open->text(), "Open 2 cases");
    QTest::mouseClick(open, Qt::LeftButton);
    ASSERT_TRUE(QTest::qWaitFor([&] { return window->session().survey().cases.size() == 2; }, 20000));
    settle();
}

TEST_F(OpeningWindowTest, ARowLightsItsFacesAndAFaceItsRow) {
    writeBar("bar.vtu");
    openCase("bar.vtu");
    trigger("stageCases");
    window->session().selection().selectBoundary("z max");
    EXPECT_EQ(window->session().litBoundaries().size(), 1U);
    auto* rows = find<QTableView>("boundariesTable");
    EXPECT_TRUE(rows->isVisible());
    EXPECT_EQ(cell(rows, rows->currentIndex().row(), "Boundary"), "z max");
    QTest::mouseMove(rows->viewport(), rows->visualRect(rows->model()->index(0, 0)).center());
    QTest::mouseMove(rows->viewport(), rows->visualRect(rows->model()->index(1, 0)).center());
    QApplication::processEvents();
    EXPECT_EQ(window->session().litBoundaries().size(), 2U) << "the chosen one and the one pointed at";
    trigger("stageField");
    EXPECT_TRUE(window->session().litBoundaries().empty()) << "only where faces are named";
}

TEST_F(OpeningWindowTest, CellsOfASpreadsheetAreOneStep) {
    openSurvey();
    trigger("stageCases");
    auto* parts = find<QTableView>("partsTable");
    const int power = columnOf(parts, "Power");
    const auto first = cell(parts, 0, "Part");
    const auto second = cell(parts, 1, "Part");
    const auto before = std::pair(cell(parts, 0, "Power"), cell(parts, 1, "Power"));
    parts->setCurrentIndex(parts->model()->index(0, power));
    QApplication::clipboard()->setText(second + "\t7 W\r\n" + first + "\t250 mW\r\n");
    parts->setFocus();
    QTest::keyClick(parts, Qt::Key_V, Qt::ControlModifier);
    settle();
    EXPECT_EQ(cell(parts, 0, "Power"), "250 mW") << "by their names, in any order";
    EXPECT_EQ(cell(parts, 1, "Power"), "7 W");
    trigger("undo");
    settle();
    EXPECT_EQ(cell(parts, 0, "Power"), before.first);
    EXPECT_EQ(cell(parts, 1, "Power"), before.second);
    QApplication::clipboard()->setText("1 W\n2 W\n3 W");
    QTest::keyClick(parts, Qt::Key_V, Qt::ControlModifier);
    settle();
    EXPECT_EQ(cell(parts, 0, "Power"), "1 W") << "a column, from the chosen cell on";
    EXPECT_EQ(cell(parts, 1, "Power"), "2 W");
}

TEST_F(OpeningWindowTest, BoundariesAreJoinedAndTheSurveyKeepsIt) {
    writeBar("bar.vtu");
    openCase("bar.vtu");
    trigger("stageCases");
    window->session().selection().selectBoundary("x max");
    pick("joinFace", "y max");
    settle();
    auto names = boundaries();
    EXPECT_EQ(std::ranges::count(names, "x max + y max"), 1);
    EXPECT_EQ(std::ranges::count(names, "x max"), 0);
    EXPECT_EQ(window->session().selection().selectedBoundary(), "x max + y max");
    dialogs::answerNextText("45 deg"); // at the edge between them
    click(button("divideFace"));
    settle();
    dialogs::answerNextFile(QString::fromStdString((folder / "kept.survey.json").string()));
    trigger("save");
    const auto kept = loadSurvey(folder / "kept.survey.json");
    ASSERT_TRUE(kept);
    EXPECT_EQ(kept->cases[0].split.joins.size(), 1U);
    click(button("undivideFaces"));
    settle();
    names = boundaries();
    EXPECT_EQ(names.size(), 6U);
}

namespace {

// 6 x 4 quadrangles over rows of seven nodes.
std::vector<std::uint32_t> plateCells() {
    std::vector<std::uint32_t> out;
    for (std::uint32_t j = 0; j < 4; ++j)
        for (std::uint32_t i = 0; i < 6; ++i) {
            const std::uint32_t first = i + 7 * j;
            out.insert(out.end(), {first, first + 1, first + 8, first + 7});
        }
    return out;
}

} // namespace

// A plane case is seen across its plane, its edges are chosen by a click beside them, its depth is entered in one step.
TEST_F(OpeningWindowTest, APlaneCaseShowsItsEdgesAndTakesADepth) {
    BlockData plate;
    plate.name = "plate";
    for (int j = 0; j <= 4; ++j)
        for (int i = 0; i <= 6; ++i)
            plate.points.insert(plate.points.end(), {0.01 * i, 0.01 * j, 0.0});
    plate.connectivity = plateCells();
    for (std::size_t cell = 1; cell <= 24; ++cell) {
        plate.offsets.push_back(4 * cell);
        plate.types.push_back(static_cast<std::uint8_t>(CellType::Quad));
    }
    addNodeField(plate, "T", [](const Point& at) { return 300 + 1000 * at[0]; });
    ASSERT_TRUE(writeBlock(plate, folder / "plate.vtu"));
    openCase("plate.vtu");
    trigger("stageCases");
    auto* rows = find<QTableView>("boundariesTable");
    ASSERT_EQ(rows->model()->rowCount(), 4);
    auto& view = window->viewport();
    const auto corner = view.pixelOf({0.06, 0, 0});
    const auto middle = view.pixelOf({0.06, 0.02, 0});
    EXPECT_NEAR(corner.x(), middle.x(), 1) << "x to the right, y upwards";
    EXPECT_GT(corner.y(), middle.y() + 20);
    QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, (middle + QPointF(3, 0)).toPoint()); // beside the plate
    EXPECT_EQ(window->session().litBoundaries().size(), 1U);
    EXPECT_EQ(cell(rows, rows->currentIndex().row(), "Boundary"), "x max");
    EXPECT_EQ(cell(rows, rows->currentIndex().row(), "Length"), "4 cm");
    QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, view.pixelOf({0.03, 0.02, 0}).toPoint()); // amid it
    EXPECT_TRUE(window->session().litBoundaries().empty());
    fill("depth", "12");
    settle();
    EXPECT_EQ(window->session().survey().cases[0].depth->text, "12 mm");
    const auto& plane = window->session().activeCase()->opened->solved->plane;
    ASSERT_TRUE(plane);
    EXPECT_NEAR(plane->depth, 0.012, 1e-12);
    EXPECT_TRUE(plane->given);
    trigger("undo");
    settle();
    EXPECT_FALSE(window->session().activeCase()->opened->solved->plane->given);
}

// A bent sheet has an area only until its thickness is entered in the table of parts; then it has a volume and sides.
TEST_F(OpeningWindowTest, AShellTakesAThickness) {
    BlockData sheet;
    sheet.name = "sheet";
    for (int j = 0; j <= 4; ++j)
        for (int i = 0; i <= 6; ++i)
            sheet.points.insert(sheet.points.end(), {i < 3 ? 0.01 * i : 0.03, 0.01 * j, i < 3 ? 0.0 : 0.01 * (i - 3)});
    sheet.connectivity = plateCells();
    for (std::size_t cell = 1; cell <= 24; ++cell) {
        sheet.offsets.push_back(4 * cell);
        sheet.types.push_back(static_cast<std::uint8_t>(CellType::Quad));
    }
    addNodeField(sheet, "T", [](const Point& at) { return 300 + 1000 * (at[0] + at[2]); });
    ASSERT_TRUE(writeBlock(sheet, folder / "sheet.vtu"));
    openCase("sheet.vtu");
    trigger("stageCases");
    auto* parts = find<QTableView>("partsTable");
    EXPECT_EQ(cell(parts, 0, "Area"), "24 cm\u00b2");
    enter(parts, 0, "Thickness", "1.5");
    settle();
    EXPECT_EQ(window->session().survey().cases[0].parts.at("sheet").thickness->text, "1.5 mm");
    EXPECT_EQ(cell(parts, 0, "Thickness"), "1.5 mm");
    EXPECT_EQ(cell(parts, 0, "Volume"), "3.6 cm\u00b3");
    EXPECT_EQ(find<QTableView>("boundariesTable")->model()->rowCount(), 8)
        << "two sides of two flanges each, two ends, two edges of the whole length";
    trigger("undo");
    settle();
    EXPECT_EQ(cell(parts, 0, "Area"), "24 cm\u00b2");
}

// What was guessed of an unknown grid is corrected where it is told: another array divides it, other edges divide its
// faces.
TEST_F(OpeningWindowTest, GuessesAreCorrectedInOneStepEach) {
    auto bar = boxPart("bar", {{0.1, 0.02, 0.02}, {4, 2, 2}});
    addNodeField(bar, "T [degC]", [](const Point& at) { return 120 - 1000 * at[0]; });
    ASSERT_TRUE(writeBlock(bar, folder / "bar.vtu", Encoding::Ascii));
    auto text = readText(folder / "bar.vtu"); // the writer knows real numbers only
    std::string numbers;
    for (int cell = 0; cell < 16; ++cell)
        numbers += std::to_string(cell % 4 / 2) + " ";
    const auto array = [&](const char* name, const std::string& values) {
        return std::string(R"(<DataArray type="Int32" Name=")") + name + R"(" format="ascii">)" + values +
               "</DataArray>";
    };
    const auto at = text.find("<CellData>");
    ASSERT_NE(at, std::string::npos);
    text.insert(at + 10, array("layer", numbers) + array("material", std::string("1 1 1 1 1 1 1 1 2 2 2 2 2 2 2 2")));
    writeText(folder / "bar.vtu", text);
    openCase("bar.vtu");
    trigger("stageCases");
    auto* by = find<QComboBox>("partsBy");
    ASSERT_TRUE(by->isVisible());
    ASSERT_EQ(by->count(), 3);
    EXPECT_EQ(by->currentText(), "material");
    pick("partsBy", "layer");
    settle();
    const auto parts = [&] { return window->session().activeCase()->opened->solved->parts; };
    ASSERT_EQ(parts().size(), 2U);
    EXPECT_EQ(parts()[0].name, "layer 0");
    pick("partsBy", "nothing");
    settle();
    EXPECT_EQ(parts().size(), 1U);
    EXPECT_EQ(boundaries().size(), 6U);
    fill("edgeAngle", "100");
    settle();
    EXPECT_EQ(boundaries().size(), 1U) << "no edge of a box is sharper";
    trigger("undo");
    settle();
    EXPECT_EQ(boundaries().size(), 6U);
}

// A file that is open already is another case when it is opened again: what is entered for one is not read on the
// other.
TEST_F(OpeningWindowTest, OneFileAsTwoCasesWithMaterialsOfTheirOwn) {
    writeBar("bar.vtu");
    openCase("bar.vtu");
    openCase("bar.vtu");
    auto& session = window->session();
    ASSERT_EQ(session.survey().cases.size(), 2U);
    auto survey = session.survey();
    for (std::size_t at = 0; at < 2; ++at)
        survey = *withPartField(survey, survey.cases[at].name, "bar", PartNoteField::Material,
                                at == 0 ? "copper" : "silicon");
    survey.gauges =
        surveyFromJson(
            Json::parse(
                R"({"pyrometer": 1, "gauges": [{"id": "Q", "where": {"boundary": "x max"}, "quantity": "heat_flux",
                  "statistic": "integral"}]})"),
            "test")
            ->gauges;
    session.edit("Materials", survey);
    settle();
    std::vector<double> conductivity;
    std::vector<double> heat;
    for (const auto& entry : session.survey().cases) {
        const auto* state = session.stateOf(entry);
        ASSERT_NE(state, nullptr);
        ASSERT_TRUE(state->readings);
        ASSERT_EQ(state->readings->gauges.size(), 1U);
        heat.push_back(state->readings->gauges[0].value.value_or(0));
        conductivity.push_back(session.survey().materials.at(entry.parts.at("bar").material).conductivity->si);
    }
    ASSERT_NE(conductivity[0], conductivity[1]);
    EXPECT_NEAR(heat[0] / heat[1], conductivity[0] / conductivity[1], 1e-6);
}

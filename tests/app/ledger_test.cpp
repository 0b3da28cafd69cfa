// The tables under the heat strip: what stands in them, what is typed into them, and what a click on a row does.
#include "app/ledger/ledger.h"
#include "app/stages/limits/limits_page.h"
#include "app/stages/rail.h"
#include "tests/app/window_fixture.h"

#include <QClipboard>
#include <QComboBox>
#include <QListWidget>

using namespace pyro;
using namespace pyro::test;

namespace {

class LedgerTest : public WindowTest {
protected:
    void press(QTableView* table, int row, int column = 0) {
        QTest::mouseClick(table->viewport(), Qt::LeftButton, {},
                          table->visualRect(table->model()->index(row, column)).center());
    }
    // Opens a cell's list of choices and takes or types one.
    void choose(QTableView* table, int row, const QString& column, const QString& choice) {
        const auto index = table->model()->index(row, columnOf(table, column));
        table->scrollTo(index);
        QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, table->visualRect(index).center());
        table->edit(index);
        const QPointer<QComboBox> box = table->viewport()->findChild<QComboBox*>();
        ASSERT_NE(box, nullptr) << "the cell offers no choices";
        box->setCurrentText(choice);
        QTest::keyClick(box, Qt::Key_Return);
        ASSERT_TRUE(QTest::qWaitFor([&] { return box.isNull(); }, 3000));
    }
    QTableView* tab(const QString& name) {
        click(button(name + "Tab"));
        return find<QTableView>(name);
    }
};

} // namespace

TEST_F(LedgerTest, EveryPlaceHasItsTemperaturesAndSaysWhereItIsHottest) {
    openSurvey();
    auto* table = find<QTableView>("readingsTable");
    ASSERT_TRUE(table->isVisible());
    ASSERT_EQ(table->model()->rowCount(), 3);
    EXPECT_EQ(cell(table, 0, "Place"), "cold plate");
    EXPECT_EQ(cell(table, 0, "Lowest \u00b0C"), "30.0");
    EXPECT_EQ(cell(table, 0, "Mean \u00b0C"), "40.0");
    EXPECT_EQ(cell(table, 0, "Highest \u00b0C"), "50.0");
    EXPECT_TRUE(cell(table, 0, "Highest at x y z").startsWith("100.0")) << "the plate is hottest at its far end";
    EXPECT_EQ(cell(table, 0, "Note"), "stored on nodes");
    EXPECT_EQ(cell(table, 1, "Place"), "Core");
    EXPECT_EQ(cell(table, 1, "Type"), "part");
    EXPECT_TRUE(cell(table, 1, "Highest at x y z").endsWith("30.0 mm"));
    EXPECT_EQ(cell(table, 2, "Place"), "base");
    EXPECT_EQ(cell(table, 2, "Type"), "boundary");
    EXPECT_EQ(cell(table, 2, "Mean \u00b0C"), "40.0") << "the base has no array of its own: the part behind it is read";
}

TEST_F(LedgerTest, ARowChoosesItsPartOrSection) {
    openSurvey();
    auto* table = find<QTableView>("readingsTable");
    press(table, 1);
    EXPECT_EQ(window->session().selection().selectedPart(), "hot core");
    press(table, 0);
    EXPECT_EQ(window->session().selection().selectedPart(), "cold plate");
    trigger("addSection");
    settle();
    ASSERT_EQ(table->model()->rowCount(), 4);
    EXPECT_EQ(cell(table, 0, "Type"), "section");
    EXPECT_TRUE(cell(table, 0, "Note").contains("cm\u00b2"));
    window->session().selection().selectSection(std::nullopt);
    press(table, 1); // the parts moved down by one row
    EXPECT_EQ(window->session().selection().selectedPart(), "cold plate");
    press(table, 0);
    EXPECT_EQ(window->session().selection().selectedSection(), std::optional<std::size_t>(0));
}

TEST_F(LedgerTest, ATableIsCopiedWithItsHeadings) {
    openSurvey();
    for (auto* one : window->findChildren<QPushButton*>())
        if (one->accessibleName() == "copyTable" && one->isVisible())
            click(one);
    const auto lines = QApplication::clipboard()->text().split('\n', Qt::SkipEmptyParts);
    ASSERT_EQ(lines.size(), 4);
    EXPECT_TRUE(lines[0].startsWith("Place\tType\tLowest \u00b0C\tMean \u00b0C\tHighest \u00b0C"));
    EXPECT_TRUE(lines[2].startsWith("Core\tpart\t90.0\t100.0\t110.0"));
    for (const auto& line : lines)
        EXPECT_EQ(line.count('\t'), lines[0].count('\t'));
}

TEST_F(LedgerTest, BoundariesAreLabelledGivenARoleAndKnowTheirPart) {
    openSurvey();
    trigger("stageCases");
    auto* table = tab("boundariesTable");
    ASSERT_TRUE(table->isVisible());
    ASSERT_EQ(table->model()->rowCount(), 12) << "the one of the file first, then those made of what it leaves";
    EXPECT_EQ(cell(table, 0, "Boundary"), "base");
    EXPECT_EQ(cell(table, 0, "Area"), "100 cm\u00b2");
    EXPECT_EQ(cell(table, 0, "Faces"), "100");
    EXPECT_EQ(cell(table, 0, "Part"), "cold plate");
    enter(table, 0, "Label", "Mounting face");
    choose(table, 0, "Kind", "wall");
    const auto note = window->session().survey().cases[0].boundaries.at("base");
    EXPECT_EQ(note.label, "Mounting face");
    EXPECT_EQ(note.kind, "wall");
    trigger("undo");
    EXPECT_EQ(cell(table, 0, "Kind"), "");
    EXPECT_EQ(cell(table, 0, "Label"), "Mounting face");
}

TEST_F(LedgerTest, PartsGetRoleAndMaterialFromTheirLists) {
    openSurvey();
    trigger("stageCases");
    auto* table = find<QTableView>("partsTable");
    EXPECT_EQ(cell(table, 0, "Volume"), "100 cm\u00b3");
    EXPECT_EQ(cell(table, 0, "Extent"), "100 x 100 x 10 mm");
    EXPECT_EQ(cell(table, 0, "Cells"), "200");
    choose(table, 0, "Kind", "solid");
    EXPECT_EQ(window->session().survey().cases[0].parts.at("cold plate").kind, "solid");
    choose(table, 0, "Material", "aluminium 6060"); // typed: it is not in the list yet
    EXPECT_EQ(window->session().survey().cases[0].parts.at("cold plate").material, "aluminium 6060");
    ASSERT_TRUE(window->session().survey().materials.contains("aluminium 6060"))
        << "a new material can be described at once";
    auto* materials = tab("materialsTable");
    ASSERT_EQ(materials->model()->rowCount(), 1);
    enter(materials, 0, "Conductivity", "200 W/(m.K)");
    enter(materials, 0, "Density", "2.7 g/cm3");
    EXPECT_EQ(cell(materials, 0, "Conductivity"), "200 W/(m.K)");
    EXPECT_NEAR(window->session().survey().materials.at("aluminium 6060").density->si, 2700, 1e-6);
    enter(materials, 0, "Heat capacity", "0.9 kJ/kg"); // the kelvin is missing
    EXPECT_TRUE(window->message().contains("J/(kg.K)")) << window->message().toStdString();
    EXPECT_FALSE(window->session().survey().materials.at("aluminium 6060").heatCapacity);
}

TEST_F(LedgerTest, ArraysAreListedWithUnitRankAndRange) {
    openSurvey();
    trigger("stageCases");
    auto* table = tab("quantitiesTable");
    ASSERT_EQ(table->model()->rowCount(), 1);
    EXPECT_EQ(cell(table, 0, "Array"), "T [degC]");
    EXPECT_EQ(cell(table, 0, "Quantity"), "temperature");
    EXPECT_EQ(cell(table, 0, "Stored on"), "nodes");
    EXPECT_EQ(cell(table, 0, "Rank"), "scalar");
    EXPECT_EQ(cell(table, 0, "Lowest"), "30.0 \u00b0C");
    choose(table, 0, "Quantity", "pressure"); // degC is no pressure
    EXPECT_FALSE(window->message().isEmpty());
    EXPECT_EQ(cell(table, 0, "Quantity"), "temperature");
    choose(table, 0, "Quantity", "");
    settle();
    EXPECT_EQ(cell(table, 0, "Quantity"), "as stored");
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "2 unknown") << "without a temperature nothing can be judged";
    auto* remarks = tab("remarksTable");
    bool told = false;
    for (int row = 0; row < remarks->model()->rowCount(); ++row)
        told = told || cell(remarks, row, "Remark").contains("temperature");
    EXPECT_TRUE(told);
    trigger("undo");
    settle();
    EXPECT_EQ(find<QLabel>("verdictSummary")->text(), "1 over, 1 within");
}

TEST_F(LedgerTest, WrongUnitsAreRefusedAndTheTableStays) {
    openSurvey();
    trigger("stageCases");
    auto* table = tab("quantitiesTable");
    enter(table, 0, "Stored in", "W");
    EXPECT_FALSE(window->message().isEmpty());
    EXPECT_EQ(cell(table, 0, "Stored in"), "degC");
    EXPECT_FALSE(window->session().hasUnsavedChanges());
}

TEST_F(LedgerTest, LimitsChooseTheirPartFromTheListAndSayAtLeast) {
    openSurvey();
    trigger("stageLimits");
    auto* table = find<QTableView>("limitsTable");
    enter(table, 0, "Source", "drawing 12");
    EXPECT_EQ(window->session().survey().limits[1].source, "drawing 12")
        << "the first row is the worst, not the first limit";
    QTest::mouseClick(table->viewport(), Qt::LeftButton, {}, table->visualRect(table->model()->index(0, 2)).center());
    auto* target = find<QComboBox>("limitTarget");
    target->setCurrentText("cold plate");
    emit target->activated(target->currentIndex());
    settle();
    EXPECT_EQ(window->session().survey().limits[1].target.name, "cold plate");
    auto next = window->session().survey();
    next.limits[0].max.reset();
    next.limits[0].min = Bound{"35 degC", 308.15};
    window->session().edit("Lower bound", next);
    settle();
    bool found = false;
    for (int row = 0; row < table->model()->rowCount(); ++row)
        if (cell(table, row, "Allowed") == "at least 35.0 \u00b0C") {
            found = true;
            EXPECT_EQ(cell(table, row, "Value"), "30.0 \u00b0C");
            EXPECT_EQ(cell(table, row, "Verdict"), "over");
            EXPECT_EQ(cell(table, row, "Margin"), "-5.0 K");
        }
    EXPECT_TRUE(found);
}

TEST_F(LedgerTest, TheStageReportHasNoTable) {
    openSurvey();
    auto* ledger = find<Ledger>("ledger");
    auto* limits = static_cast<LimitsPage*>(ledger->page(limitsStage));
    EXPECT_TRUE(ledger->isVisible());
    type(Qt::Key_7);
    EXPECT_FALSE(ledger->isVisible());
    type(Qt::Key_5);
    EXPECT_TRUE(ledger->isVisible());
    EXPECT_EQ(limits->limitAt(0), std::optional<std::size_t>(1));
    EXPECT_FALSE(limits->limitAt(7));
    EXPECT_FALSE(limits->limitAt(-1));
}

TEST(RowTable, KeepsItsShapeWhileOnlyTextsChange) {
    RowTable table;
    int resets = 0;
    int changes = 0;
    QObject::connect(&table, &QAbstractItemModel::modelReset, [&] { ++resets; });
    QObject::connect(&table, &QAbstractItemModel::dataChanged, [&] { ++changes; });
    const auto column = [](const QString& title, const QString& text) {
        return TableColumn{title, [text](int) { return text; }};
    };
    table.reset(2, {column("a", "1"), column("b", "2")});
    table.reset(2, {column("a", "3"), column("b", "4")});
    EXPECT_EQ(resets, 1);
    EXPECT_EQ(changes, 1);
    EXPECT_EQ(table.index(1, 0).data().toString(), "3");
    table.reset(3, {column("a", "3"), column("b", "4")});
    table.reset(3, {column("a", "3"), column("c", "4")});
    EXPECT_EQ(resets, 3);
    EXPECT_FALSE(table.flags(table.index(0, 0)) & Qt::ItemIsEditable);
    EXPECT_FALSE(table.setData(table.index(0, 0), "x", Qt::EditRole));
}

TEST(RowTable, SetsOnlyWhatWasChanged) {
    RowTable table;
    QStringList set;
    table.reset(1, {{"value", [](int) { return QString("5 K"); }, false,
                     [&](int row, const QString& text) { set.append(QString("%1 %2").arg(row).arg(text)); }}});
    EXPECT_TRUE(table.flags(table.index(0, 0)) & Qt::ItemIsEditable);
    EXPECT_TRUE(table.setData(table.index(0, 0), "5 K", Qt::EditRole));
    EXPECT_TRUE(set.isEmpty()) << "leaving a cell as it was is no edit";
    EXPECT_TRUE(table.setData(table.index(0, 0), "  6 K ", Qt::EditRole));
    EXPECT_EQ(set, QStringList{"0 6 K"});
    EXPECT_EQ(asText(table), "value\n5 K\n");
}

// Tables with titles: units in brackets, columns found by their names, numbers as people write them.
#include "core/sheets/table_columns.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

TitledTable tableOf(const TempFolder& folder, const std::string& text) {
    writeText(folder / "t.csv", text);
    const auto table = readTitledTable(folder / "t.csv");
    EXPECT_TRUE(table) << (table ? "" : table.error().text());
    return table.value_or(TitledTable{});
}

} // namespace

TEST(TableColumns, TitlesAreNamesWithUnits) {
    const TempFolder folder;
    const auto table = tableOf(folder, "Name, X [mm],Value (degC) ,h [W/(m2.K)],plain\na,1,2,3,4\n");
    ASSERT_EQ(table.titles.size(), 5U);
    EXPECT_EQ(table.titles[1].name, "x");
    EXPECT_EQ(table.titles[1].unit, "mm");
    EXPECT_EQ(table.titles[2].unit, "degC") << "round brackets too";
    EXPECT_EQ(table.titles[4].unit, "");
    EXPECT_EQ(table.column("VALUE"), std::optional<std::size_t>(2)) << "whatever its case";
    EXPECT_EQ(table.column("value (degc)"), std::optional<std::size_t>(2)) << "or as it is written";
    EXPECT_FALSE(table.column("val"));
}

// Of nested brackets the last opening one begins the unit as it is written: it must not be cut.
TEST(TableColumns, ATitleWithoutBracketsAtItsEndHasNoUnit) {
    const TempFolder folder;
    const auto table = tableOf(folder, "a],b [,c\n1,2,3\n");
    for (const auto& title : table.titles)
        EXPECT_EQ(title.unit, "") << title.written;
}

TEST(TableColumns, EmptyLinesAreLeftOutAndShortOnesFilled) {
    const TempFolder folder;
    const auto table = tableOf(folder, "\n , , \nname,x,y\n\na,1\n,,\nb,2,3,4\n");
    ASSERT_EQ(table.rows.size(), 2U);
    EXPECT_EQ(table.rows[0], (CsvRow{"a", "1", ""})) << "as wide as the titles";
    EXPECT_EQ(table.rows[1], (CsvRow{"b", "2", "3"}));
    EXPECT_EQ(table.line[0], 3U) << "empty lines are not counted";
    EXPECT_EQ(table.line[1], 5U);
}

TEST(TableColumns, AFileWithoutALineIsRefused) {
    const TempFolder folder;
    writeText(folder / "t.csv", "\n\n");
    EXPECT_EQ(readTitledTable(folder / "t.csv").error().code, ErrorCode::FileEmpty);
    EXPECT_EQ(readTitledTable(folder / "gone.csv").error().code, ErrorCode::FileMissing);
}

TEST(TableColumns, NumbersAsPeopleWriteThem) {
    EXPECT_EQ(tableNumber(" 1.5 "), std::optional(1.5));
    EXPECT_EQ(tableNumber("1,5"), std::optional(1.5)) << "a decimal comma";
    EXPECT_EQ(tableNumber("+2e-3"), std::optional(2e-3));
    EXPECT_EQ(tableNumber("-4"), std::optional(-4.0));
    for (const auto* wrong : {"", "ten", "1.5 K", "1,5,6", "nan", "inf", "--1", "0x10"})
        EXPECT_FALSE(tableNumber(wrong)) << wrong;
}

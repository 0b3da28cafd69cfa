#include "core/report/csv.h"

#include <gtest/gtest.h>

using namespace pyro;

// The quoting examples of RFC 4180, section 2.
TEST(Csv, FollowsRfc4180) {
    const auto rows = parseCsv("\"aaa\",\"b\r\nbb\",\"ccc\"\r\nzzz,\"b\"\"bb\",xxx\r\n");
    ASSERT_TRUE(rows);
    ASSERT_EQ(rows->size(), 2U);
    EXPECT_EQ((*rows)[0][1], "b\r\nbb");
    EXPECT_EQ((*rows)[1][1], "b\"bb");
    for (const CsvRow& row : {CsvRow{"a,b", "say \"x\"", "", "line\nbreak", "\u00f6l"}})
        EXPECT_EQ(parseCsv(csvLine(row))->front(), row);
    EXPECT_EQ(parseCsv("a;b\n1,5;2\n")->at(1), (CsvRow{"1,5", "2"}));
    EXPECT_EQ(parseCsv("a,\"b\n").error().code, ErrorCode::Syntax);
}

TEST(Csv, LimitsComeBackAsTheyWere) {
    Limit limit;
    limit.target = {TargetKind::Part, "amp, left"};
    limit.max = Bound{"110 degC", 383.15};
    limit.margin = Written<TemperatureDifference>{"10 K", {10}};
    limit.source = "data sheet \"C\"";
    const auto back = limitsFromCsv(limitsCsv({limit}), "limits.csv");
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(back->front().target, limit.target);
    EXPECT_EQ(back->front().max, limit.max);
    EXPECT_EQ(back->front().margin, limit.margin);
    EXPECT_EQ(back->front().source, limit.source);
}

TEST(Csv, LimitMistakesNameTheLine) {
    const auto unit = limitsFromCsv("Part,Max,Margin\namp,110 degC,5 K\npcb,95 W,5 K\n", "l.csv");
    ASSERT_FALSE(unit);
    EXPECT_EQ(unit.error().code, ErrorCode::WrongUnit);
    EXPECT_EQ(unit.error().where, "l.csv, line 3");
    EXPECT_EQ(limitsFromCsv("part,colour\namp,red\n", "l.csv").error().code, ErrorCode::Syntax);
    EXPECT_EQ(limitsFromCsv("", "l.csv").error().code, ErrorCode::FileEmpty);
}

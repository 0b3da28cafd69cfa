#include "core/feedback/csv_rows.h"

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

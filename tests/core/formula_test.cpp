// Formulas: algebra, units, temperatures and differences, mistakes with their place.
#include "core/gauge/formula.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;

namespace {

tl::expected<FormulaValue, std::string> lookup(const std::string& id) {
    const auto value = [](double si, const char* unit, bool temperature = false) {
        return FormulaValue{si, *UnitProduct::of(unit), temperature};
    };
    if (id == "T_in")
        return value(293.15, "K", true);
    if (id == "T_out")
        return value(303.15, "K", true);
    if (id == "m")
        return value(0.02, "kg/s");
    if (id == "A")
        return value(4, "m2");
    return tl::unexpected("there is no gauge \"" + id + "\"");
}

} // namespace

TEST(Formula, ComputesWithUnits) {
    const struct {
        const char* text;
        double si;
        const char* unit;
        bool temperature = false;
    } rows[]{
        {"2 + 3 * 4", 14, "1"},
        {"(2 + 3) * 4", 20, "1"},
        {"2 ^ 3 ^ 2", 512, "1"}, // right-associative
        {"-2 ^ 2", -4, "1"},     // the power binds tighter than the sign
        {"2 ^ -1", 0.5, "1"},
        {"6 / 3 / 2", 1, "1"},
        {"m * 4186 'J/(kg.K)' * (T_out - T_in)", 837.2, "W"},
        {"T_out - 20 'degC'", 10, "K"},
        {"T_out - 3 'K'", 300.15, "K", true},
        {"T_in + 5 'K'", 298.15, "K", true},
        {"(T_in + (T_out - T_in)) - T_in", 10, "K"},
        {"68 'degF'", 293.15, "K", true},
        {"9 'K' / 3 'W'", 3, "K/W"},
        {"sqrt(A)", 2, "m"},
        {"A ^ 0.5", 2, "m"},
        {"max(1 'kW', 900 'W')", 1000, "W"},
        {"min(T_in, T_out)", 293.15, "K", true},
        {"abs(3 'W' - 1 'kW')", 997, "W"},
        {"ln(exp(2))", 2, "1"},
        {"(T_out - T_in) / ln(2)", 10 / std::log(2.0), "K"},
        {"1.5e3 'mm' * 1 'm'", 1.5, "m2"},
        {"3 \"mW\"", 0.003, "W"},
    };
    for (const auto& row : rows) {
        SCOPED_TRACE(row.text);
        const auto result = evaluateFormula(row.text, lookup);
        ASSERT_TRUE(result) << result.error().what;
        EXPECT_NEAR(result->si, row.si, 1e-9 * std::max(1.0, std::abs(row.si)));
        EXPECT_EQ(result->unit.text(), row.unit);
        EXPECT_EQ(result->isTemperature, row.temperature);
    }
}

TEST(Formula, MistakesNameTheirPlace) {
    const struct {
        const char* text;
        const char* word;
        std::size_t from;
        std::size_t to;
    } rows[]{
        {"", "empty", 0, 0},
        {"1 +", "too early", 3, 3},
        {"1 + * 2", "missing", 4, 5},
        {"T_in + T_out", "two temperatures", 0, 12},
        {"3 'K' - T_in", "from a difference", 0, 12},
        {"m + A", "cannot be added", 0, 5},
        {"1 + A", "a number without unit", 0, 5},
        {"2 * gone", "gone", 4, 8},
        {"1 / (A - A)", "division by zero", 0, 11},
        {"2 ^ m", "no unit", 4, 5},
        {"A ^ 0.3", "is no unit", 0, 7},
        {"ln(A)", "without unit", 0, 5},
        {"ln(-1)", "not a finite", 0, 6},
        {"ln(1, 2)", "one value", 0, 8},
        {"min(m, A)", "compares", 0, 9},
        {"3 'humour'", "humour", 2, 10},
        {"3 'W", "not closed", 2, 4},
        {"2 3", "operator", 2, 3},
        {"(2", "\")\"", 2, 2},
        {"2 $ 3", "no place", 2, 3},
        {"A *", "too early", 3, 3},
    };
    for (const auto& row : rows) {
        SCOPED_TRACE(row.text);
        const auto result = evaluateFormula(row.text, lookup);
        ASSERT_FALSE(result);
        EXPECT_NE(result.error().what.find(row.word), std::string::npos) << result.error().what;
        EXPECT_EQ(result.error().from, row.from);
        EXPECT_EQ(result.error().to, row.to);
    }
}

TEST(Formula, KnowsWhatItNames) {
    EXPECT_EQ(namesIn("m_dot * 4186 'J/(kg.K)' * (T_out - T_in) / max(T_out, 1)"),
              (std::vector<std::string>{"m_dot", "T_out", "T_in"}));
    EXPECT_TRUE(namesIn("3 'W").empty());
}

TEST(UnitProduct, ReducesAndNames) {
    EXPECT_EQ(UnitProduct::of("kW.h")->text(), "J");
    EXPECT_EQ((*UnitProduct::of("W/(m.K)") / *UnitProduct::of("m")).text(), "W/(m2.K)");
    EXPECT_EQ((*UnitProduct::of("J/(kg.K)") * *UnitProduct::of("kg/m3")).isNumber(), false);
    EXPECT_TRUE((*UnitProduct::of("mm") / *UnitProduct::of("m")).isNumber());
    EXPECT_FALSE(UnitProduct::of("s")->sameAs(*UnitProduct::of("1/s"))) << "convertible for the library, not for us";
    EXPECT_FALSE(UnitProduct::of("humour"));
}

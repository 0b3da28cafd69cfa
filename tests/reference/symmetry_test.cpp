// A quarter against the whole, both solved by the rig on the same cells: with the factor stated every reading agrees.
#include "core/thermal/whole_heat.h"
#include "core/trust/checks.h"
#include "tests/reference/solve_and_open.h"
#include "tests/support/gauges.h"
#include "tests/support/temp_folder.h"

#include <fmt/format.h>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// A wall of 0.1 m of insulation, 0.4 m square, with a metal rod of 40 mm across through its middle, heated by 2 W; room
// at 20 degC below, outdoors at 0 degC above. `low`: 0 for the quarter in x and y > 0.
std::string model(double low, double power) {
    return fmt::format(
        R"j({{"rig": 1, "title": "rod", "grid": {{"x": {{"spacing": 0.01}}, "y": {{"spacing": 0.01}},
          "z": {{"spacing": 0.01}}}},
        "materials": {{"insulation": {{"conductivity": "0.04 W/(m.K)", "density": "30 kg/m3",
          "heat_capacity": "1000 J/(kg.K)"}},
                       "metal": {{"conductivity": "50 W/(m.K)", "density": "7800 kg/m3",
                         "heat_capacity": "460 J/(kg.K)"}}}},
        "boxes": [{{"part": "wall", "material": "insulation", "from": [{0}, {0}, 0], "to": [0.2, 0.2, 0.1]}},
                  {{"part": "rod", "material": "metal", "from": [{1}, {1}, 0], "to": [0.02, 0.02, 0.1],
                    "power": "{2} W"}}],
        "environments": [{{"boundary": "inside", "temperature": "20 degC", "film_coefficient": "7.7 W/(m2.K)",
          "faces": [{{"side": "-z"}}]}},
                         {{"boundary": "outside", "temperature": "0 degC", "film_coefficient": "25 W/(m2.K)",
                           "faces": [{{"side": "+z"}}]}}]}})j",
        low, low / 10, power);
}

Readings readingsOf(const OpenedCase& opened, const std::string& power, const std::string& more) {
    StepContext context;
    context.balances = true;
    context.checks = true;
    return readOn(opened,
                  Json::parse(fmt::format(
                      R"j({{"case": {{{} "parts": {{"rod": {{"power": "{}", "material": "metal"}},
              "wall": {{"material": "insulation"}}}}}},
        "materials": {{"insulation": {{"conductivity": "0.04 W/(m.K)", "density": "30 kg/m3",
          "heat_capacity": "1000 J/(kg.K)"}}, "metal": {{"conductivity": "50 W/(m.K)", "density": "7800 kg/m3",
          "heat_capacity": "460 J/(kg.K)"}}}},
        "gauges": [
        {{"id": "Q", "where": {{"boundary": "outside"}}, "quantity": "heat_flux", "statistic": "integral"}},
        {{"id": "q", "where": {{"boundary": "outside"}}, "quantity": "heat_flux"}},
        {{"id": "A", "where": {{"boundary": "outside"}}, "quantity": "area"}},
        {{"id": "mean flux", "formula": "Q / A"}},
        {{"id": "R", "where": {{"part": "rod"}}, "quantity": "thermal_resistance", "statistic": "max",
          "reference": "0 degC"}},
        {{"id": "R of the side", "where": {{"boundary": "outside"}}, "quantity": "thermal_resistance",
          "reference": "0 degC"}},
        {{"id": "content", "where": {{"part": "rod"}}, "quantity": "heat_content", "reference": "0 degC"}},
        {{"id": "across", "where": {{"plane": {{"origin": [0.01, 0.01, 0.055], "normal": [0, 0, 1]}}}},
          "quantity": "heat_flux", "statistic": "integral"}},
        {{"id": "T", "where": {{"part": "rod"}}, "quantity": "temperature", "statistic": "max"}},
        {{"id": "h", "where": {{"boundary": "outside"}}, "quantity": "film_coefficient", "reference": "0 degC"}}]}})j",
                      more, power)),
                  context);
}

const Check& symmetryOf(const Readings& readings) {
    const auto found = std::ranges::find(readings.checks, "symmetry", &Check::key);
    EXPECT_NE(found, readings.checks.end());
    return *found;
}

} // namespace

TEST(Symmetry, AQuarterTellsTheWholeOnceItsFactorIsStated) {
    const TempFolder folder;
    const auto full = readingsOf(solveAndOpen(model(-0.2, 2), folder / "whole.vtm"), "2 W", "");
    const auto quarter = readingsOf(solveAndOpen(model(0, 0.5), folder / "quarter.vtm"), "2 W",
                                    R"("symmetry_factor": 4,)");
    ASSERT_EQ(full.gauges.size(), quarter.gauges.size());
    for (std::size_t i = 0; i < full.gauges.size(); ++i) {
        ASSERT_TRUE(full.gauges[i].value && quarter.gauges[i].value)
            << full.gauges[i].id << full.gauges[i].why << quarter.gauges[i].why;
        EXPECT_NEAR(*quarter.gauges[i].value, *full.gauges[i].value, 2e-6 * std::abs(*full.gauges[i].value))
            << full.gauges[i].id;
    }
    ASSERT_TRUE(full.balance && quarter.balance);
    EXPECT_NEAR(quarter.balance->produced, 2, 1e-9);
    EXPECT_NEAR(quarter.balance->leaving, full.balance->leaving, 1e-6);
    EXPECT_NEAR(wholeHeat(quarter)->in, wholeHeat(full)->in, 1e-6);
    for (std::size_t i = 0; i < full.balances->boundaries.size(); ++i)
        EXPECT_NEAR(*quarter.balances->boundaries[i].heat, *full.balances->boundaries[i].heat, 1e-6);
    for (std::size_t i = 0; i < full.balances->links.size(); ++i) {
        EXPECT_NEAR(quarter.balances->links[i].heat, full.balances->links[i].heat, 1e-5);
        EXPECT_NEAR(quarter.balances->links[i].resistance.value_or(0), full.balances->links[i].resistance.value_or(0),
                    1e-5 * full.balances->links[i].resistance.value_or(1));
    }
    ASSERT_EQ(quarter.powers.size(), 1U);
    EXPECT_NEAR(*quarter.powers[0].found, 2, 1e-9);
    EXPECT_EQ(symmetryOf(quarter).state, CheckState::Passed);
    const auto power = std::ranges::find(quarter.checks, "power-source", &Check::key);
    EXPECT_EQ(power->state, CheckState::Passed) << power->figure;
    EXPECT_EQ(quarter.symmetry, 4);
}

TEST(Symmetry, AQuarterIsRecognisedAndAskedFor) {
    const TempFolder folder;
    const auto quarter = solveAndOpen(model(0, 0.5), folder / "quarter.vtm");
    const auto asked = symmetryOf(readingsOf(quarter, "2 W", ""));
    EXPECT_EQ(asked.state, CheckState::Review);
    EXPECT_NE(asked.figure.find("x min, y min; the field holds 1/4 of the stated power"), std::string::npos)
        << asked.figure;
    EXPECT_NE(asked.meaning.find("1/4"), std::string::npos) << asked.meaning;
    // Whoever writes the model's own power is told of the planes all the same: the rod ends in them on one side only.
    const auto own = symmetryOf(readingsOf(quarter, "0.5 W", ""));
    EXPECT_EQ(own.state, CheckState::Passed) << own.figure;
    EXPECT_NE(own.meaning.find("factor 4"), std::string::npos) << own.meaning;
    EXPECT_EQ(symmetryOf(readingsOf(quarter, "0.5 W", R"("symmetry_factor": 1,)")).meaning.find("factor 4"),
              std::string::npos);
    const auto whole = symmetryOf(readingsOf(solveAndOpen(model(-0.2, 2), folder / "whole.vtm"), "2 W", ""));
    EXPECT_EQ(whole.figure, "no adiabatic plane that cuts something");
    const auto noted = symmetryOf(readingsOf(quarter, "0.5 W", R"("boundaries": {"gone": {"kind": "symmetry"}},)"));
    EXPECT_EQ(noted.state, CheckState::Review);
}

TEST(Symmetry, ChiOfAQuarterIsThatOfTheWhole) {
    const TempFolder folder;
    const auto chiOf = [&](double low, const char* symmetry) {
        const auto opened = solveAndOpen(model(low, 0), folder / fmt::format("{}.vtm", low));
        StepContext context;
        context.balances = true;
        context.checks = true;
        return readOn(
            opened,
            Json::parse(fmt::format(
                R"j({{"case": {{{} "parts": {{}}}}, "gauges": [{{"id": "chi", "quantity": "point_transmittance"}},
                  {{"id": "L", "quantity": "coupling_coefficient"}},
            {{"id": "H", "quantity": "transmission_coefficient", "sum": [{{"gauge": "chi", "count": 2}}]}}]}})j",
                symmetry)),
            context);
    };
    const auto whole = chiOf(-0.2, "");
    const auto quarter = chiOf(0, R"("symmetry_factor": 4,)");
    ASSERT_TRUE(whole.gauges[0].value) << whole.gauges[0].why;
    ASSERT_TRUE(quarter.gauges[0].value) << quarter.gauges[0].why;
    EXPECT_GT(*whole.gauges[0].value, 1e-3);
    for (std::size_t i = 0; i < whole.gauges.size(); ++i)
        EXPECT_NEAR(*quarter.gauges[i].value, *whole.gauges[i].value, 2e-6 * *whole.gauges[i].value)
            << whole.gauges[i].id;
    double sum = 0;
    for (const auto& term : quarter.gauges[0].derivation->terms)
        sum += term.unit == "W/K" ? term.value : 0;
    EXPECT_NEAR(sum, *quarter.gauges[0].value, 1e-9) << "the terms are those of the whole";
    EXPECT_EQ(symmetryOf(chiOf(0, "")).state, CheckState::Review) << "asked for where chi is told";
}

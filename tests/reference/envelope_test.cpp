// Transmittances of details with exact or independently computed values, through the whole path: rig, file, reader,
// gauges.
#include "tests/reference/solve_and_open.h"
#include "tests/support/gauges.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <fmt/format.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// The excess of a square corner of two equal walls over its inner legs, in units of conductivity, both surfaces of
// given temperature: 0.5587 (own finite elements of first order, extrapolated: 0.55892, 0.55878, 0.55874; the same
// number as the squares that a bend in a strip counts for).
constexpr double cornerExcess = 0.5587;

GaugeReading read(const OpenedCase& opened, const std::string& gauge, const char* survey = "{}") {
    return readGauge(opened, Json::parse(gauge), Json::parse(survey));
}

// Two walls of 0.3 m and conductivity 1 with a corner; inner legs as given; the void is the room.
std::string corner(double leg, const std::string& more = "") {
    return fmt::format(
        R"json({{"rig": 1, "grid": {{"x": {{"spacing": 0.05, "fine": 0.002, "growth": 1.25}}, "y": {{"spacing": 0.05,
          "fine": 0.002, "growth": 1.25}}, "z": {{"spacing": 1}}}},
        "materials": {{"brick": {{"conductivity": 1}}}},
        "boxes": [{{"part": "west wall", "material": "brick", "from": [0, 0, 0], "to": [0.3, {0}, 0.5]}},
                  {{"part": "south wall", "material": "brick", "from": [0.3, 0, 0], "to": [{0}, 0.3, 0.5]}}],
        "environments": [{{"boundary": "outside", "temperature": "-10 degC", "faces": [{{"side": "-x"}},
          {{"side": "-y"}}]}},
                         {{"boundary": "room", "temperature": "20 degC", "faces": [{{"side": "+x", "to": [0.31, 9,
                           9]}}, {{"side": "+y", "to": [9, 0.31, 9]}}]}}{1}]}})json",
        0.3 + leg, more);
}

} // namespace

// The worked element of docs/bibliography.md: R = 2.9453 m2K/W, U = 0.3395 W/(m2.K), reported 0.34 (sum of resistances,
// ISO 6946).
TEST(Envelope, LayersOfIso6946) {
    const TempFolder folder;
    const auto opened = solveAndOpen(corner(1.2), folder / "corner.vtm");
    const auto u = read(
        opened, R"j({"id": "U", "quantity": "transmittance", "resistances": ["0.13 m2.K/W", "0.04 m2.K/W"], "layers": [
        {"name": "plaster", "thickness": "15 mm", "conductivity": "0.70 W/(m.K)"}, {"material": "sand-lime",
          "thickness": "240 mm"},
        {"name": "insulation", "thickness": "100 mm", "conductivity": 0.040}, {"name": "render", "thickness": "10 mm",
          "conductivity": 0.87}]})j",
        R"j({"materials": {"sand-lime": {"conductivity": "0.99 W/(m.K)"}}})j");
    ASSERT_TRUE(u.value) << u.why;
    EXPECT_NEAR(*u.value, 0.3395, 5e-5);
    EXPECT_EQ(u.unit, "W/(m2.K)");
    ASSERT_EQ(u.derivation->terms.size(), 6U);
    double sum = 0;
    for (const auto& term : u.derivation->terms)
        sum += term.value;
    EXPECT_NEAR(sum, 2.9453, 5e-5);
}

// Internal: the excess itself. External lengths are a wall thickness longer on either side, each worth one
// conductivity.
TEST(Envelope, CornerByAllDimensions) {
    const TempFolder folder;
    const auto opened = solveAndOpen(corner(1.2), folder / "corner.vtm");
    const auto coupling = read(
        opened, R"j({"id": "L", "quantity": "coupling_coefficient", "where": {"environments": ["room", "outside"]}})j");
    ASSERT_TRUE(coupling.value) << coupling.why;
    EXPECT_NEAR(*coupling.value, 8 + cornerExcess, 0.002 * 8.5);
    EXPECT_EQ(coupling.unit, "W/(m.K)");
    for (const auto& [dimensions, expected] :
         {std::pair{"internal", cornerExcess}, {"overall_internal", cornerExcess}, {"external", cornerExcess - 2}}) {
        const auto psi = read(
            opened,
            fmt::format(R"j({{"id": "psi", "quantity": "linear_transmittance", "dimensions": "{}"}})j", dimensions));
        ASSERT_TRUE(psi.value) << psi.why;
        EXPECT_NEAR(*psi.value, expected, 0.01) << dimensions;
        EXPECT_EQ(psi.unit, "W/(m.K)");
        ASSERT_EQ(psi.derivation->terms.size(), 3U);
        EXPECT_EQ(psi.derivation->lines.size(), 2U);
        EXPECT_NEAR(psi.derivation->terms[0].value + psi.derivation->terms[1].value + psi.derivation->terms[2].value,
                    *psi.value, 1e-12);
        EXPECT_NE(psi.derivation->terms[1].origin.find("wall 300 mm 1 W/(m.K)"), std::string::npos)
            << psi.derivation->terms[1].origin;
    }
    // The same by hand, with the elements given.
    const auto given = read(
        opened,
        R"j({"id": "psi", "quantity": "linear_transmittance", "flanks": [{"transmittance": "3.3333333 W/(m2.K)",
          "length": "1.2 m"},
        {"layers": [{"thickness": "300 mm", "conductivity": 1}], "length": "1200 mm"}]})j");
    ASSERT_TRUE(given.value) << given.why;
    EXPECT_NEAR(*given.value, cornerExcess, 0.01);
}

TEST(Envelope, ADisturbedEndIsAskedForNotGuessed) {
    const TempFolder folder;
    const auto opened = solveAndOpen(corner(0.12), folder / "short.vtm");
    const auto psi = read(opened, R"j({"id": "psi", "quantity": "linear_transmittance"})j");
    EXPECT_FALSE(psi.value);
    EXPECT_NE(psi.why.find("disturbed there"), std::string::npos) << psi.why;
    EXPECT_NE(psi.why.find("flanks"), std::string::npos) << psi.why;
}

// The corner of three walls: L3D = k d (3 x 9 + 3 x 3 x 0.5587 + c). Own finite elements (first order, extrapolated
// from 4, 8, 16 elements across the wall): 32.137 k d in all, so that c = 0.108; chi is what is left of it.
TEST(Envelope, CornerOfThreeWalls) {
    const TempFolder folder;
    const auto opened = solveAndOpen(
        R"json({"rig": 1, "grid": {"x": {"spacing": 0.06, "fine": 0.006, "growth": 1.35}, "y": {"spacing": 0.06,
          "fine": 0.006, "growth": 1.35}, "z": {"spacing": 0.06, "fine": 0.006, "growth": 1.35}},
        "materials": {"brick": {"conductivity": 1}},
        "boxes": [{"part": "walls", "material": "brick", "from": [0, 0, 0], "to": [0.3, 1.2, 1.2]}, {"part": "walls",
          "material": "brick", "from": [0.3, 0, 0], "to": [1.2, 0.3, 1.2]},
                  {"part": "walls", "material": "brick", "from": [0.3, 0.3, 0], "to": [1.2, 1.2, 0.3]}],
        "environments": [{"boundary": "outside", "temperature": "0 degC", "faces": [{"side": "-x"}, {"side": "-y"},
          {"side": "-z"}]},
                         {"boundary": "room", "temperature": "1 degC", "faces": [{"side": "+x", "to": [0.31, 9, 9]},
                           {"side": "+y", "to": [9, 0.31, 9]}, {"side": "+z", "to": [9, 9, 0.31]}]}]})json",
        folder / "vertex.vtm");
    const auto coupling = read(opened, R"j({"id": "L", "quantity": "coupling_coefficient"})j");
    ASSERT_TRUE(coupling.value) << coupling.why;
    EXPECT_EQ(coupling.unit, "W/K");
    EXPECT_NEAR(*coupling.value, 0.3 * 32.137, 0.002 * 0.3 * 32.137);
    const auto chi = read(opened,
                          fmt::format(
                              R"j({{"id": "chi", "quantity": "point_transmittance", "linear": [{{"value": "{0} W/(m.K)",
              "length": "0.9 m"}},
        {{"value": "{0} W/(m.K)", "length": "0.9 m"}}, {{"value": "{0} W/(m.K)", "length": "0.9 m"}}]}})j",
                              cornerExcess));
    ASSERT_TRUE(chi.value) << chi.why;
    EXPECT_NEAR(*chi.value, 0.3 * 0.108, 0.018); // 0.2 % of L3D
    ASSERT_EQ(chi.derivation->terms.size(), 7U); // L3D, three elements, three edges
    EXPECT_NEAR(chi.derivation->terms[1].value, -0.81 / 0.3, 1e-6);
}

// Without conduction sideways a wall with a stud is two walls side by side: its equivalent U is the mean by area,
// exactly.
TEST(Envelope, ModuleWithoutSidewaysConduction) {
    const TempFolder folder;
    const auto opened = solveAndOpen(
        R"json({"rig": 1, "grid": {"x": {"spacing": 0.05}, "y": {"spacing": 0.05}, "z": {"spacing": 1}},
        "materials": {"wool": {"conductivity": [1e-9, 0.04, 1e-9]}, "timber": {"conductivity": [1e-9, 0.13, 1e-9]}},
        "boxes": [{"part": "wool", "material": "wool", "from": [0, 0, 0], "to": [0.6, 0.2, 1]}, {"part": "stud",
          "material": "timber", "from": [0.25, 0, 0], "to": [0.35, 0.2, 1]}],
        "environments": [{"boundary": "in", "temperature": "20 degC", "surface_resistance": 0.13,
          "faces": [{"side": "-y"}]},
                         {"boundary": "out", "temperature": "0 degC", "surface_resistance": 0.04,
                           "faces": [{"side": "+y"}]}]})json",
        folder / "module.vtm");
    const double expected = (0.5 / (0.17 + 0.2 / 0.04) + 0.1 / (0.17 + 0.2 / 0.13)) / 0.6;
    const auto u = read(opened,
                        R"j({"id": "U", "quantity": "transmittance", "where": {"environments": ["in", "out"]}})j");
    ASSERT_TRUE(u.value) << u.why;
    EXPECT_NEAR(*u.value, expected, 1e-6);
    // fRsi is lowest behind the stud: 1 - Rsi U there.
    const auto factor = read(
        opened, R"j({"id": "f", "quantity": "temperature_factor", "where": {"environments": ["in", "out"]}})j");
    ASSERT_TRUE(factor.value) << factor.why;
    EXPECT_NEAR(*factor.value, 1 - 0.13 / (0.17 + 0.2 / 0.13), 1e-6);
    ASSERT_TRUE(factor.place);
    EXPECT_NEAR(factor.place->at[0], 0.3, 0.051);
    // Two elements on one surface: each with its own length, nothing is left over.
    const auto psi = read(
        opened, R"j({"id": "psi", "quantity": "linear_transmittance", "where": {"environments": ["in", "out"]}})j");
    ASSERT_TRUE(psi.value) << psi.why;
    EXPECT_NEAR(*psi.value, 0, 1e-6);
    const auto sum = read(
        opened,
        R"j({"id": "H", "quantity": "transmission_coefficient", "sum": [{"value": "0.3 W/(m2.K)", "area": "12 m2"},
        {"value": "-0.1 W/(m.K)", "length": "8 m"}, {"value": "0.05 W/K", "count": 4}]})j");
    ASSERT_TRUE(sum.value) << sum.why;
    EXPECT_NEAR(*sum.value, 3.6 - 0.8 + 0.2, 1e-12);
    EXPECT_EQ(sum.derivation->terms.size(), 3U);
}

TEST(Envelope, WhatCannotBeToldSaysWhy) {
    const TempFolder folder;
    const auto why = [&](const std::string& rig, const std::string& gauge) {
        const auto reading = read(solveAndOpen(rig, folder / "case.vtm"), gauge);
        EXPECT_FALSE(reading.value) << gauge;
        return reading.why;
    };
    const std::string slab =
        R"json({"rig": 1, "grid": {"x": {"spacing": 0.1}, "y": {"spacing": 0.02}, "z": {"spacing": 1}},
          "materials": {"brick": {"conductivity": 1}},
        "boxes": [{"part": "slab", "material": "brick", "from": [0, 0, 0], "to": [1, 0.2, 1] POWER}],
          "environments": [{"boundary": "a", "temperature": "20 degC", "surface_resistance": 0.1,
          "faces": [{"side": "-y"}]} MORE]})json";
    const auto with = [&](std::string text, const std::string& power, const std::string& more) {
        text.replace(text.find("POWER"), 5, power);
        return text.replace(text.find("MORE"), 4, more);
    };
    const std::string cold =
        R"j(, {"boundary": "b", "temperature": "0 degC", "surface_resistance": 0.1, "faces": [{"side": "+y"}]})j";
    const std::string third =
        R"j(, {"boundary": "c", "temperature": "5 degC", "surface_resistance": 0.1, "faces": [{"side": "+x"}]})j";
    const std::string ask = R"j({"id": "L", "quantity": "coupling_coefficient"})j";
    const std::string pair =
        R"j({"id": "L", "quantity": "coupling_coefficient", "where": {"environments": ["a", "b"]}})j";
    EXPECT_NE(why(with(slab, "", ""), ask).find("1 known environment,"), std::string::npos);
    EXPECT_NE(why(with(slab, R"j(, "power": "5 W")j", cold), ask).find("produces heat"), std::string::npos);
    EXPECT_NE(why(with(slab, "", cold + third), ask).find("Name two of them"), std::string::npos);
    EXPECT_NE(why(with(slab, "", cold + third), pair).find("more than two temperatures"), std::string::npos);
    EXPECT_NE(why(with(slab, "", cold),
                  R"j({"id": "L", "quantity": "coupling_coefficient", "where": {"environments": ["a", "roof"]}})j")
                  .find("\"roof\""),
              std::string::npos);
    EXPECT_NE(why(with(slab, "", cold), R"j({"id": "chi", "quantity": "point_transmittance"})j").find("one cell deep"),
              std::string::npos);
}

// NAFEMS T3: one-dimensional transient, T(L) = 100 sin(pi t / 40) degC; 36.60 degC at x = 0.08 m, t = 32 s (from
// memory, confirmed to 36.604 in docs/bibliography.md).
TEST(Envelope, NafemsT3) {
    std::string course;
    for (int i = 0; i <= 128; ++i)
        course += fmt::format("{}[{}, \"{:.9f} degC\"]", i > 0 ? ", " : "", 0.25 * i,
                              100 * std::sin(M_PI * 0.25 * i / 40));
    const auto model = rig::modelFromText(
        fmt::format(
            R"json({{"rig": 1, "grid": {{"x": {{"spacing": 0.001}}, "y": {{"spacing": 1}}, "z": {{"spacing": 1}}}},
        "materials": {{"steel": {{"conductivity": 35, "density": 7200, "heat_capacity": 440.5}}}},
        "boxes": [{{"part": "bar", "material": "steel", "from": [0, 0, 0], "to": [0.1, 0.01, 0.01]}}],
        "environments": [{{"boundary": "cold", "temperature": "0 degC", "faces": [{{"side": "-x"}}]}},
          {{"boundary": "hot", "course": [{}], "faces": [{{"side": "+x"}}]}}],
        "transient": {{"start": "0 degC", "duration": "32 s", "step": "0.05 s", "write_every": 640}}}})json",
            course),
        "t3");
    ASSERT_TRUE(model) << model.error().text();
    const auto grid = rig::makeGrid(*model);
    NoProgress progress;
    double at = 0;
    const auto done = rig::solveTransient(
        *model, *grid,
        [&](const rig::Solution& solution) -> Done {
            at = rig::nodeTemperatures(*model, *grid, solution)[80] - 273.15;
            return {};
        },
        progress);
    ASSERT_TRUE(done) << done.error().text();
    EXPECT_NEAR(at, 36.60, 0.1);
}

// The criterion of ISO 10211, annex A, on its case 2: 9.5 W/m by the standard (docs/bibliography.md: 9.491 by finite
// volumes).
TEST(Envelope, RefinementOfCase2) {
    const auto model = rig::modelFromText(
        R"json({"rig": 1, "length_unit": "mm", "refine": {}, "grid": {"x": {"spacing": 20, "fine": 1, "growth": 1.5},
          "y": {"spacing": 3, "fine": 1, "growth": 1.5}, "z": {"spacing": 1000}},
        "materials": {"concrete": {"conductivity": 1.15}, "wood": {"conductivity": 0.12},
          "aluminium": {"conductivity": 230}, "insulation": {"conductivity": 0.029}},
        "boxes": [{"part": "section", "material": "insulation", "from": [0, 0, 0], "to": [500, 47.5, 1000]},
          {"part": "section", "material": "concrete", "from": [0, 0, 0], "to": [500, 6, 1000]},
                  {"part": "section", "material": "wood", "from": [0, 6, 0], "to": [15, 11, 1000]}, {"part": "section",
                    "material": "aluminium", "from": [0, 11, 0], "to": [15, 12.5, 1000]},
                  {"part": "section", "material": "aluminium", "from": [0, 11, 0], "to": [1.5, 47.5, 1000]},
                    {"part": "section", "material": "aluminium", "from": [0, 46, 0], "to": [500, 47.5, 1000]}],
        "environments": [{"boundary": "cold", "temperature": "0 degC", "surface_resistance": 0.06,
          "faces": [{"side": "-y"}]}, {"boundary": "warm", "temperature": "20 degC", "surface_resistance": 0.11,
          "faces": [{"side": "+y"}]}]})json",
        "case2");
    ASSERT_TRUE(model) << model.error().text();
    NoProgress progress;
    auto grid = rig::makeGrid(*model);
    ASSERT_TRUE(grid);
    int heard = 0;
    const auto refined = rig::solveRefined(
        *model, std::move(*grid), [&](const rig::RefinementStep&) { ++heard; }, progress);
    ASSERT_TRUE(refined) << refined.error().text();
    ASSERT_GE(refined->steps.size(), 2U);
    EXPECT_EQ(static_cast<std::size_t>(heard), refined->steps.size());
    EXPECT_LT(refined->steps.back().change, 0.01);
    EXPECT_LT(refined->steps.back().remainder, 1e-4);
    EXPECT_NEAR(refined->steps.back().heat, 9.49, 0.1);
}

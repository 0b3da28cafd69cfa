// Gauges that subtract the field of another case.
#include "core/report/readings_json.h"
#include "tests/support/meshes.h"
#include "tests/support/survey_on_disk.h"

using namespace pyro;
using namespace pyro::test;

namespace {

// Linear in space, so that any mesh of straight cells tells it exactly; `change` per K of the constant.
double fieldOf(double constant, const Point& at) { return constant + 20 * at[0] - 7 * at[1] + 3 * at[2]; }

void writeCaseOf(const TempFolder& folder, const std::string& file, Cells cells, int count, double constant,
                 double length = 1) {
    auto part = boxPart("block", {{length, 0.5, 0.5}, {count, count, count}}, cells);
    addNodeField(part, "T [degC]", [&](const Point& at) { return fieldOf(constant, at); });
    addNodeVector(part, "velocity", [&](const Point& at) { return Point{constant + at[1], 0, 1}; });
    addCellField(part, "source [W/m3]", [&](const Point&) { return 10 * constant; });
    const BoxMesh box{{length, 0.5, 0.5}, {count, count, count}};
    std::vector blocks{part, boxSide("left", box, 0, false, cells)};
    ASSERT_TRUE(writeCase(blocks, folder / file));
}

const Json minusGauges = Json::parse(R"j([
    {"id": "mean", "where": {"part": "block"}, "quantity": "temperature", "unit": "degC", "minus": {"case": "old"}},
    {"id": "max", "where": {"part": "block"}, "quantity": "temperature", "statistic": "max", "minus": {"case": "old"}},
    {"id": "face", "where": {"boundary": "left"}, "quantity": "temperature", "minus": {"case": "old"}},
    {"id": "cut", "where": {"plane": {"origin": [0.3, 0.2, 0.2], "normal": [1, 1, 0]}}, "quantity": "temperature",
      "minus": {"case": "old"}},
    {"id": "spot", "where": {"point": [0.31, 0.22, 0.2]}, "quantity": "temperature", "minus": {"case": "old"}},
    {"id": "line", "where": {"line": {"from": [0.1, 0.2, 0.2], "to": [0.9, 0.2, 0.2], "points": 9}},
      "quantity": "temperature", "minus": {"case": "old"}},
    {"id": "source", "where": {"part": "block"}, "quantity": "heat_source", "minus": {"case": "old"}},
    {"id": "ux", "where": {"part": "block"}, "quantity": "velocity", "component": "x", "minus": {"case": "old"}},
    {"id": "flux", "where": {"part": "block"}, "quantity": "temperature_gradient", "component": "x",
      "minus": {"case": "old"}}])j");

Json minusSurvey(const Json& theGauges) {
    return {{"pyrometer", 1},
            {"cases", {{{"name", "new"}, {"file", "new.vtm"}}, {{"name", "old"}, {"file", "old.vtm"}}}},
            {"gauges", theGauges}};
}

const GaugeReading& minusReading(const SurveyRun& run, const std::string& id) {
    const auto found = std::ranges::find(run.cases.at(0).steps.at(0).gauges, id, &GaugeReading::id);
    EXPECT_NE(found, run.cases[0].steps[0].gauges.end()) << id;
    return *found;
}

} // namespace

TEST(Minus, IsExactForLinearFieldsOnAnyMeshes) {
    for (const auto other : {Cells::Tetrahedra, Cells::Wedges, Cells::Pyramids, Cells::Hexahedra}) {
        const TempFolder folder;
        writeCaseOf(folder, "new.vtm", Cells::Hexahedra, 5, 45);
        writeCaseOf(folder, "old.vtm", other, 3, 40);
        const auto run = runIn(folder, minusSurvey(minusGauges));
        for (const auto* id : {"mean", "max", "face", "cut", "spot"}) {
            const auto& reading = minusReading(run, id);
            ASSERT_TRUE(reading.value) << id << ": " << reading.why;
            EXPECT_NEAR(*reading.value, 5, 1e-9) << id;
            EXPECT_FALSE(reading.isTemperature) << "a difference, which is never offset";
            EXPECT_NEAR(*reading.covered, 1, 1e-12) << id;
            EXPECT_EQ(reading.reference, "old");
        }
        for (const double value : minusReading(run, "line").profile->value)
            EXPECT_NEAR(value, 5, 1e-9);
        EXPECT_NEAR(*minusReading(run, "source").value, 50, 1e-9) << "on cells";
        EXPECT_NEAR(*minusReading(run, "ux").value, 5, 1e-9) << "of a vector";
        EXPECT_NEAR(*minusReading(run, "flux").value, 0, 1e-9) << "derived: both have the same slope";
        EXPECT_NEAR(runToJson(run)["cases"][0]["steps"][0]["gauges"][0]["covered"].get<double>(), 1, 1e-12);
    }
}

TEST(Minus, TellsHowMuchIsCovered) {
    const TempFolder folder;
    writeCaseOf(folder, "new.vtm", Cells::Hexahedra, 10, 45);
    writeCaseOf(folder, "old.vtm", Cells::Tetrahedra, 4, 40, 0.5); // reaches half as far
    const auto run = runIn(folder, minusSurvey(minusGauges));
    const auto& mean = minusReading(run, "mean");
    EXPECT_NEAR(*mean.value, 5, 1e-9) << "where both are";
    EXPECT_NEAR(*mean.covered, 0.55, 1e-9) << "nodes up to the middle, with their shares of volume";
    const auto& line = minusReading(run, "line");
    EXPECT_NEAR(line.profile->value[2], 5, 1e-9);
    EXPECT_TRUE(std::isnan(line.profile->value[8])) << "a gap where there is no partner";
    auto outside = minusGauges;
    outside[4]["where"]["point"] = {0.9, 0.2, 0.2};
    EXPECT_NE(minusReading(runIn(folder, minusSurvey(outside)), "spot").why.find("none of the places"),
              std::string::npos);
}

TEST(Minus, SaysWhatCannotBeSubtracted) {
    const TempFolder folder;
    writeCaseOf(folder, "new.vtm", Cells::Hexahedra, 2, 45);
    writeCaseOf(folder, "old.vtm", Cells::Hexahedra, 2, 40);
    auto some = Json::parse(R"j([
        {"id": "gone", "where": {"part": "block"}, "quantity": "temperature", "minus": {"case": "never"}},
        {"id": "form", "where": {"part": "block"}, "quantity": "temperature", "minus": "old"},
        {"id": "volume", "where": {"part": "block"}, "quantity": "volume", "minus": {"case": "old"}},
        {"id": "spots", "where": {"part": "block"}, "quantity": "temperature", "statistic": "hotspots",
          "minus": {"case": "old"}}])j");
    const auto run = runIn(folder, minusSurvey(some));
    EXPECT_NE(minusReading(run, "gone").why.find("\"never\""), std::string::npos);
    EXPECT_NE(minusReading(run, "form").why.find("name the case"), std::string::npos);
    EXPECT_NE(minusReading(run, "volume").why.find("told of fields"), std::string::npos);
    EXPECT_NE(minusReading(run, "spots").why.find("nothing stands out"), std::string::npos) << "5 K everywhere";
}

// The other case has steps at 0 and 10 s: at 4 s it is told between them.
TEST(Minus, StepsOfOtherTimesAreInterpolated) {
    const TempFolder folder;
    writeCaseOf(folder, "old_a.vtm", Cells::Tetrahedra, 3, 40);
    writeCaseOf(folder, "old_b.vtm", Cells::Tetrahedra, 3, 50);
    writeCaseOf(folder, "new.vtm", Cells::Hexahedra, 4, 45);
    writeText(folder / "old.csv", "time,file\n0,old_a.vtm\n10,old_b.vtm\n");
    writeText(folder / "new.csv", "time,file\n4,new.vtm\n12,new.vtm\n");
    Json survey = minusSurvey(Json::array({minusGauges[0]}));
    survey["cases"][0]["file"] = "new.csv";
    survey["cases"][1]["file"] = "old.csv";
    survey["gauges"][0]["where"] = {{"point", {0.3, 0.2, 0.2}}};
    RunOptions options;
    options.step = 0;
    const auto run = runIn(folder, survey, options);
    const auto& reading = minusReading(run, "mean");
    ASSERT_TRUE(reading.value) << reading.why;
    EXPECT_NEAR(*reading.value, 45 - 44, 1e-9);
    EXPECT_EQ(reading.reference, "old between 0 s and 10 s");
    options.step = 1;
    EXPECT_NE(minusReading(runIn(folder, survey, options), "mean").why.find("tells nothing of 12 s"),
              std::string::npos);
}

// The other case lies 10 m away, and its fields with it.
TEST(Minus, OfGeometryThatWasMoved) {
    const TempFolder folder;
    writeCaseOf(folder, "new.vtm", Cells::Hexahedra, 5, 45);
    BoxMesh box{{1, 0.5, 0.5}, {3, 3, 3}, {10, 0, 0}};
    auto part = boxPart("block", box, Cells::Tetrahedra);
    addNodeField(part, "T [degC]", [](const Point& at) { return fieldOf(40, {at[0] - 10, at[1], at[2]}); });
    addNodeVector(part, "velocity", [](const Point& at) { return Point{40 + at[1], 0, 1}; });
    addCellField(part, "source [W/m3]", [](const Point&) { return 400; });
    ASSERT_TRUE(writeCase(std::vector{part, boxSide("left", box, 0, false, Cells::Tetrahedra)}, folder / "old.vtm"));
    auto survey = minusSurvey(minusGauges);
    EXPECT_NE(minusReading(runIn(folder, survey), "spot").why.find("none of the places"), std::string::npos);
    const auto expectSame = [&] {
        const auto run = runIn(folder, survey);
        for (const auto* id : {"mean", "max", "face", "cut", "spot", "ux"}) {
            const auto& reading = minusReading(run, id);
            ASSERT_TRUE(reading.value) << id << ": " << reading.why;
            EXPECT_NEAR(*reading.value, 5, 1e-9) << id;
        }
    };
    survey["cases"][1]["placement"] = {{"by_boxes", true}};
    expectSame();
    survey["cases"][1]["placement"] = Json::parse(
        R"j({"from": [["10000 mm", 0, 0], [11, 0, 0], [10, 0.5, 0]], "to": [[0, 0, 0], [1, 0, 0], [0, 0.5, 0]]})j");
    expectSame();
    survey["cases"][1]["placement"]["to"][1] = {0, 1, 0}; // turned as well
    survey["cases"][1]["placement"]["to"][2] = {-0.5, 0, 0};
    EXPECT_NE(minusReading(runIn(folder, survey), "ux").why.find("turned"), std::string::npos);
}

// Both cases have a warm flank; the new one a bump of 6 K on it besides, which only the difference tells as the
// hottest.
TEST(Minus, HotspotsOfADifferenceAreWhereItIsLargest) {
    const TempFolder folder;
    const auto write = [&](const std::string& file, Cells cells, int count, double bump) {
        auto part = boxPart("block", {{1, 0.5, 0.5}, {count, count / 2, count / 2}}, cells);
        addNodeField(part, "T [degC]", [&](const Point& at) {
            const double away = std::hypot(at[0] - 0.25, at[1] - 0.25, at[2] - 0.25);
            return fieldOf(40, at) + bump * std::max(0.0, 1 - away / 0.2);
        });
        ASSERT_TRUE(writeCase(std::vector{part}, folder / file));
    };
    write("new.vtm", Cells::Hexahedra, 20, 6);
    write("old.vtm", Cells::Tetrahedra, 8, 0);
    const auto run = runIn(folder, minusSurvey(Json::parse(R"j([{"id": "spots", "where": {"part": "block"},
        "quantity": "temperature", "statistic": "hotspots", "prominence": "1 K", "minus": {"case": "old"}}])j")));
    const auto& spots = minusReading(run, "spots");
    ASSERT_TRUE(spots.value) << spots.why;
    EXPECT_NEAR(*spots.value, 6, 1e-9);
    EXPECT_FALSE(spots.isTemperature);
    EXPECT_NEAR(spots.place->at[0], 0.25, 1e-9);
    EXPECT_NEAR(*spots.covered, 1, 1e-12);
    ASSERT_EQ(spots.derivation->spots.size(), 1U);
    EXPECT_EQ(spots.reference.substr(0, 4), "old;");
}

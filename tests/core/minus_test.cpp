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
    EXPECT_NE(minusReading(run, "spots").why.find("hotspots"), std::string::npos);
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

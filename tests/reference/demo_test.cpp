// The demo case: its balance, and the same verdicts on every face.
#include "core/evaluate/survey_run.h"
#include "core/survey/survey_file.h"
#include "rig/result.h"
#include "tests/support/temp_folder.h"

#include <algorithm>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

TEST(Demo, TelemetryModuleBalancesAndIsJudged) {
    const TempFolder folder;
    const std::filesystem::path inputs = PYROMETER_DEMOS;
    const auto model = rig::loadModel(inputs / "telemetry.rig.json");
    ASSERT_TRUE(model) << model.error().text();
    const auto grid = rig::makeGrid(*model);
    NoProgress progress;
    const auto solution = rig::solve(*model, *grid, progress);
    ASSERT_TRUE(solution);
    EXPECT_NEAR(solution->produced, 22.8, 1e-9);
    EXPECT_LT(std::abs(solution->produced - solution->leaving), 1e-6 * solution->produced);

    std::filesystem::create_directories(folder / "cases");
    std::filesystem::copy_file(inputs / "telemetry.survey.json", folder / "telemetry.survey.json");
    ASSERT_TRUE(writeCase(rig::toBlocks(*model, *grid, *solution), folder / "cases/baseline.vtm"));
    const auto survey = loadSurvey(folder / "telemetry.survey.json");
    ASSERT_TRUE(survey) << survey.error().text();
    const auto run = runSurvey(*survey, folder / "telemetry.survey.json", {"baseline", {}, {}, true}, progress);
    ASSERT_TRUE(run);
    ASSERT_FALSE(run->cases[0].error) << run->cases[0].error->text();
    const auto& readings = run->cases[0].steps.at(0);

    // The balance once more from what was written, read and integrated on the boundaries.
    ASSERT_TRUE(readings.balance);
    EXPECT_LT(std::abs(*readings.balance->remainder()), 1e-6 * readings.balance->produced);
    double given = 0;
    for (const auto& [name, note] : survey->cases[0].parts)
        given += note.power ? note.power->si : 0;
    EXPECT_NEAR(readings.balance->produced, given, 1e-9);

    // And part by part, from stored fluxes on boundaries and two-point fluxes where parts touch.
    ASSERT_TRUE(readings.balances);
    ASSERT_EQ(readings.balances->parts.size(), 8U);
    for (const auto& part : readings.balances->parts) {
        ASSERT_TRUE(part.remainder()) << part.part << ": " << part.why;
        EXPECT_LT(std::abs(*part.remainder()), 1e-5) << part.part;
    }
    // What the flow carries out of an opening is told apart from what is conducted through it, and counts in its share.
    for (const auto& link : readings.balances->links)
        if (link.from == "coolant" && link.toBoundary && link.to == "coolant outlet") {
            ASSERT_TRUE(link.carried);
            EXPECT_NEAR(*link.carried, 14.23, 0.4);
            EXPECT_GT(*link.share, 0.99);
        } else if (link.from == "coolant" && link.to == "coolant inlet") {
            EXPECT_LT(link.share.value_or(0), 0.01);
        }
    for (const auto& gauge : readings.gauges)
        EXPECT_TRUE(gauge.read()) << gauge.id << ": " << gauge.why;

    std::map<std::string, Verdict> verdicts;
    for (const auto& limit : readings.limits) {
        EXPECT_NE(limit.verdict, Verdict::Unknown) << limit.target.name << ": " << limit.why;
        if (limit.form == &valueForm) // of several on a part the plain one
            verdicts[limit.target.name] = limit.verdict;
    }
    EXPECT_EQ(verdicts["amplifier"], Verdict::Over);
    EXPECT_EQ(verdicts["regulator"], Verdict::Tight);
    for (const auto* part : {"processor", "battery", "plate", "box"})
        EXPECT_EQ(verdicts[part], Verdict::Within) << part;
    EXPECT_EQ(run->exitStatus(), 1);
    EXPECT_GE(readings.parts.size(), 6U);
    // The amplifier's hottest stored place lies on its die, where the power is.
    const auto amplifier = std::ranges::find(readings.parts, "amplifier", &RegionReading::name);
    ASSERT_NE(amplifier, readings.parts.end());
    EXPECT_GT(amplifier->hottest->at[2], 0.0089);
}

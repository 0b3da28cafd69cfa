// What is seen of a case under a view, as functions of what they are handed: no window, no session.
#include "core/survey/survey_file.h"
#include "render/seen.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <cmath>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

// Two blocks side by side: "chip" from 300 K to 340 K, "board" from 300 K to 310 K; and air between with a velocity.
class SeenTest : public testing::Test {
protected:
    void SetUp() override {
        auto chip = boxPart("chip", {{0.1, 0.1, 0.1}, {4, 4, 4}});
        auto board = boxPart("board", {{0.1, 0.1, 0.1}, {4, 4, 4}, {0.1, 0, 0}});
        auto air = boxPart("air", {{0.1, 0.1, 0.1}, {2, 2, 2}, {0.2, 0, 0}});
        addNodeField(chip, "temperature", [](const Point& at) { return 300 + 400 * at[2]; });
        addNodeField(board, "temperature", [](const Point& at) { return 300 + 100 * at[2]; });
        addNodeField(air, "temperature", [](const Point&) { return 295.0; });
        addNodeVector(air, "velocity", [](const Point&) { return Point{1, 0, 0}; });
        ASSERT_TRUE(writeCase({chip, board, air}, folder / "c.vtm"));
        opened = mustOpen(folder / "c.vtm");
        quantities = *recognise(*opened->solved, {});
        read(R"({"pyrometer": 1, "cases": [{"name": "c", "file": "c.vtm", "parts": {
            "chip": {"material": "silicon"}, "board": {"material": "silicon"}}}],
            "gauges": [{"id": "mean", "where": {"part": "board"}, "quantity": "temperature", "unit": "degC"}],
            "limits": [{"part": "chip", "max": "60 degC"}, {"part": "board", "max": "40 degC"}]})");
    }
    void read(const std::string& text) {
        writeText(folder / "s.survey.json", text);
        survey = *loadSurvey(folder / "s.survey.json");
        readings = *evaluate(survey, survey.cases[0], *opened, {}, quiet);
        picture = std::make_shared<const FieldPicture>(
            *makePicture(*opened, *quantities.named("temperature"), nullptr, quiet));
    }
    Seen seen() {
        Seen all{survey, &survey.cases[0]};
        all.opened = &*opened;
        all.quantities = &quantities;
        all.readings = &readings;
        all.picture = picture;
        return all;
    }
    std::size_t part(const char* name) const {
        const auto& parts = opened->solved->parts;
        return static_cast<std::size_t>(std::ranges::find(parts, std::string(name), &Region::name) - parts.begin());
    }
    TempFolder folder;
    NoProgress quiet;
    std::optional<OpenedCase> opened;
    QuantityList quantities;
    Survey survey;
    Readings readings;
    std::shared_ptr<const FieldPicture> picture;
};

} // namespace

TEST_F(SeenTest, NothingIsSeenOfACaseThatIsNotOpen) {
    const Seen nothing{survey, &survey.cases[0]};
    EXPECT_TRUE(visibleParts(nothing).empty());
    EXPECT_EQ(visibleBox(nothing), (std::array<double, 6>{}));
    EXPECT_FALSE(hottestVisible(nothing));
    EXPECT_FALSE(shownRange(nothing));
    EXPECT_FALSE(isLogarithmic(nothing));
    EXPECT_TRUE(visibleDistribution(nothing).empty());
    EXPECT_TRUE(std::isnan(visibleRange(nothing)[0]));
    EXPECT_TRUE(materialGroups(nothing).empty());
    EXPECT_EQ(partInFocus(nothing, "chip"), nullptr);
    EXPECT_TRUE(isolineMarks(nothing).empty());
    EXPECT_TRUE(hotspotLevels(nothing, "", 0).empty());
    EXPECT_EQ(unitOf(nothing).symbol(), "\u00b0C") << "what temperatures are shown in";
}

TEST_F(SeenTest, HiddenAndTransparentPartsAreNotSeen) {
    EXPECT_EQ(visibleParts(seen()).size(), 3U);
    survey.view.hidden = {"chip"};
    EXPECT_EQ(visibleParts(seen()), (std::vector{part("board"), part("air")}));
    survey.view.opacity["board"] = 0;
    EXPECT_EQ(visibleParts(seen()), (std::vector{part("air")}));
    survey.view.opacity["board"] = 0.2;
    const auto box = visibleBox(seen());
    EXPECT_NEAR(box[0], 0.1, 1e-9);
    EXPECT_NEAR(box[1], 0.3, 1e-9);
    EXPECT_NEAR((*hottestVisible(seen()))[2], 0.1, 1e-9) << "the top of the board";
    survey.view.hidden = {"chip", "board", "air"};
    EXPECT_EQ(visibleBox(seen()), (std::array<double, 6>{}));
    EXPECT_FALSE(hottestVisible(seen()));
    EXPECT_FALSE(shownRange(seen()));
}

TEST_F(SeenTest, TheRangeIsSetOrThatOfWhatIsVisible) {
    EXPECT_NEAR((*shownRange(seen()))[0], 295, 1e-4);
    EXPECT_NEAR((*shownRange(seen()))[1], 340, 1e-4);
    survey.view.hidden = {"chip"};
    EXPECT_NEAR((*shownRange(seen()))[1], 310, 1e-4);
    survey.view.hidden = {"chip", "board"};
    EXPECT_GT((*shownRange(seen()))[1], (*shownRange(seen()))[0]) << "one value alone still makes a range";
    survey.view.field.strip.common = false;
    auto several = seen();
    several.commonRange = [] { return std::array{250.0, 500.0}; };
    EXPECT_NEAR((*shownRange(several))[0], 295, 1e-4) << "a common one is not wanted";
    survey.view.field.strip.common = true;
    EXPECT_EQ((*shownRange(several))[1], 500);
    EXPECT_NEAR((*shownRange(seen()))[0], 295, 1e-4) << "nothing to be common with";
    survey.view.range = {300.0, 320.0};
    EXPECT_EQ((*shownRange(several))[1], 320) << "as set";
}

TEST_F(SeenTest, TemperaturesAreNeverShownByTheirLogarithm) {
    survey.view.field.strip.logarithmic = true;
    EXPECT_FALSE(isLogarithmic(seen()));
    picture = std::make_shared<const FieldPicture>(
        *makePicture(*opened, *quantities.named("velocity"), nullptr, quiet, Component::X));
    survey.view.range = {0.1, 1.0};
    EXPECT_TRUE(isLogarithmic(seen()));
    survey.view.range = {0.0, 1.0};
    EXPECT_FALSE(isLogarithmic(seen())) << "zero has none";
}

TEST_F(SeenTest, TheDistributionIsThatOfTheVisibleParts) {
    const auto all = visibleDistribution(seen());
    survey.view.hidden = {"air"};
    const auto solids = visibleDistribution(seen());
    EXPECT_NEAR(all.shareBelow(299), 1.0 / 3, 1e-6) << "all of the air, of three equal volumes";
    EXPECT_NEAR(solids.shareBelow(299), 0, 0.02);
    EXPECT_NEAR(solids.total() / all.total(), 2.0 / 3, 1e-9);
}

TEST_F(SeenTest, FluidsAreToldByTheirVelocityOrByTheNote) {
    EXPECT_TRUE(isFluid(seen(), part("air")));
    EXPECT_FALSE(isFluid(seen(), part("chip")));
    survey.cases[0].parts["air"].kind = "solid";
    survey.cases[0].parts["chip"].kind = "fluid";
    EXPECT_FALSE(isFluid(seen(), part("air")));
    EXPECT_TRUE(isFluid(seen(), part("chip")));
}

TEST_F(SeenTest, PartsOfOneMaterialAreOneGroup) {
    const auto groups = materialGroups(seen());
    ASSERT_EQ(groups.size(), 3U);
    EXPECT_EQ(groups[part("chip")], groups[part("board")]);
    EXPECT_NE(groups[part("chip")], groups[part("air")]) << "a part without one stands for itself";
}

TEST_F(SeenTest, InFocusIsTheChosenElseTheTightestElseTheHottest) {
    EXPECT_EQ(partInFocus(seen(), "air")->name, "air");
    EXPECT_EQ(partInFocus(seen(), "")->name, "chip") << "over by 6.85 K, the board is within";
    survey.view.hidden = {"chip"};
    EXPECT_EQ(partInFocus(seen(), "")->name, "board");
    EXPECT_EQ(partInFocus(seen(), "chip")->name, "board") << "what is hidden is not told of";
    survey.limits.clear();
    survey.view.hidden.clear();
    readings = *evaluate(survey, survey.cases[0], *opened, {}, quiet);
    EXPECT_EQ(partInFocus(seen(), "")->name, "chip");
}

TEST_F(SeenTest, IsothermsStandAtRoundValuesOfTheUnit) {
    EXPECT_FALSE(isothermRule(seen())) << "off";
    survey.view.field.isotherms.shown = true;
    survey.view.range = {293.15, 393.15}; // 20 to 120 degC
    EXPECT_NEAR(isothermSpacing(seen()), 5, 1e-9);
    auto rule = *isothermRule(seen());
    EXPECT_NEAR(rule.origin, 273.15, 1e-9);
    EXPECT_NEAR(rule.spacing, 5, 1e-9);
    survey.view.unit = TemperatureUnit::Fahrenheit;
    rule = *isothermRule(seen());
    EXPECT_NEAR(rule.spacing, isothermSpacing(seen()) / 1.8, 1e-9) << "a round number of that unit";
}

TEST_F(SeenTest, LinesAreMarkedByLimitsAndGauges) {
    auto& values = survey.view.field.isotherms.values[isolineKey("temperature", "")];
    values.marks = {310.0};
    values.marksOf = {{MarkSource::Kind::Part, "chip"},
                      {MarkSource::Kind::Gauge, "mean"},
                      {MarkSource::Kind::Gauge, "no such gauge"}};
    const auto marks = isolineMarks(seen());
    ASSERT_EQ(marks.size(), 3U) << "what has no value is left out";
    EXPECT_EQ(marks[0], 310);
    EXPECT_NEAR(marks[1], 333.15, 1e-9);
    EXPECT_NEAR(marks[2], 305, 1e-3) << "the mean of the board";
}

// Cases on their way from file to readings, without a session: several beside each other, requests that overtake each
// other, steps, histories, and what becomes of answers that come late.
#include "app/pipeline/case_pipeline.h"
#include "core/survey/edit.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <QTest>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

class PipelineTest : public testing::Test {
protected:
    void SetUp() override {
        writeBar("warm.vtu", 60);
        writeBar("hot.vtu", 90);
        for (int i = 0; i < 5; ++i)
            writeBar("step_000" + std::to_string(i) + ".vtu", 40 + 10 * i, 30.0 * i);
        writeText(folder / "s.survey.json", R"({"pyrometer": 1, "cases": [
            {"name": "warm", "file": "warm.vtu"}, {"name": "hot", "file": "hot.vtu"},
            {"name": "warming", "file": "step_0000.vtu"}],
            "gauges": [{"id": "top", "where": {"point": [0, 0.01, 0.01]}, "quantity": "temperature"}],
            "limits": [{"gauge": "top", "max": "70 degC"}]})");
        ASSERT_TRUE(document.open(QString::fromStdString((folder / "s.survey.json").string())));
    }
    void writeBar(const std::string& file, double hottest, std::optional<double> time = {}) {
        auto part = boxPart("bar", {{0.1, 0.02, 0.02}, {6, 2, 2}});
        addNodeField(part, "T [degC]", [hottest](const Point& at) { return hottest - 100 * at[0]; });
        part.time = time;
        ASSERT_TRUE(writeBlock(part, folder / file));
    }
    struct Told { // by one case
        int pictures = 0;
        int readings = 0;
        int opened = 0;
        std::vector<Error> problems;
        std::vector<std::optional<int>> moved;
    };
    std::unique_ptr<CasePipeline> pipeline(const std::string& name, Told& told) {
        auto made = std::make_unique<CasePipeline>(
            *document.survey().caseNamed(name), document, jobs, [this] { return needs; }, nullptr);
        QObject::connect(made.get(), &CasePipeline::changed, [&told](Changes what) {
            told.pictures += what.testFlag(Change::Picture) ? 1 : 0;
            told.readings += what.testFlag(Change::Readings) ? 1 : 0;
        });
        QObject::connect(made.get(), &CasePipeline::opened, [&told] { ++told.opened; });
        QObject::connect(made.get(), &CasePipeline::problem, [&told](const Error& e) { told.problems.push_back(e); });
        QObject::connect(made.get(), &CasePipeline::stepMoved,
                         [&told](std::optional<int> step) { told.moved.push_back(step); });
        return made;
    }
    void settle() {
        ASSERT_TRUE(QTest::qWaitFor([&] { return jobs.running() == 0; }, 20000));
    }
    static double hottest(const CasePipeline& one) { return one.state().readings->parts.at(0).max->kelvin - 273.15; }

    TempFolder folder;
    Document document;
    CaseNeeds needs;
    const CaseLook temperature{"temperature"};
    JobList jobs; // last: its threads end first
};

} // namespace

TEST_F(PipelineTest, SeveralCasesAreWorkedOnBesideEachOther) {
    Told toldOfWarm;
    Told toldOfHot;
    const auto warm = pipeline("warm", toldOfWarm);
    const auto hot = pipeline("hot", toldOfHot);
    for (const auto& one : {warm.get(), hot.get()}) {
        one->read(temperature);
        one->show(temperature);
    }
    settle();
    ASSERT_TRUE(warm->state().readings && hot->state().readings && warm->state().picture && hot->state().picture);
    EXPECT_NEAR(hottest(*warm), 60, 1e-4);
    EXPECT_NEAR(hottest(*hot), 90, 1e-4);
    EXPECT_NEAR(hot->state().picture->max - warm->state().picture->max, 30, 1e-4) << "both are drawn";
    EXPECT_EQ(warm->state().verdicts(document.survey()).at(0).verdict, Verdict::Within);
    EXPECT_EQ(hot->state().verdicts(document.survey()).at(0).verdict, Verdict::Over);
    EXPECT_EQ(toldOfWarm.opened, 1);
    EXPECT_EQ(toldOfHot.opened, 1);
}

TEST_F(PipelineTest, WhatIsNotOnDisplayIsReadButNotDrawn) {
    Told told;
    const auto one = pipeline("hot", told);
    one->read(temperature);
    settle();
    EXPECT_TRUE(one->state().readings);
    EXPECT_FALSE(one->state().picture);
    EXPECT_FALSE(one->state().orders);
    CaseLook through = temperature;
    through.throughVolumes = true;
    one->show(through);
    settle();
    EXPECT_TRUE(one->state().picture);
    EXPECT_TRUE(one->state().orders) << "a section is wanted";
    const auto picture = one->state().picture;
    one->hide();
    one->evaluate();
    settle();
    EXPECT_EQ(one->state().picture, picture);
}

TEST_F(PipelineTest, OfSeveralRequestsOnlyTheLastCounts) {
    needs.balances = true; // so that no second evaluation follows for them
    Told told;
    const auto one = pipeline("warm", told);
    one->read(temperature);
    settle();
    const int before = told.readings;
    for (const auto* most : {"50 degC", "55 degC", "65 degC"}) {
        document.edit("Limit", *withLimitField(document.survey(), 0, LimitField::Max, most));
        one->evaluate();
    }
    settle();
    EXPECT_EQ(told.readings - before, 1) << "answers that were overtaken are dropped";
    EXPECT_EQ(one->state().verdicts(document.survey()).at(0).verdict, Verdict::Within);
    EXPECT_TRUE(told.problems.empty()) << "what was overtaken is no problem";
}

TEST_F(PipelineTest, RetiredItTakesNothingThatComesLate) {
    Told told;
    const auto one = pipeline("warm", told);
    one->read(temperature);
    one->retire();
    settle();
    EXPECT_FALSE(one->state().preview || one->state().opened || one->state().readings);
    EXPECT_EQ(told.opened, 0);
    one->evaluate();
    EXPECT_EQ(jobs.running(), 0) << "nor does it begin anything";
}

TEST_F(PipelineTest, ReadAnewItForgetsWhatItKnew) {
    Told told;
    const auto one = pipeline("warm", told);
    one->read(temperature);
    settle();
    ASSERT_TRUE(one->state().readings);
    one->evaluate(); // under way while the file is read again
    writeBar("warm.vtu", 75);
    one->read(temperature);
    EXPECT_FALSE(one->state().opened || one->state().readings || one->state().picture);
    settle();
    EXPECT_NEAR(hottest(*one), 75, 1e-4);
    EXPECT_TRUE(told.problems.empty());
}

TEST_F(PipelineTest, ACaseThatLeftTheSurveyIsLeftAlone) {
    Told told;
    const auto one = pipeline("hot", told);
    one->read(temperature);
    settle();
    ASSERT_NE(one->entry(), nullptr);
    document.edit("Remove", withoutCase(document.survey(), "hot"));
    EXPECT_EQ(one->entry(), nullptr);
    one->evaluate();
    one->show(temperature);
    EXPECT_EQ(jobs.running(), 0);
    document.undoStack().undo();
    ASSERT_NE(one->entry(), nullptr) << "and is the same when it comes back";
    EXPECT_TRUE(one->state().readings);
}

TEST_F(PipelineTest, AQuickDragOverStepsLeavesOutWhatItPasses) {
    Told told;
    const auto one = pipeline("warming", told);
    one->read(temperature);
    one->show(temperature);
    settle();
    EXPECT_EQ(one->state().step, 4) << "the last";
    const int pictures = told.pictures;
    for (int step = 3; step >= 1; --step)
        one->seek(step);
    EXPECT_TRUE(one->state().openingStep);
    settle();
    EXPECT_EQ(one->state().step, 1);
    EXPECT_FALSE(one->state().openingStep);
    EXPECT_NEAR(hottest(*one), 50, 1e-4);
    EXPECT_NEAR(one->state().picture->max - 273.15, 50, 1e-4);
    EXPECT_GT(told.pictures, pictures);
    EXPECT_TRUE(told.moved.empty());
}

TEST_F(PipelineTest, AStepThatCannotBeReadLeavesTheOneOnDisplay) {
    Told told;
    const auto one = pipeline("warming", told);
    one->read(temperature);
    one->show(temperature);
    settle();
    writeText(folder / "step_0002.vtu", "no longer a file of cells");
    one->seek(2);
    settle();
    ASSERT_EQ(told.problems.size(), 1U);
    ASSERT_EQ(told.moved.size(), 1U);
    EXPECT_EQ(told.moved[0], std::optional(4));
    EXPECT_EQ(one->state().step, 4);
    EXPECT_NEAR(hottest(*one), 80, 1e-4);
}

TEST_F(PipelineTest, AllStepsAreReadWhereTheyAreNeeded) {
    Told told;
    const auto one = pipeline("warming", told);
    one->read(temperature);
    settle();
    EXPECT_FALSE(one->state().history) << "every step is opened for it";
    EXPECT_FALSE(one->state().judgedOverSteps(document.survey()));
    needs.histories = true;
    one->readHistories();
    settle();
    ASSERT_TRUE(one->state().history);
    EXPECT_EQ(one->state().history->size(), 5U);
    EXPECT_TRUE(one->state().judgedOverSteps(document.survey()));
    const auto history = one->state().history;
    one->readHistories();
    EXPECT_EQ(jobs.running(), 0) << "they are known";
    document.edit("Limit", *withLimitField(document.survey(), 0, LimitField::Max, "90 degC"));
    one->evaluate();
    settle();
    EXPECT_EQ(one->state().history, history) << "a limit on a maximum is judged from the steps as they were read";
    EXPECT_EQ(one->state().verdicts(document.survey()).at(0).verdict, Verdict::Within);
}

TEST_F(PipelineTest, FilesThatGrowAreFollowed) {
    Told told;
    const auto one = pipeline("warming", told);
    one->read(temperature);
    one->show(temperature);
    settle();
    ASSERT_EQ(one->state().series.steps.size(), 5U);
    writeBar("step_0005.vtu", 95, 150.0);
    EXPECT_TRUE(one->lookForSteps(stampsOf(folder / "step_0000.vtu")));
    EXPECT_FALSE(one->lookForSteps(stampsOf(folder / "step_0000.vtu"))) << "still looking";
    settle();
    EXPECT_EQ(one->state().series.steps.size(), 6U);
    EXPECT_EQ(one->state().step, 5) << "the end was on display and stays so";
    EXPECT_NEAR(hottest(*one), 95, 1e-4);
    ASSERT_EQ(told.moved.size(), 1U);
    EXPECT_FALSE(told.moved[0]);
    EXPECT_TRUE(one->lookForSteps(stampsOf(folder / "step_0000.vtu")));
    EXPECT_EQ(jobs.running(), 0) << "nothing was written since";
}

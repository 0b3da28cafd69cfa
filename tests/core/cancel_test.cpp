// Cancelling: at the first, second, third ... question whether to go on, until the work comes to its end.
#include "core/evaluate/evaluate.h"
#include "core/survey/survey_file.h"
#include "tests/support/gauges.h"
#include "tests/support/meshes.h"
#include "tests/support/temp_folder.h"

#include <atomic>
#include <gtest/gtest.h>

using namespace pyro;
using namespace pyro::test;

namespace {

class CancelAt final : public Progress {
public:
    explicit CancelAt(int question) : m_left(question) {}
    void report(double, std::string_view) override {}
    bool cancelled() const override { return --m_left < 0; }
    bool asked() const { return m_left < 0; } // it said yes

private:
    mutable std::atomic<int> m_left;
};

// Runs `work` until it is no longer cancelled; how often it could be.
template <class Work>
int timesCancelled(Work work) {
    for (int question = 0; question < 10'000; ++question) {
        CancelAt progress(question);
        const auto result = work(progress);
        if (result) {
            EXPECT_FALSE(progress.asked()) << "it went on after it was cancelled at question " << question;
            return question;
        }
        EXPECT_EQ(result.error().code, ErrorCode::Cancelled) << result.error().text();
    }
    ADD_FAILURE() << "it never ends";
    return 0;
}

class Cancel : public testing::Test {
protected:
    Cancel() {
        auto left = boxPart("left", {{0.1, 0.1, 0.1}, {3, 3, 3}});
        auto right = boxPart("right", {{0.1, 0.1, 0.1}, {3, 3, 3}, {0.1, 0, 0}});
        for (auto* part : {&left, &right})
            addNodeField(*part, "T [K]", [](const Point& at) { return 300 + 100 * at[0]; });
        EXPECT_TRUE(writeCase(std::vector{left, right}, folder / "case.vtm"));
    }
    TempFolder folder;
};

} // namespace

TEST_F(Cancel, OpeningStopsAtEveryQuestion) {
    EXPECT_GT(timesCancelled([&](Progress& progress) { return openForEvaluation(folder / "case.vtm", {}, progress); }),
              3);
}

TEST_F(Cancel, EvaluatingStopsAtEveryQuestionAndLeavesNothingHalf) {
    const auto opened = mustOpen(folder / "case.vtm");
    auto survey = surveyFromJson(Json::parse(R"j({"pyrometer": 1, "cases": [{"name": "c", "file": "case.vtm"}],
        "materials": {"metal": {"conductivity": 20}}, "gauges": [
        {"id": "a", "where": {"part": "left"}, "quantity": "temperature"},
        {"id": "b", "where": {"part": "right"}, "quantity": "heat_balance"}],
        "limits": [{"part": "left", "max": "400 K"}]})j"),
                                 "s");
    ASSERT_TRUE(survey);
    StepContext context;
    context.balances = true;
    EXPECT_GT(timesCancelled([&](Progress& progress) {
                  return evaluate(*survey, survey->cases[0], opened, {}, progress, context);
              }),
              5);
}

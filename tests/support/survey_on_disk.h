// A survey run on cases that lie in a folder, as the command line does.
#pragma once

#include "core/evaluate/survey_run.h"
#include "core/survey/survey_file.h"
#include "tests/support/temp_folder.h"

#include <gtest/gtest.h>

namespace pyro::test {

inline Survey mustRead(const Json& json) {
    auto survey = surveyFromJson(json, "test");
    EXPECT_TRUE(survey) << (survey ? "" : survey.error().text());
    return survey.value_or(Survey{});
}

// Fails the test when it cannot be run at all.
inline SurveyRun runIn(const TempFolder& folder, const Json& survey, const RunOptions& options = {}) {
    NoProgress progress;
    auto run = runSurvey(mustRead(survey), folder / "test.survey.json", options, progress);
    EXPECT_TRUE(run) << (run ? "" : run.error().text());
    return run.value_or(SurveyRun{});
}

} // namespace pyro::test

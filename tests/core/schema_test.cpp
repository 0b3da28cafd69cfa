// docs/survey.schema.json is made from the tables of the document's structs, and everything that is written keeps to it
// by its keys.
#include "core/survey/survey_file.h"
#include "tests/support/temp_folder.h"

#include <cstdlib>
#include <fstream>

#include <gtest/gtest.h>

namespace pyro {
namespace {

const std::filesystem::path schemaFile = PYROMETER_SOURCE "/docs/survey.schema.json";

// Every key of a document that a schema does not describe, by its place.
void unknownKeys(const Json& document, const Json& schema, const Json& root, const std::string& at,
                 std::vector<std::string>& out) {
    if (schema.contains("$ref")) {
        const auto name = schema["$ref"].get<std::string>().substr(std::string("#/definitions/").size());
        return unknownKeys(document, root["definitions"][name], root, at, out);
    }
    if (schema.contains("anyOf") && schema["anyOf"].size() == 2 && schema["anyOf"][1] == Json{{"type", "null"}})
        return unknownKeys(document, schema["anyOf"][0], root, at, out);
    if (document.is_array() && schema.contains("items"))
        for (const auto& one : document)
            unknownKeys(one, schema["items"], root, at + "[]", out);
    if (!document.is_object())
        return;
    for (const auto& [key, value] : document.items()) {
        if (schema.contains("properties") && schema["properties"].contains(key))
            unknownKeys(value, schema["properties"][key], root, at + "." + key, out);
        else if (schema.contains("additionalProperties") && schema["additionalProperties"].is_object())
            unknownKeys(value, schema["additionalProperties"], root, at + "." + key, out);
        else if (!schema.contains("anyOf"))
            out.push_back(at + "." + key);
    }
}

} // namespace

TEST(Schema, IsTheOneThatTheTablesMake) {
    const auto made = surveySchema().dump(2) + "\n";
    if (std::getenv("PYROMETER_UPDATE") != nullptr)
        std::ofstream(schemaFile) << made;
    EXPECT_EQ(readText(schemaFile), made)
        << "run PYROMETER_UPDATE=1 build/bin/test_core --gtest_filter=Schema.* and commit what it writes";
}

TEST(Schema, DescribesEveryKeyThatIsWritten) {
    for (const auto& entry : std::filesystem::directory_iterator(PYROMETER_SOURCE "/demos/larkspur")) {
        if (!entry.path().string().ends_with(".survey.json"))
            continue;
        const auto survey = loadSurvey(entry.path());
        ASSERT_TRUE(survey) << survey.error().text();
        auto withAll = *survey;
        withAll.view.isolated = "a";
        withAll.view.camera = CameraState{};
        withAll.view.range = {1.0, 2.0};
        withAll.view.field.labels = {{1, 2, 3}};
        withAll.view.field.sections.push_back({"S", {{0, 0, 0}, {0, 0, 1}}});
        withAll.report = {"A.", "note", "TR-1", "logo.png", {"degF"}, {}, "comma", Json::object()};
        withAll.report.blocks.emplace_back();
        withAll.report.blocks.back().kind = "text";
        withAll.report.blocks.back().size = 0.5;
        withAll.report.blocks.back().off = true;
        withAll.report.blocks.back().decimals = 2;
        withAll.report.blocks.back().ground = "graphite";
        withAll.report.blocks.back().scale = "inside";
        withAll.report.blocks.back().labels = "none";
        withAll.report.blocks.back().legend = "parts";
        std::vector<std::string> unknown;
        unknownKeys(surveyToJson(withAll), surveySchema(), surveySchema(), "survey", unknown);
        EXPECT_TRUE(unknown.empty()) << entry.path() << ": " << unknown.front();
        EXPECT_EQ(*surveyFromJson(surveyToJson(withAll), "again"), withAll) << "what is written is read again";
    }
}

} // namespace pyro

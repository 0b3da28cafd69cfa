// Surveys as JSON (docs/formats.md, docs/survey.schema.json).
#pragma once

#include "core/feedback/whole_file.h"
#include "core/survey/survey.h"

#include <filesystem>

namespace pyro {

// Errors: FileMissing, FileUnreadable, Syntax (with line and column), WrongVersion, WrongType, WrongUnit; `where`
// names file and key, e.g. "demo.survey.json, limits[2].max".
Result<Survey> loadSurvey(const std::filesystem::path& file);
Result<Survey> surveyFromJson(const Json& json, const std::string& where);
// `cases[].split` alone.
Result<CaseSplit> splitFromJson(const Json& json, const std::string& where);
Json surveyToJson(const Survey& survey);
// As docs/survey.schema.json has it: made from the tables of the structs.
Json surveySchema();

// Written beside the target and renamed, so that a failing disk leaves the old file whole. Errors: WriteFailed.
Done saveSurvey(const Survey& survey, const std::filesystem::path& file);

// A file as the survey names it: absolute, or within the survey's folder.
std::filesystem::path besideSurvey(const std::string& written, const std::filesystem::path& folder);
// A case's file, resolved against the folder of the survey.
std::filesystem::path caseFile(const CaseEntry& entry, const std::filesystem::path& surveyFile);

} // namespace pyro

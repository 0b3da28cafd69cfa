#include "core/survey/survey_file.h"

#include "core/feedback/whole_file.h"

#include <fstream>

namespace pyro {

Result<Survey> loadSurvey(const std::filesystem::path& file) {
    std::error_code status;
    if (!std::filesystem::exists(file, status))
        return fail(ErrorCode::FileMissing, "the survey does not exist", file.string(), "Check its name and folder");
    std::ifstream stream(file, std::ios::binary);
    if (!stream || !std::filesystem::is_regular_file(file, status))
        return fail(ErrorCode::FileUnreadable, "the survey cannot be read", file.string(), "Check its permissions");
    try {
        const auto json = Json::parse(stream);
        return surveyFromJson(json, file.filename().string());
    } catch (const Json::parse_error& problem) {
        const std::string message = problem.what();
        const auto at = message.find("line ");
        return fail(ErrorCode::Syntax,
                    "the survey is not valid JSON: " + message.substr(at == std::string::npos ? 0 : at, 160),
                    file.string(), "Correct that place; a comma or quotation mark is often missing just before it");
    }
}

Done saveSurvey(const Survey& survey, const std::filesystem::path& file) {
    return writeFileAtomically(file, surveyToJson(survey).dump(2) + "\n");
}

std::filesystem::path besideSurvey(const std::string& written, const std::filesystem::path& folder) {
    const std::filesystem::path path(written);
    return path.is_absolute() ? path : folder / path;
}

std::filesystem::path caseFile(const CaseEntry& entry, const std::filesystem::path& surveyFile) {
    return besideSurvey(entry.file, surveyFile.parent_path());
}

} // namespace pyro

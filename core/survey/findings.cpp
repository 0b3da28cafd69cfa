#include "core/survey/findings.h"

#include "core/survey/json_read.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

Severity severityNamed(const std::string& name) {
    for (const auto one : {Severity::Note, Severity::Serious})
        if (severityName(one) == name)
            return one;
    return Severity::Warning;
}

void putOrErase(Json& json, const char* key, const std::string& text) {
    if (text.empty())
        json.erase(key);
    else
        json[key] = text;
}

void putFinding(Json& json, const Finding& finding) {
    json["text"] = finding.text;
    json["severity"] = severityName(finding.severity);
    json["state"] = finding.state;
    putOrErase(json, "case", finding.caseName);
    putOrErase(json, "check", finding.check);
    putOrErase(json, "part", finding.part);
    if (finding.step)
        json["step"] = *finding.step;
    if (finding.at)
        json["at"] = *finding.at;
    if (finding.view) {
        json["view"] = Json::object();
        putView(json["view"], *finding.view);
    }
}

} // namespace

std::vector<std::pair<Finding, std::size_t>> findingsOf(const Survey& survey) {
    std::vector<std::pair<Finding, std::size_t>> read;
    for (std::size_t i = 0; i < survey.findings.size(); ++i) {
        const auto& json = survey.findings[i];
        if (!json.is_object())
            continue;
        Finding finding;
        finding.text = json_read::text(json, "text", "");
        if (finding.text.empty())
            continue;
        finding.severity = severityNamed(json_read::text(json, "severity", ""));
        finding.state = json_read::text(json, "state", "open");
        finding.caseName = json_read::text(json, "case", "");
        finding.check = json_read::text(json, "check", "");
        finding.part = json_read::text(json, "part", "");
        finding.at = json_read::point(json, "at");
        if (const auto step = json_read::number(json, "step"))
            finding.step = static_cast<int>(*step);
        if (const auto view = json.find("view"); view != json.end() && view->is_object())
            finding.view = viewFrom(*view);
        read.emplace_back(std::move(finding), i);
    }
    return read;
}

Survey withFinding(Survey survey, const Finding& finding) {
    survey.findings.push_back(Json::object());
    putFinding(survey.findings.back(), finding);
    return survey;
}

Result<Survey> withFindingAt(Survey survey, std::size_t position, const Finding& finding) {
    if (position >= survey.findings.size() || !survey.findings[position].is_object())
        return fail(ErrorCode::NameUnknown, "this finding is not there any more");
    if (finding.text.empty())
        return fail(ErrorCode::WrongType, "a finding needs a text", {}, "Remove it when it is no longer one");
    if (std::ranges::find(findingStates, finding.state) == findingStates.end())
        return fail(ErrorCode::WrongType,
                    fmt::format("\"{}\" is not one of {}", finding.state, fmt::join(findingStates, ", ")));
    putFinding(survey.findings[position], finding);
    return survey;
}

Survey withoutFinding(Survey survey, std::size_t position) {
    if (position < survey.findings.size())
        survey.findings.erase(position);
    return survey;
}

} // namespace pyro

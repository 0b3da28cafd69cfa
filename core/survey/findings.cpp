#include "core/survey/findings.h"

#include "core/survey/survey.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {

template <>
struct KeyValue<Severity>
    : NamedKeyValue<Severity, severityName, Severity::Note, Severity::Warning, Severity::Serious> {};

template <>
std::span<const KeyRow<Finding>> rowsOf<Finding>() {
    using Row = RowsOf<Finding>;
    static constexpr KeyRow<Finding> rows[]{
        Row::needed<&Finding::text>("text", ""),
        Row::of<&Finding::severity>("severity", ""),
        Row::by(
            "state", "",
            [](const Json& json, const ReadPlace& place, Finding& into) {
                KeyValue<std::string>::read(json, place, into.state);
            },
            [](const Finding& from) { return Json(from.state); },
            [] {
                return Json{{"enum", findingStates}};
            }),
        Row::of<&Finding::caseName>("case", "that it was raised on"),
        Row::of<&Finding::step>("step", ""),
        Row::of<&Finding::check>("check", "key of the check it was raised from"),
        Row::of<&Finding::part>("part", ""),
        Row::of<&Finding::at>("at", "m"),
        Row::of<&Finding::view>("view", "as it was looked at"),
    };
    return rows;
}

Survey withFinding(Survey survey, const Finding& finding) {
    survey.findings.push_back(finding);
    return survey;
}

Result<Survey> withFindingAt(Survey survey, std::size_t position, const Finding& finding) {
    if (position >= survey.findings.size())
        return fail(ErrorCode::NameUnknown, "this finding is not there any more");
    if (finding.text.empty())
        return fail(ErrorCode::WrongType, "a finding needs a text", {}, "Remove it when it is no longer one");
    if (std::ranges::find(findingStates, finding.state) == findingStates.end())
        return fail(ErrorCode::WrongType,
                    fmt::format("\"{}\" is not one of {}", finding.state, fmt::join(findingStates, ", ")));
    survey.findings[position] = finding;
    return survey;
}

Survey withoutFinding(Survey survey, std::size_t position) {
    if (position < survey.findings.size())
        survey.findings.erase(survey.findings.begin() + static_cast<std::ptrdiff_t>(position));
    return survey;
}

} // namespace pyro

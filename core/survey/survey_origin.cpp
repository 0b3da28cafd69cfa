#include "core/survey/survey_origin.h"

#include "core/program/program.h"
#include "core/survey/survey_file.h"

#include <fstream>
#include <sstream>

namespace pyro {
namespace {

// "0.10.2" as numbers to compare; what is none counts as 0.
std::vector<int> numbersOf(const std::string& version) {
    std::vector<int> numbers;
    std::istringstream stream(version);
    for (std::string one; std::getline(stream, one, '.');)
        numbers.push_back(std::atoi(one.c_str()));
    return numbers;
}

// Nothing for what is no file or cannot be read.
std::optional<std::string> originText(const std::filesystem::path& file) {
    std::error_code ignored;
    std::ifstream stream(file, std::ios::binary);
    if (!stream || !std::filesystem::is_regular_file(file, ignored))
        return std::nullopt;
    return std::string(std::istreambuf_iterator<char>(stream), {});
}

Json jsonOf(const std::filesystem::path& file) { return Json::parse(originText(file).value_or(""), nullptr, false); }

class KeyWalk {
public:
    explicit KeyWalk(const Json& schema) : m_root(schema) {}

    std::vector<std::string> walk(const Json& document) {
        look(document, m_root, "");
        return std::move(m_unknown);
    }

private:
    const Json& resolved(const Json& schema) const {
        const auto ref = schema.find("$ref");
        return ref == schema.end() ? schema : m_root.at(Json::json_pointer(ref->get<std::string>().substr(1)));
    }

    void look(const Json& value, const Json& described, const std::string& where) {
        const auto& schema = resolved(described);
        if (const auto choices = schema.find("anyOf"); choices != schema.end())
            return lookAtChoices(value, *choices, where);
        if (value.is_array()) {
            if (const auto items = schema.find("items"); items != schema.end() && items->is_object())
                for (std::size_t at = 0; at < value.size(); ++at)
                    look(value[at], *items, fmt::format("{}[{}]", where, at));
            return;
        }
        const auto properties = schema.find("properties");
        const auto others = schema.find("additionalProperties");
        if (!value.is_object() || (properties == schema.end() && others == schema.end()))
            return;
        for (const auto& [key, child] : value.items()) {
            const auto place = where.empty() ? key : where + "." + key;
            if (properties != schema.end() && properties->contains(key))
                look(child, properties->at(key), place);
            else if (others != schema.end() && others->is_object())
                look(child, *others, place);
            else
                m_unknown.push_back(place);
        }
    }

    // The choice that knows most of it is the one meant.
    void lookAtChoices(const Json& value, const Json& choices, const std::string& where) {
        std::optional<std::vector<std::string>> fewest;
        for (const auto& one : choices) {
            const auto& schema = resolved(one);
            const bool fits = schema.value("type", Json()) == (value.is_array()    ? "array"
                                                               : value.is_object() ? "object"
                                                                                   : "");
            if (!fits && schema.contains("type"))
                continue;
            const auto before = std::exchange(m_unknown, {});
            look(value, one, where);
            auto found = std::exchange(m_unknown, before);
            if (!fewest || found.size() < fewest->size())
                fewest = std::move(found);
        }
        if (fewest)
            m_unknown.insert(m_unknown.end(), fewest->begin(), fewest->end());
    }

    const Json& m_root;
    std::vector<std::string> m_unknown;
};

} // namespace

bool SurveyOrigin::isNewer() const {
    return format > surveyVersion || numbersOf(program) > numbersOf(programVersion());
}
bool SurveyOrigin::isOlder() const { return !isNewer() && numbersOf(program) < numbersOf(programVersion()); }

std::string SurveyOrigin::writtenBy() const {
    if (!program.empty())
        return "Pyrometer " + program;
    return format > surveyVersion ? fmt::format("a newer Pyrometer (format {})", format) : "Pyrometer 0.1 or by hand";
}

std::string SurveyOrigin::unknownText() const {
    constexpr std::size_t mostTold = 6;
    std::string text;
    for (std::size_t at = 0; at < std::min(unknown.size(), mostTold); ++at)
        text += (at == 0 ? "; not known here: " : ", ") + unknown[at];
    if (unknown.size() > mostTold)
        text += fmt::format(" and {} more", unknown.size() - mostTold);
    return text;
}

Remarks newerRemarks(const Survey& survey, const std::filesystem::path& file) {
    if (!SurveyOrigin{surveyVersion, survey.savedBy, {}}.isNewer())
        return {};
    const auto opened = openSurvey(file);
    const auto origin = opened ? opened->origin : SurveyOrigin{surveyVersion, survey.savedBy, {}};
    return {{Severity::Warning, "newer-survey",
             fmt::format("written by {}, this is {}{}", origin.writtenBy(), programVersion(), origin.unknownText()),
             file.string()}};
}

std::vector<std::string> unknownKeys(const Json& document, const Json& schema) {
    return KeyWalk(schema).walk(document);
}

Result<OpenedSurvey> openSurvey(const std::filesystem::path& file) {
    SurveyOrigin origin;
    auto known = loadSurvey(file);
    if (known) {
        origin.program = known->savedBy;
        if (origin.isNewer())
            origin.unknown = unknownKeys(jsonOf(file), surveySchema());
        return OpenedSurvey{std::move(*known), std::move(origin)};
    }
    auto json = known.error().code == ErrorCode::WrongVersion ? jsonOf(file) : Json();
    if (json.is_object() && json.contains("pyrometer") && json["pyrometer"].is_number_integer())
        origin.format = json["pyrometer"];
    if (origin.format <= surveyVersion)
        return tl::unexpected(known.error());
    if (const auto program = json.find("saved_by"); program != json.end() && program->is_string())
        origin.program = *program;
    json["pyrometer"] = surveyVersion;
    origin.unknown = unknownKeys(json, surveySchema());
    auto survey = surveyFromJson(json, file.filename().string());
    if (!survey) {
        auto error = survey.error();
        error.what = fmt::format("the survey was written by {}, and this one ({}) does not understand it: {}",
                                 origin.writtenBy(), programVersion(), error.what);
        error.remedy = "Install that version; the file is unchanged";
        return tl::unexpected(error);
    }
    return OpenedSurvey{std::move(*survey), std::move(origin)};
}

Result<std::filesystem::path> keepOlderSurvey(const std::filesystem::path& file) {
    const std::string ending = ".survey.json";
    auto name = file.filename().string();
    if (name.ends_with(ending))
        name.resize(name.size() - ending.size());
    const auto content = originText(file);
    if (!content)
        return fail(ErrorCode::FileUnreadable, "the survey cannot be read any more, so no copy of it is kept",
                    file.string(), "Check its permissions, or save under another name");
    for (int number = 1;; ++number) {
        const auto copy = file.parent_path() /
                          (number == 1 ? fmt::format("{} (before {}){}", name, programVersion(), ending)
                                       : fmt::format("{} (before {}, {}){}", name, programVersion(), number, ending));
        std::error_code ignored;
        if (!std::filesystem::exists(copy, ignored)) {
            if (auto kept = writeFileAtomically(copy, *content, "the copy of the survey as it was"); !kept)
                return tl::unexpected(kept.error());
            return copy;
        }
        if (originText(copy) == content)
            return copy;
    }
}

} // namespace pyro

#include "core/survey/survey_file.h"
#include "core/survey/survey_table.h"

#include <set>

namespace pyro {
namespace {

// Takes a list out of the document whose unreadable entries do not keep it from opening: those are kept aside.
template <class Item>
void readLeniently(Json& left, const char* key, const std::string& where, std::vector<Item>& into,
                   std::map<std::string, Json>& unread) {
    const auto found = left.find(key);
    if (found == left.end())
        return;
    if (!found->is_array())
        mistake(ErrorCode::WrongType, "a JSON array is needed here", where + "." + key, "See docs/formats.md");
    for (const auto& json : *found)
        try {
            KeyValue<Item>::read(json, {where, true}, into.emplace_back());
        } catch (const Mistake&) {
            into.pop_back();
            unread[key].push_back(json);
        }
    left.erase(key);
}

template <class Item>
void writeWithUnread(Json& json, const char* key, const std::vector<Item>& items, const Survey& survey) {
    json[key] = Json::array();
    for (const auto& one : items)
        json[key].push_back(KeyValue<Item>::write(one));
    if (const auto kept = survey.unread.find(key); kept != survey.unread.end())
        for (const auto& one : kept->second)
            json[key].push_back(one);
}

template <class T>
void readKey(Json& left, const char* key, const ReadPlace& place, T& into) {
    const auto found = left.find(key);
    if (found == left.end())
        return;
    KeyValue<T>::read(*found, place.at(key), into);
    left.erase(key);
}

void checkVersion(Json& left, const std::string& where) {
    const auto version = left.find("pyrometer");
    const bool there = version != left.end();
    if (!there || !version->is_number_integer() || version->get<int>() != surveyVersion)
        mistake(ErrorCode::WrongVersion,
                there ? fmt::format("version {} is not known", version->dump())
                      : "this is no survey: the key \"pyrometer\" is missing",
                where, fmt::format("This program reads \"pyrometer\": {}", surveyVersion));
    left.erase(version);
}

Survey readSurvey(const Json& json, const std::string& where) {
    if (!json.is_object())
        mistake(ErrorCode::WrongType, "an object in braces is needed here", where, "See docs/formats.md");
    auto left = json;
    checkVersion(left, where);
    const ReadPlace place{where};
    Survey survey;
    readKey(left, "saved_by", place, survey.savedBy);
    readKey(left, "title", place, survey.title);
    readKey(left, "cases", place, survey.cases);
    readKey(left, "materials", place, survey.materials);
    readKey(left, "gauges", place, survey.gauges);
    readKey(left, "limits", place, survey.limits);
    readKey(left, "estimate", place, survey.estimate);
    readKey(left, "compare", place, survey.compare);
    readKey(left, "sweep", place, survey.sweep);
    if (const auto grids = left.find("grids"); grids != left.end() && grids->is_object())
        *grids = Json::array({*grids});
    readKey(left, "grids", place, survey.grids);
    readKey(left, "measured", place, survey.measured);
    readLeniently(left, "charts", where, survey.charts, survey.unread);
    readLeniently(left, "viewpoints", where, survey.viewpoints, survey.unread);
    readLeniently(left, "findings", where, survey.findings, survey.unread);
    readKey(left, "report", {where, true}, survey.report);
    readKey(left, "view", place, survey.view);
    survey.rest = std::move(left);
    std::set<std::string> seen;
    for (const auto& entry : survey.cases)
        if (!seen.insert(entry.name).second)
            mistake(ErrorCode::WrongType, fmt::format("\"{}\" occurs twice", entry.name), place.at("cases").where,
                    "Give each its own name");
    return survey;
}

} // namespace

Result<Survey> surveyFromJson(const Json& json, const std::string& where) {
    return caught([&] { return readSurvey(json, where); });
}

Json surveyToJson(const Survey& survey) {
    const auto list = [](const auto& items) {
        auto json = Json::array();
        for (const auto& one : items)
            json.push_back(KeyValue<std::remove_cvref_t<decltype(one)>>::write(one));
        return json;
    };
    Json json{{"pyrometer", surveyVersion}, {"title", survey.title}, {"cases", list(survey.cases)}};
    if (!survey.savedBy.empty())
        json["saved_by"] = survey.savedBy;
    json["materials"] = Json::object();
    for (const auto& [name, material] : survey.materials)
        json["materials"][name] = KeyValue<Material>::write(material);
    json["gauges"] = list(survey.gauges);
    json["limits"] = list(survey.limits);
    if (survey.estimate)
        json["estimate"] = KeyValue<EstimateWish>::write(*survey.estimate);
    if (survey.compare)
        json["compare"] = KeyValue<CompareWish>::write(*survey.compare);
    if (survey.sweep)
        json["sweep"] = KeyValue<SweepWish>::write(*survey.sweep);
    if (!survey.grids.empty())
        json["grids"] = survey.grids.size() == 1 ? KeyValue<GridsWish>::write(survey.grids[0]) : list(survey.grids);
    if (!survey.measured.empty())
        json["measured"] = list(survey.measured);
    if (!survey.charts.empty() || survey.unread.contains("charts"))
        writeWithUnread(json, "charts", survey.charts, survey);
    writeWithUnread(json, "viewpoints", survey.viewpoints, survey);
    writeWithUnread(json, "findings", survey.findings, survey);
    json["report"] = KeyValue<ReportSettings>::write(survey.report);
    if (!(survey.view == ViewState{}))
        json["view"] = KeyValue<ViewState>::write(survey.view);
    for (const auto& [key, value] : survey.rest.items())
        json[key] = value;
    return json;
}

Json surveySchema() {
    const Json written{
        {"description", "A number with its unit, or a bare number in SI."},
        {"anyOf", {Json{{"type", "number"}}, Json{{"type", "string"}, {"pattern", R"(^\s*[-+]?(\d|\.\d))"}}}}};
    const auto list = [](const char* name) {
        return Json{{"type", "array"}, {"items", {{"$ref", std::string("#/definitions/") + name}}}};
    };
    return {{"$schema", "http://json-schema.org/draft-07/schema#"},
            {"title", "Pyrometer survey"},
            {"description", "The document of docs/formats.md. Unknown keys are allowed and kept."},
            {"type", "object"},
            {"required", Json::array({"pyrometer"})},
            {"properties",
             {{"pyrometer", {{"const", surveyVersion}}},
              {"saved_by", {{"type", "string"}, {"description", "Version of the program that wrote the file last."}}},
              {"title", {{"type", "string"}}},
              {"cases", list("case")},
              {"materials", {{"type", "object"}, {"additionalProperties", {{"$ref", "#/definitions/material"}}}}},
              {"gauges", list("gauge")},
              {"limits", list("limit")},
              {"estimate", KeyValue<EstimateWish>::schema()},
              {"compare", KeyValue<CompareWish>::schema()},
              {"sweep", KeyValue<SweepWish>::schema()},
              {"grids", {{"anyOf", {{{"$ref", "#/definitions/grids"}}, list("grids")}}}},
              {"measured", {{"type", "array"}, {"items", KeyValue<MeasuredWish>::schema()}}},
              {"charts", list("chart")},
              {"viewpoints", list("viewpoint")},
              {"findings", list("finding")},
              {"report", KeyValue<ReportSettings>::schema()},
              {"view", {{"$ref", "#/definitions/view"}}}}},
            {"definitions",
             {{"measured", written},
              {"case", KeyValue<CaseEntry>::schema()},
              {"material", KeyValue<Material>::schema()},
              {"gauge", KeyValue<Gauge>::schema()},
              {"limit", KeyValue<Limit>::schema()},
              {"grids", KeyValue<GridsWish>::schema()},
              {"chart", KeyValue<ChartView>::schema()},
              {"viewpoint", KeyValue<Viewpoint>::schema()},
              {"finding", KeyValue<Finding>::schema()},
              {"view", KeyValue<ViewState>::schema()}}}};
}

} // namespace pyro

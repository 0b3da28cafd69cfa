#include "core/survey/viewpoints.h"

#include "core/survey/json_read.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

Json* find(Survey& survey, const std::string& name) {
    for (auto& json : survey.viewpoints)
        if (json.is_object() && json_read::text(json, "name", "") == name)
            return &json;
    return nullptr;
}

} // namespace

std::vector<Viewpoint> viewpointsOf(const Survey& survey) {
    std::vector<Viewpoint> read;
    for (const auto& json : survey.viewpoints) {
        if (!json.is_object() || !json.contains("view") || !json["view"].is_object())
            continue;
        Viewpoint viewpoint{json_read::text(json, "name", ""), viewFrom(json["view"]),
                            json_read::text(json, "thumbnail", "")};
        if (!viewpoint.name.empty())
            read.push_back(std::move(viewpoint));
    }
    return read;
}

std::string freeViewpointName(const Survey& survey) {
    const auto known = viewpointsOf(survey);
    for (int number = 1;; ++number) {
        auto name = fmt::format("Viewpoint {}", number);
        if (std::ranges::find(known, name, &Viewpoint::name) == known.end())
            return name;
    }
}

Survey withViewpoint(Survey survey, const Viewpoint& viewpoint) {
    auto* json = find(survey, viewpoint.name);
    if (json == nullptr) {
        survey.viewpoints.push_back({{"name", viewpoint.name}});
        json = &survey.viewpoints.back();
    }
    (*json)["view"] = Json::object();
    putView((*json)["view"], viewpoint.view);
    (*json)["thumbnail"] = viewpoint.thumbnail;
    return survey;
}

Survey withoutViewpoint(Survey survey, const std::string& name) {
    std::erase_if(survey.viewpoints.get_ref<Json::array_t&>(),
                  [&](const Json& json) { return json.is_object() && json_read::text(json, "name", "") == name; });
    return survey;
}

Result<Survey> withViewpointRenamed(Survey survey, const std::string& name, const std::string& newName) {
    if (newName.empty() || (newName != name && find(survey, newName) != nullptr))
        return fail(ErrorCode::WrongType,
                    newName.empty() ? "a viewpoint needs a name"
                                    : fmt::format("there is a viewpoint \"{}\" already", newName),
                    "viewpoints", "Choose another name");
    auto* json = find(survey, name);
    if (json == nullptr)
        return fail(ErrorCode::NameUnknown, fmt::format("there is no viewpoint \"{}\"", name), "viewpoints",
                    "Choose one of the list");
    (*json)["name"] = newName;
    return survey;
}

ViewState restored(const Viewpoint& viewpoint, const ViewState& now) {
    auto view = viewpoint.view;
    view.caseName = now.caseName;
    view.step = now.step;
    view.stage = now.stage;
    return view;
}

} // namespace pyro

#include "core/survey/viewpoints.h"

#include "core/survey/survey.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {

template <>
std::span<const KeyRow<Viewpoint>> rowsOf<Viewpoint>() {
    using Row = RowsOf<Viewpoint>;
    static constexpr KeyRow<Viewpoint> rows[]{
        Row::needed<&Viewpoint::name>("name", ""),
        Row::required(Row::of<&Viewpoint::view>("view", "")),
        Row::of<&Viewpoint::thumbnail>("thumbnail", "PNG, base64"),
        Row::of<&Viewpoint::withCase>("with_case", "whether it belongs to the case and step of its view"),
    };
    return rows;
}

namespace {

Viewpoint* find(Survey& survey, const std::string& name) {
    const auto found = std::ranges::find(survey.viewpoints, name, &Viewpoint::name);
    return found == survey.viewpoints.end() ? nullptr : &*found;
}

} // namespace

std::string freeViewpointName(const Survey& survey) {
    const auto& known = survey.viewpoints;
    for (int number = 1;; ++number) {
        auto name = fmt::format("Viewpoint {}", number);
        if (std::ranges::find(known, name, &Viewpoint::name) == known.end())
            return name;
    }
}

namespace {

void nameCase(Viewpoint& viewpoint, const Survey& survey) {
    if (viewpoint.withCase && viewpoint.view.caseName.empty() && !survey.cases.empty())
        viewpoint.view.caseName = survey.cases.front().name;
}

} // namespace

Survey withViewpointOfCase(Survey survey, const std::string& name, bool withCase) {
    if (auto* known = find(survey, name)) {
        known->withCase = withCase;
        nameCase(*known, survey);
    }
    return survey;
}

Survey withViewpoint(Survey survey, const Viewpoint& viewpoint) {
    if (auto* known = find(survey, viewpoint.name)) {
        known->view = viewpoint.view;
        known->thumbnail = viewpoint.thumbnail;
        known->withCase = known->withCase || viewpoint.withCase;
        nameCase(*known, survey);
    } else {
        survey.viewpoints.push_back(viewpoint);
    }
    return survey;
}

Survey withoutViewpoint(Survey survey, const std::string& name) {
    std::erase_if(survey.viewpoints, [&](const Viewpoint& one) { return one.name == name; });
    return survey;
}

Result<Survey> withViewpointRenamed(Survey survey, const std::string& name, const std::string& newName) {
    if (newName.empty() || (newName != name && find(survey, newName) != nullptr))
        return fail(ErrorCode::WrongType,
                    newName.empty() ? "a viewpoint needs a name"
                                    : fmt::format("there is a viewpoint \"{}\" already", newName),
                    "viewpoints", "Choose another name");
    auto* known = find(survey, name);
    if (known == nullptr)
        return fail(ErrorCode::NameUnknown, fmt::format("there is no viewpoint \"{}\"", name), "viewpoints",
                    "Choose one of the list");
    known->name = newName;
    for (auto& block : survey.report.blocks)
        if (block.kind == "viewpoint") {
            std::ranges::replace(block.rows, name, newName);
            if (block.name == name)
                block.name = newName;
        }
    return survey;
}

ViewState restored(const Viewpoint& viewpoint, const ViewState& now) {
    auto view = viewpoint.view;
    if (!viewpoint.withCase) {
        view.caseName = now.caseName;
        view.step = now.step;
    }
    view.stage = now.stage;
    return view;
}

} // namespace pyro

#include "core/survey/view_state.h"

#include <algorithm>
#include <cmath>

namespace pyro {
namespace {

std::optional<Point> pointIn(const Json& json, const char* key) {
    const auto found = json.find(key);
    if (found == json.end() || !found->is_array() || found->size() != 3)
        return std::nullopt;
    Point point{};
    for (std::size_t axis = 0; axis < 3; ++axis) {
        if (!(*found)[axis].is_number())
            return std::nullopt;
        point[axis] = (*found)[axis].get<double>();
    }
    return point;
}

std::optional<CameraState> cameraIn(const Json& view) {
    const auto found = view.find("camera");
    if (found == view.end() || !found->is_object())
        return std::nullopt;
    const auto position = pointIn(*found, "position");
    const auto focus = pointIn(*found, "focus");
    const auto up = pointIn(*found, "up");
    const auto scale = found->find("scale");
    if (!position || !focus || !up || scale == found->end() || !scale->is_number() || !(scale->get<double>() > 0))
        return std::nullopt;
    return CameraState{*position, *focus, *up, scale->get<double>()};
}

std::string textIn(const Json& view, const char* key, const std::string& otherwise) {
    const auto found = view.find(key);
    return found != view.end() && found->is_string() ? found->get<std::string>() : otherwise;
}

std::optional<std::array<double, 2>> rangeIn(const Json& view) {
    const auto found = view.find("range");
    if (found == view.end() || !found->is_array() || found->size() != 2 || !(*found)[0].is_number() ||
        !(*found)[1].is_number() || !((*found)[0].get<double>() < (*found)[1].get<double>()))
        return std::nullopt;
    return std::array<double, 2>{(*found)[0].get<double>(), (*found)[1].get<double>()};
}

} // namespace

ViewState viewOf(const Survey& survey) {
    const auto& json = survey.view;
    ViewState view;
    view.stage = textIn(json, "stage", view.stage);
    view.caseName = textIn(json, "case", "");
    view.quantity = textIn(json, "quantity", view.quantity);
    view.unit = temperatureUnitFromName(textIn(json, "temperature_unit", "degC")).value_or(view.unit);
    if (const auto isolated = textIn(json, "isolated", ""); !isolated.empty())
        view.isolated = isolated;
    if (const auto hidden = json.find("hidden"); hidden != json.end() && hidden->is_array())
        for (const auto& part : *hidden)
            if (part.is_string())
                view.hidden.insert(part.get<std::string>());
    if (const auto opacity = json.find("opacity"); opacity != json.end() && opacity->is_object())
        for (const auto& [part, value] : opacity->items())
            if (value.is_number())
                view.opacity[part] = std::clamp(value.get<double>(), 0.0, 1.0);
    view.range = rangeIn(json);
    view.camera = cameraIn(json);
    return view;
}

Survey withView(Survey survey, const ViewState& view) {
    auto& json = survey.view;
    json["stage"] = view.stage;
    json["case"] = view.caseName;
    json["quantity"] = view.quantity;
    json["temperature_unit"] = udunitsName(view.unit);
    json["hidden"] = view.hidden;
    json["opacity"] = view.opacity;
    json["isolated"] = view.isolated ? Json(*view.isolated) : Json(nullptr);
    json["range"] = view.range ? Json(*view.range) : Json(nullptr);
    json["camera"] = view.camera ? Json{{"position", view.camera->position},
                                        {"focus", view.camera->focus},
                                        {"up", view.camera->up},
                                        {"scale", view.camera->scale}}
                                 : Json(nullptr);
    return survey;
}

} // namespace pyro

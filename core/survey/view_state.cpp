#include "core/survey/view_state.h"

#include "core/survey/json_read.h"

#include <algorithm>

namespace pyro {
namespace {

std::optional<CameraState> cameraIn(const Json& view) {
    const auto found = view.find("camera");
    if (found == view.end() || !found->is_object())
        return std::nullopt;
    const auto position = json_read::point(*found, "position");
    const auto focus = json_read::point(*found, "focus");
    const auto up = json_read::point(*found, "up");
    const auto scale = found->find("scale");
    if (!position || !focus || !up || scale == found->end() || !scale->is_number() || !(scale->get<double>() > 0))
        return std::nullopt;
    return CameraState{*position, *focus, *up, scale->get<double>()};
}

std::optional<std::array<double, 2>> rangeIn(const Json& view) {
    const auto found = view.find("range");
    if (found == view.end() || !found->is_array() || found->size() != 2 || !(*found)[0].is_number() ||
        !(*found)[1].is_number() || !((*found)[0].get<double>() < (*found)[1].get<double>()))
        return std::nullopt;
    return std::array<double, 2>{(*found)[0].get<double>(), (*found)[1].get<double>()};
}

} // namespace

ViewState viewFrom(const Json& json) {
    ViewState view;
    view.stage = json_read::text(json, "stage", view.stage);
    view.caseName = json_read::text(json, "case", "");
    if (const auto step = json.find("step");
        step != json.end() && step->is_number_integer() && *step >= 0 && *step < 1'000'000'000)
        view.step = step->get<int>();
    view.quantity = json_read::text(json, "quantity", view.quantity);
    view.chart = static_cast<std::size_t>(std::clamp(json_read::number(json, "chart").value_or(0), 0.0, 1000.0));
    view.unit = temperatureUnitFromName(json_read::text(json, "temperature_unit", "degC")).value_or(view.unit);
    if (const auto units = json.find("units"); units != json.end() && units->is_object())
        for (const auto& [quantity, unit] : units->items())
            if (unit.is_string())
                view.units[quantity] = unit.get<std::string>();
    if (const auto decimals = json.find("decimals"); decimals != json.end() && decimals->is_object())
        for (const auto& [quantity, count] : decimals->items())
            if (count.is_number_integer() && count >= 0 && count <= mostDecimals)
                view.decimals[quantity] = count.get<int>();
    if (const auto component = json_read::text(json, "component", "");
        component == "x" || component == "y" || component == "z")
        view.component = component;
    if (const auto isolated = json_read::text(json, "isolated", ""); !isolated.empty())
        view.isolated = isolated;
    view.hidden = json_read::names(json, "hidden");
    view.boundaries = json_read::names(json, "boundaries");
    if (const auto opacity = json.find("opacity"); opacity != json.end() && opacity->is_object())
        for (const auto& [part, value] : opacity->items())
            if (value.is_number())
                view.opacity[part] = std::clamp(value.get<double>(), 0.0, 1.0);
    view.range = rangeIn(json);
    view.camera = cameraIn(json);
    view.field = fieldLookFrom(json);
    return view;
}

void putView(Json& json, const ViewState& view) {
    json["stage"] = view.stage;
    json["case"] = view.caseName;
    json["step"] = view.step ? Json(*view.step) : Json(nullptr);
    json["quantity"] = view.quantity;
    json["temperature_unit"] = udunitsName(view.unit);
    if (view.chart > 0)
        json["chart"] = view.chart;
    else
        json.erase("chart");
    json["units"] = view.units;
    json["decimals"] = view.decimals;
    json["component"] = view.component;
    json["hidden"] = view.hidden;
    json["boundaries"] = view.boundaries;
    json["opacity"] = view.opacity;
    json["isolated"] = view.isolated ? Json(*view.isolated) : Json(nullptr);
    json["range"] = view.range ? Json(*view.range) : Json(nullptr);
    json["camera"] = view.camera ? Json{{"position", view.camera->position},
                                        {"focus", view.camera->focus},
                                        {"up", view.camera->up},
                                        {"scale", view.camera->scale}}
                                 : Json(nullptr);
    putFieldLook(json, view.field);
}

Survey withView(Survey survey, const ViewState& view) {
    putView(survey.view, view);
    return survey;
}

} // namespace pyro

#include "core/survey/survey_file.h"

#include <cstdio>
#include <fmt/format.h>
#include <unistd.h>

namespace pyro {
namespace {

void put(Json& json, const char* key, const std::string& text) {
    if (!text.empty())
        json[key] = text;
}
template <class Si>
void put(Json& json, const char* key, const std::optional<Written<Si>>& value) {
    if (value)
        json[key] = value->text;
}
void putRest(Json& json, const Json& rest) {
    for (const auto& [key, value] : rest.items())
        json[key] = value;
}

Json toJson(const QuantityChoice& choice) {
    if (choice.off)
        return nullptr;
    Json json = Json::object();
    if (choice.array && *choice.array == joinedName(choice.alongAxes))
        json["array"] = choice.alongAxes;
    else if (choice.array)
        json["array"] = *choice.array;
    if (choice.unit)
        json["unit"] = *choice.unit;
    if (choice.on)
        json["on"] = locationName(*choice.on);
    return json;
}

Json toJson(const PartNote& note) {
    Json json = Json::object();
    put(json, "label", note.label);
    put(json, "material", note.material);
    put(json, "power", note.power);
    put(json, "kind", note.kind);
    put(json, "thickness", note.thickness);
    putRest(json, note.rest);
    return json;
}

Json toJson(const BoundaryNote& note) {
    Json json = Json::object();
    put(json, "label", note.label);
    put(json, "kind", note.kind);
    put(json, "temperature", note.temperature);
    put(json, "surface_resistance", note.surfaceResistance);
    put(json, "film_coefficient", note.filmCoefficient);
    putRest(json, note.rest);
    return json;
}

Json toJson(const Material& material) {
    Json json = Json::object();
    put(json, "conductivity", material.conductivity);
    put(json, "density", material.density);
    put(json, "heat_capacity", material.heatCapacity);
    put(json, "viscosity", material.viscosity);
    putRest(json, material.rest);
    return json;
}

template <class Map>
void putMap(Json& json, const char* key, const Map& map) {
    for (const auto& [name, value] : map)
        json[key][name] = toJson(value);
}

Json toJson(const CaseEntry& entry) {
    Json json{{"name", entry.name}, {"file", entry.file}};
    if (entry.series)
        json["series"] = *entry.series;
    if (!entry.splitWritten.is_null())
        json["split"] = entry.splitWritten;
    put(json, "depth", entry.depth);
    put(json, "ambient", entry.ambient);
    if (!entry.nonlinear.empty())
        json["nonlinear"] = entry.nonlinear;
    if (entry.symmetry)
        json["symmetry_factor"] = *entry.symmetry;
    put(json, "history", entry.history);
    putMap(json, "quantities", entry.quantities);
    putMap(json, "parts", entry.parts);
    putMap(json, "boundaries", entry.boundaries);
    putRest(json, entry.rest);
    return json;
}

Json toJson(const Gauge& gauge) {
    Json json{{"id", gauge.id}};
    put(json, "formula", gauge.formula);
    if (!gauge.where.written.is_null())
        json["where"] = gauge.where.written;
    put(json, "quantity", gauge.quantity);
    put(json, "statistic", gauge.statistic);
    put(json, "unit", gauge.unit);
    put(json, "component", gauge.component);
    putRest(json, gauge.rest);
    return json;
}

Json toJson(const EstimateWish& wish) {
    auto json = Json::object();
    put(json, "ambient", wish.ambient);
    put(json, "power", wish.power);
    putRest(json, wish.rest);
    return json;
}

Json formToJson(const Limit& limit) {
    auto json = Json::object();
    put(json, "level", limit.level);
    put(json, "above", limit.above);
    if (limit.form->parameter == LimitParameter::OtherGauge)
        put(json, "to", limit.than);
    else if (!limit.than.empty())
        json["above"] = Json{{"gauge", limit.than}};
    return json;
}

Json toJson(const Limit& limit) {
    Json json{{std::string(targetKindName(limit.target.kind)), limit.target.name}};
    if (!limit.form->key.empty())
        json[std::string(limit.form->key)] = formToJson(limit);
    put(json, "max", limit.max);
    put(json, "min", limit.min);
    put(json, "margin", limit.margin);
    put(json, "source", limit.source);
    put(json, "kind", limit.kind);
    putRest(json, limit.rest);
    return json;
}

template <class Items>
Json listOf(const Items& items) {
    auto list = Json::array();
    for (const auto& item : items)
        list.push_back(toJson(item));
    return list;
}

bool writeWhole(const std::filesystem::path& file, std::string_view content) {
    std::FILE* stream = std::fopen(file.c_str(), "wb");
    if (stream == nullptr)
        return false;
    const bool written = std::fwrite(content.data(), 1, content.size(), stream) == content.size() &&
                         std::fflush(stream) == 0 && ::fsync(::fileno(stream)) == 0;
    return std::fclose(stream) == 0 && written;
}

} // namespace

Json surveyToJson(const Survey& survey) {
    Json json{{"pyrometer", surveyVersion}, {"title", survey.title}, {"cases", listOf(survey.cases)}};
    json["materials"] = Json::object();
    putMap(json, "materials", survey.materials);
    json["gauges"] = listOf(survey.gauges);
    json["limits"] = listOf(survey.limits);
    if (survey.estimate)
        json["estimate"] = toJson(*survey.estimate);
    if (!survey.charts.empty())
        json["charts"] = survey.charts;
    json["viewpoints"] = survey.viewpoints;
    json["findings"] = survey.findings;
    json["report"] = survey.report;
    if (!survey.view.empty())
        json["view"] = survey.view;
    putRest(json, survey.rest);
    return json;
}

Done writeFileAtomically(const std::filesystem::path& file, std::string_view content) {
    const std::filesystem::path temporary = file.string() + fmt::format(".{}.part", ::getpid());
    const bool written = writeWhole(temporary, content);
    std::error_code renamed;
    if (written)
        std::filesystem::rename(temporary, file, renamed);
    if (written && !renamed)
        return {};
    std::error_code ignored;
    std::filesystem::remove(temporary, ignored);
    return fail(ErrorCode::WriteFailed, "the file cannot be written; what stood there is unchanged", file.string(),
                "Choose another folder, or check its permissions and free space");
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

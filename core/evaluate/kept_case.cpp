#include "core/evaluate/kept_case.h"

#include "core/case/series_watch.h"
#include "core/case/text_hash.h"
#include "core/feedback/whole_file.h"
#include "core/limits/judge.h"
#include "core/survey/survey_file.h"
#include "core/survey/survey_table.h"

#include <fmt/format.h>
#include <fstream>
#include <iterator>
#include <set>

namespace pyro {
namespace {

constexpr int keptVersion = 1; // of the form and of what an evaluation computes

void addStamp(const std::filesystem::path& file, std::set<std::string>& stamps) {
    std::error_code status;
    const auto size = std::filesystem::file_size(file, status);
    const auto changed = std::filesystem::last_write_time(file, status);
    if (!status)
        stamps.insert(fmt::format("{}|{}|{}", file.string(), size, changed.time_since_epoch().count()));
}

// The files that a small text file names between quotation marks, brackets or commas, as collections of blocks, pieces
// and steps do, and those that these name.
void addNamedFiles(const std::filesystem::path& file, std::set<std::string>& stamps, int depth) {
    constexpr std::uintmax_t mostBytes = 4 << 20;
    std::error_code status;
    if (depth > 3 || std::filesystem::file_size(file, status) > mostBytes || status)
        return;
    std::ifstream stream(file, std::ios::binary);
    const std::string text((std::istreambuf_iterator<char>(stream)), std::istreambuf_iterator<char>());
    constexpr std::string_view ends = "\"'<>,;\r\n\t";
    for (std::size_t from = 0; from < text.size();) {
        const auto to = std::min(text.find_first_of(ends, from), text.size());
        const auto word = text.substr(from, to - from);
        from = to + 1;
        if (word.size() < 3 || word.size() > 255 || word.find('.') == std::string::npos ||
            word.find('\0') != std::string::npos)
            continue;
        const auto named = besideSurvey(word, file.parent_path());
        if (!std::filesystem::is_regular_file(named, status) || named == file)
            continue;
        const auto before = stamps.size();
        addStamp(named, stamps);
        if (stamps.size() > before)
            addNamedFiles(named, stamps, depth + 1);
    }
}

std::set<std::string> stampsOfCase(const CaseEntry& entry, const std::filesystem::path& surveyFile) {
    std::set<std::string> stamps;
    const auto file = caseFile(entry, surveyFile);
    for (const auto& stamp : stampsOf(file)) {
        addStamp(stamp.file, stamps);
        addNamedFiles(stamp.file, stamps, 0);
    }
    return stamps;
}

template <class Items>
Json written(const Items& items) {
    auto list = Json::array();
    for (const auto& one : items)
        list.push_back(KeyValue<std::remove_cvref_t<decltype(one)>>::write(one));
    return list;
}

Json numberOrNull(const std::optional<double>& value) { return value ? Json(*value) : Json(nullptr); }
std::optional<double> numberIn(const Json& json, const char* key) {
    const auto found = json.find(key);
    return found != json.end() && found->is_number() ? std::optional(found->get<double>()) : std::nullopt;
}

Json limitToKept(const LimitReading& limit) {
    return {{"value", numberOrNull(limit.value)},
            {"limit", numberOrNull(limit.limit)},
            {"margin", numberOrNull(limit.margin)},
            {"relative", numberOrNull(limit.relativeMargin)},
            {"required", limit.required},
            {"maximum", limit.isMaximum},
            {"unit", limit.unit},
            {"temperature", limit.isTemperature},
            {"verdict", static_cast<int>(limit.verdict)},
            {"why", limit.why}};
}

LimitReading limitFromKept(const Json& json, const Limit& limit) {
    LimitReading out;
    out.target = limit.target;
    out.form = limit.form;
    out.kind = limit.kind;
    out.source = limit.source;
    out.value = numberIn(json, "value");
    out.limit = numberIn(json, "limit");
    out.margin = numberIn(json, "margin");
    out.relativeMargin = numberIn(json, "relative");
    out.required = json.at("required").get<double>();
    out.isMaximum = json.at("maximum").get<bool>();
    out.unit = json.at("unit").get<std::string>();
    out.isTemperature = json.at("temperature").get<bool>();
    out.verdict = static_cast<Verdict>(json.at("verdict").get<int>());
    out.why = json.at("why").get<std::string>();
    return out;
}

} // namespace

KeptCase::KeptCase(const Survey& survey, const CaseEntry& entry, const std::filesystem::path& surveyFile,
                   const RunOptions& options, const std::string& lonePart)
    : m_survey(survey) {
    auto own = entry;
    own.parameters.clear(); // they say nothing of its readings
    auto stamps = stampsOfCase(entry, surveyFile);
    const bool others = survey.estimate || std::ranges::any_of(survey.gauges, [](const Gauge& gauge) {
                            return gauge.rest.contains("minus");
                        });
    for (const auto& other : survey.cases)
        if (others)
            stamps.merge(stampsOfCase(other, surveyFile));
    for (const auto& gauge : survey.gauges) // surfaces from files
        if (const auto surface = gauge.where.written.find("surface");
            gauge.where.written.is_object() && surface != gauge.where.written.end() && surface->is_object())
            addStamp(besideSurvey(surface->value("file", std::string()), surveyFile.parent_path()), stamps);
    Json materials = Json::object();
    for (const auto& [name, material] : survey.materials)
        materials[name] = KeyValue<Material>::write(material);
    const Json key{{"version", keptVersion},
                   {"files", stamps},
                   {"entry", KeyValue<CaseEntry>::write(own)},
                   {"gauges", written(survey.gauges)},
                   {"limits", written(survey.limits)},
                   {"materials", materials},
                   {"cases", others ? written(survey.cases) : Json()},
                   {"step", options.step ? Json(*options.step) : Json()},
                   {"part", lonePart},
                   {"balances", options.balances}};
    m_key = key.dump();
    m_file = storeFolder() / fmt::format("{}-{:016x}.told",
                                         std::filesystem::path(entry.file).stem().string().substr(0, 60),
                                         textHash(m_key));
}

std::optional<SweepCase> KeptCase::load() const {
    std::ifstream stream(m_file, std::ios::binary);
    if (!stream)
        return std::nullopt;
    try {
        const auto json = Json::parse(stream);
        if (json.at("key").get<std::string>() != m_key || json.at("limits").size() != m_survey.limits.size())
            return std::nullopt;
        SweepCase out;
        out.file = json.at("file").get<std::string>();
        for (const auto& [id, gauge] : json.at("gauges").items())
            out.gauges[id] = {numberIn(gauge, "value"), gauge.at("unit").get<std::string>(),
                              gauge.at("temperature").get<bool>()};
        for (std::size_t i = 0; i < m_survey.limits.size(); ++i)
            out.limits.push_back(limitFromKept(json.at("limits")[i], m_survey.limits[i]));
        return out;
    } catch (const Json::exception&) { // cut off, or not ours
        return std::nullopt;
    }
}

void KeptCase::store(const SweepCase& told) const {
    Json json{{"key", m_key}, {"file", told.file}, {"gauges", Json::object()}, {"limits", Json::array()}};
    for (const auto& [id, gauge] : told.gauges)
        json["gauges"][id] = {
            {"value", numberOrNull(gauge.value)}, {"unit", gauge.unit}, {"temperature", gauge.isTemperature}};
    for (const auto& limit : told.limits)
        json["limits"].push_back(limitToKept(limit));
    [[maybe_unused]] const auto kept = writeFileAtomically(m_file, json.dump());
}

} // namespace pyro

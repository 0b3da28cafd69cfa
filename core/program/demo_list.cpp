#include "core/program/demo_list.h"

#include "core/program/program.h"

#include <algorithm>
#include <fmt/format.h>
#include <fstream>

namespace pyro {
namespace {

DemoCase demoCaseFrom(const nlohmann::json& json) {
    return {json.at("input"), json.at("case"), json.value("history", ""), json.value("coarser", 1.0),
            json.value("patch", nlohmann::json())};
}

Demo demoFrom(const nlohmann::json& json, const std::filesystem::path& source) {
    Demo made{json.at("name"), json.at("title"), json.at("about"), json.at("survey"), {}, {}, source};
    made.files = json.value("files", std::vector<std::string>());
    for (const auto& one : json.at("cases"))
        made.cases.push_back(demoCaseFrom(one));
    return made;
}

} // namespace

Result<std::vector<Demo>> shippedDemos() {
    const auto folder = shippedFolder("demos");
    std::vector<Demo> list;
    std::error_code status;
    for (const auto& entry : std::filesystem::directory_iterator(folder, status)) {
        const auto file = entry.path() / "demos.json";
        std::ifstream stream(file, std::ios::binary);
        if (!stream)
            continue;
        try {
            const auto json = nlohmann::json::parse(stream);
            for (const auto& one : json.at("demos"))
                list.push_back(demoFrom(one, entry.path()));
        } catch (const nlohmann::json::exception& problem) {
            return fail(ErrorCode::Syntax, std::string("the list of demos cannot be read: ") + problem.what(),
                        file.string(), "Install the program again");
        }
    }
    if (list.empty())
        return fail(ErrorCode::FileMissing, "no demos are installed with this program", folder.string(),
                    "They belong into share/pyrometer/demos; install the program again");
    return list;
}

Result<Demo> shippedDemo(const std::string& name) {
    const auto list = shippedDemos();
    if (!list)
        return tl::unexpected(list.error());
    const auto found = std::ranges::find(*list, name, &Demo::name);
    if (found != list->end())
        return *found;
    std::string names;
    for (const auto& one : *list)
        names += (names.empty() ? "" : ", ") + one.name;
    return fail(ErrorCode::NameUnknown, fmt::format("there is no demo \"{}\"", name), "demos", "Choose " + names);
}

std::filesystem::path demoFolder() { return cacheFolder() / "demos" / programVersion(); }

bool isSolved(const DemoCase& one, const std::filesystem::path& folder) {
    std::error_code ignored;
    const auto file = folder / one.output;
    auto first = file;
    first.replace_filename(file.stem().string() + "_0000.vtm");
    return std::filesystem::exists(file, ignored) || std::filesystem::exists(first, ignored);
}

bool isSolved(const Demo& demo, const std::filesystem::path& folder) {
    std::error_code ignored;
    return std::filesystem::exists(folder / demo.survey, ignored) &&
           std::ranges::all_of(demo.cases, [&](const DemoCase& one) { return isSolved(one, folder); });
}

} // namespace pyro

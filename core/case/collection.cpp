#include "core/case/collection.h"

#include "core/case/inside_folder.h"

#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <pugixml.hpp>
#include <set>

namespace pyro {

Result<std::vector<CollectedStep>> readCollection(const std::filesystem::path& file) {
    constexpr const char* again = "Have the solver write the file again";
    std::error_code missing;
    if (!std::filesystem::exists(file, missing))
        return fail(ErrorCode::FileMissing, "the file does not exist", file.string(), "Check its name and folder");
    pugi::xml_document document;
    const auto read = document.load_file(file.c_str(), pugi::parse_default & ~pugi::parse_doctype);
    if (!read)
        return fail(ErrorCode::FileUnreadable, fmt::format("the list of steps cannot be read: {}", read.description()),
                    file.string(), again);
    std::vector<CollectedStep> steps;
    std::set<double> times;
    const auto list = document.child("VTKFile").child("Collection");
    for (const auto one : list.children("DataSet")) {
        const auto time = one.attribute("timestep");
        const double seconds = time.empty() ? static_cast<double>(steps.size())
                                            : time.as_double(std::numeric_limits<double>::quiet_NaN());
        const std::string named = one.attribute("file").as_string();
        if (!std::isfinite(seconds) || named.empty())
            return fail(ErrorCode::Syntax, fmt::format("entry {} has no time or no file", steps.size() + 1),
                        file.string(), again);
        const auto inside = insideFolder(file, named);
        if (!inside)
            return fail(ErrorCode::NotSupported, fmt::format("\"{:.200}\" lies out of the folder of the list", named),
                        file.string(), "Copy the files beside the list and have it name them alone");
        if (!times.insert(seconds).second)
            return fail(ErrorCode::NotSupported, fmt::format("several files at the time {:g} s", seconds),
                        file.string(), "Have each step written as one .vtm with its parts, and list those");
        steps.push_back({seconds, *inside});
    }
    if (steps.empty())
        return fail(ErrorCode::NoCells, "the list names no files", file.string(), again);
    return steps;
}

} // namespace pyro

#include "core/case/readers/vector_names.h"

#include <algorithm>
#include <array>
#include <cctype>
#include <map>
#include <optional>
#include <string_view>

namespace pyro {
namespace {

struct Component {
    std::string base;
    std::size_t axis;
};

std::optional<Component> componentOf(const std::string& name) {
    if (name.size() < 2)
        return std::nullopt;
    const auto axis = std::string_view("xyz").find(
        static_cast<char>(std::tolower(static_cast<unsigned char>(name.back()))));
    if (axis == std::string_view::npos)
        return std::nullopt;
    auto base = name.substr(0, name.size() - 1);
    while (base.size() > 1 && base.back() == '_')
        base.pop_back();
    return Component{base, axis};
}

} // namespace

std::vector<JoinedArray> joinVectors(const std::vector<std::string>& names, std::size_t dimensions) {
    const auto none = names.size();
    std::map<std::string, std::vector<std::size_t>> vectors;
    for (std::size_t i = 0; i < names.size(); ++i)
        if (const auto part = componentOf(names[i])) {
            auto& found = vectors[part->base];
            found.resize(3, none);
            found[part->axis] = i;
        }
    std::vector<JoinedArray> out;
    for (std::size_t i = 0; i < names.size(); ++i) {
        const auto part = componentOf(names[i]);
        const auto* whole = part ? &vectors[part->base] : nullptr;
        const bool complete = whole != nullptr && (*whole)[0] < none && (*whole)[1] < none &&
                              ((*whole)[2] < none || dimensions <= 2);
        if (!complete)
            out.push_back({names[i], {i}});
        else if (part->axis == 0)
            out.push_back({part->base, *whole});
    }
    return out;
}

} // namespace pyro

#include "core/case/lower_case.h"
#include "core/trust/checks.h"

#include <fmt/format.h>

namespace pyro {
namespace {

// As one reads it: without blanks, capitals and signs.
std::string heard(const std::string& name) {
    std::string out;
    for (const char c : lowerCase(name))
        if (c != ' ' && c != '_' && c != '-')
            out += c;
    return out;
}

void sharedNamesAnswer(const TrustInput& input, Check& check) {
    std::map<std::string, std::string> seen;
    for (const auto& part : input.readings.parts) {
        const auto [other, isNew] = seen.emplace(heard(input.shown(part.name)), part.name);
        if (isNew)
            continue;
        check.state = CheckState::Review;
        check.part = part.name;
        check.figure = fmt::format("\"{}\" and \"{}\" are shown as {}", other->second, part.name,
                                   input.shown(part.name));
    }
}

} // namespace

constexpr CheckKind sharedNamesCheck{
    .key = "shared-names",
    .title = "No two parts share a name",
    .figure = "all differ",
    .threshold = "none",
    .meaning = "Two parts that read alike are taken for each other in every table: give one of them another label.",
    .applies = [](const TrustInput& input) { return input.readings.parts.size() > 1; },
    .answer = sharedNamesAnswer,
};

} // namespace pyro

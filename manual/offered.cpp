#include "manual/offered.h"

#include <algorithm>
#include <sstream>

namespace pyro {
namespace {

// CLI11 writes a list of choices behind the kind of the value: "GROUND:{white,graphite,transparent}".
void takeType(const std::string& type, OfferedOption& into) {
    into.value = type.substr(0, type.find(':'));
    const auto open = type.find('{');
    if (open == std::string::npos)
        return;
    std::istringstream list(type.substr(open + 1, type.find('}') - open - 1));
    for (std::string one; std::getline(list, one, ',');)
        into.choices.push_back(one);
}

OfferedOption optionOf(const CLI::Option& option) {
    OfferedOption made;
    made.positional = option.get_positional();
    made.required = option.get_required();
    made.meaning = option.get_description();
    made.many = option.get_expected_max() > 1 && option.get_items_expected_max() > 1;
    if (made.positional)
        made.names.push_back(option.get_name(true));
    for (const auto& name : option.get_snames())
        made.names.push_back("-" + name);
    for (const auto& name : option.get_lnames())
        made.names.push_back("--" + name);
    if (option.get_expected_max() > 0) // a flag takes nothing
        takeType(option.get_type_name(), made);
    return made;
}

OfferedCommand commandOf(const CLI::App& app) {
    OfferedCommand made{app.get_name(), app.get_description(), {}};
    for (const auto* option : app.get_options([](const CLI::Option* one) { return !one->get_group().empty(); }))
        made.options.push_back(optionOf(*option));
    std::ranges::stable_partition(made.options, &OfferedOption::positional);
    return made;
}

} // namespace

std::vector<OfferedCommand> offered(const Manual& manual) {
    std::vector<OfferedCommand> list{commandOf(*manual.app)};
    for (const auto* command : manual.app->get_subcommands([](const CLI::App*) { return true; }))
        list.push_back(commandOf(*command));
    return list;
}

} // namespace pyro

// Completions of the three shells that Debian packages carry them for. A value is completed by its choices, by files or
// folders, or by the names of the demos.
#include "manual/offered.h"

#include <fmt/format.h>

namespace pyro {
namespace {

constexpr const char* demoNames = "pyrometer-rig --demo list 2>/dev/null | cut -f1";

std::string joined(const std::vector<std::string>& words, const char* between) {
    return fmt::format("{}", fmt::join(words, between));
}

std::string functionName(const Manual& manual) {
    auto name = "_" + manual.name();
    for (auto& one : name)
        if (one == '-')
            one = '_';
    return name;
}

// In single quotes, as all three shells take it.
std::string quoted(const std::string& text) {
    std::string out = "'";
    for (const char one : text)
        out += one == '\'' ? std::string("'\\''") : std::string(1, one);
    return out + "'";
}

// bash

std::string bashValue(const OfferedOption& option) {
    if (!option.choices.empty())
        return fmt::format("COMPREPLY=($(compgen -W \"{}\" -- \"$now\"))", joined(option.choices, " "));
    if (option.value == "DEMO")
        return fmt::format("COMPREPLY=($(compgen -W \"$({})\" -- \"$now\"))", demoNames);
    if (option.value == "FILE")
        return "COMPREPLY=($(compgen -f -- \"$now\"))";
    if (option.value == "FOLDER")
        return "COMPREPLY=($(compgen -d -- \"$now\"))";
    return "COMPREPLY=()"; // what only the user knows
}

std::string bashCase(const OfferedCommand& command) {
    std::string cases;
    std::string all;
    for (const auto& option : command.options) {
        if (option.positional)
            continue;
        all += (all.empty() ? "" : " ") + joined(option.names, " ");
        if (!option.value.empty())
            cases += fmt::format("        {}) {}; return ;;\n", joined(option.names, "|"), bashValue(option));
    }
    return fmt::format("        case \"$before\" in\n{}        esac\n        words=\"{}\"\n", cases, all);
}

} // namespace

std::string bashCompletion(const Manual& manual) {
    const auto commands = offered(manual);
    std::string names;
    std::string cases;
    for (std::size_t at = 1; at < commands.size(); ++at) {
        names += (names.empty() ? "" : " ") + commands[at].name;
        cases += fmt::format("    {})\n{}        ;;\n", commands[at].name, bashCase(commands[at]));
    }
    cases += fmt::format("    *)\n{}{}        ;;\n", bashCase(commands[0]),
                         names.empty() ? "" : fmt::format("        words=\"{} $words\"\n", names));
    const bool files = commands.size() == 1;
    return fmt::format("# bash completion of {0}\n{1}() {{\n"
                       "    local now=${{COMP_WORDS[COMP_CWORD]}} before=${{COMP_WORDS[COMP_CWORD-1]}} words command=\n"
                       "    [ \"$COMP_CWORD\" -gt 1 ] && command=${{COMP_WORDS[1]}}\n"
                       "    compopt -o filenames 2>/dev/null\n"
                       "    case \"$command\" in\n{2}    esac\n"
                       "    if [[ $now == -* {3}]]; then\n"
                       "        compopt +o filenames 2>/dev/null\n"
                       "        COMPREPLY=($(compgen -W \"$words\" -- \"$now\"))\n"
                       "    else\n"
                       "        COMPREPLY=($(compgen -f -- \"$now\"))\n"
                       "    fi\n}}\ncomplete -F {1} {0}\n",
                       manual.name(), functionName(manual), cases, files ? "" : "|| -z $command ");
}

namespace {

// zsh

std::string zshAction(const OfferedOption& option) {
    if (!option.choices.empty())
        return "(" + joined(option.choices, " ") + ")";
    if (option.value == "DEMO")
        return fmt::format("($({}))", demoNames);
    if (option.value == "FILE")
        return "_files";
    if (option.value == "FOLDER")
        return "_files -/";
    return " ";
}

// In brackets and between colons these have a meaning of their own.
std::string zshText(const std::string& text) {
    std::string out;
    for (const char one : text)
        out += one == ':' || one == '[' || one == ']' ? std::string("\\") + one : std::string(1, one);
    return out;
}

std::string zshArguments(const OfferedCommand& command, const char* indent) {
    std::string out = "_arguments -s";
    for (const auto& option : command.options) {
        if (option.positional) {
            out += fmt::format(
                " \\\n{}{}", indent,
                quoted(fmt::format("{}:{}:{}", option.many ? "*" : "", zshText(option.names[0]), zshAction(option))));
            continue;
        }
        for (const auto& name : option.names)
            out += fmt::format(
                " \\\n{}{}", indent,
                quoted(
                    fmt::format("{}{}[{}]{}", option.many ? "*" : "", name, zshText(option.meaning),
                                option.value.empty() ? "" : fmt::format(":{}:{}", option.value, zshAction(option)))));
    }
    return out + "\n";
}

} // namespace

std::string zshCompletion(const Manual& manual) {
    const auto commands = offered(manual);
    auto text = fmt::format("#compdef {}\n", manual.name());
    if (commands.size() == 1)
        return text + zshArguments(commands[0], "    ");
    text += "local -a commands\ncommands=(\n";
    for (std::size_t at = 1; at < commands.size(); ++at)
        text += "    " + quoted(commands[at].name + ":" + zshText(commands[at].meaning)) + "\n";
    text += ")\nif (( CURRENT == 2 )); then\n    _describe command commands\n    " +
            zshArguments(commands[0], "        ") +
            "    return\nfi\nlocal chosen=$words[2]\nshift words\n(( CURRENT-- ))\n"
            "case $chosen in\n";
    for (std::size_t at = 1; at < commands.size(); ++at)
        text += fmt::format("{})\n    {}    ;;\n", commands[at].name, zshArguments(commands[at], "        "));
    return text + "esac\n";
}

// fish

std::string fishCompletion(const Manual& manual) {
    const auto commands = offered(manual);
    auto text = fmt::format("# fish completion of {}\n", manual.name());
    std::string names;
    for (std::size_t at = 1; at < commands.size(); ++at)
        names += (names.empty() ? "" : " ") + commands[at].name;
    for (std::size_t at = 0; at < commands.size(); ++at) {
        const auto condition = names.empty() ? std::string()
                               : at == 0     ? fmt::format(" -n 'not __fish_seen_subcommand_from {}'", names)
                                             : fmt::format(" -n '__fish_seen_subcommand_from {}'", commands[at].name);
        if (at > 0)
            text += fmt::format("complete -c {} -n 'not __fish_seen_subcommand_from {}' -f -a {} -d {}\n",
                                manual.name(), names, commands[at].name, quoted(commands[at].meaning));
        for (const auto& option : commands[at].options) {
            if (option.positional)
                continue;
            text += fmt::format("complete -c {}{}", manual.name(), condition);
            for (const auto& name : option.names)
                text += name.starts_with("--") ? " -l " + name.substr(2) : " -s " + name.substr(1);
            if (!option.choices.empty())
                text += fmt::format(" -x -a {}", quoted(joined(option.choices, " ")));
            else if (option.value == "DEMO")
                text += fmt::format(" -x -a {}", quoted(fmt::format("({})", demoNames)));
            else if (option.value == "FILE")
                text += " -r -F";
            else if (option.value == "FOLDER")
                text += " -x -a '(__fish_complete_directories)'";
            else if (!option.value.empty())
                text += " -x";
            text += fmt::format(" -d {}\n", quoted(option.meaning));
        }
    }
    return text;
}

} // namespace pyro

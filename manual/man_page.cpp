#include "core/program/program.h"
#include "manual/offered.h"

#include <cctype>
#include <fmt/format.h>
#include <vector>

namespace pyro {
namespace {

// Text as man(7) takes it: hyphens that are typed, backslashes, and no line that begins like a request.
std::string roff(const std::string& text) {
    std::string out;
    for (const char one : text)
        if (one == '\\')
            out += "\\e";
        else if (one == '-')
            out += "\\-";
        else
            out += one;
    return !out.empty() && (out[0] == '.' || out[0] == '\'') ? "\\&" + out : out;
}

std::string paragraphs(const std::string& text) {
    std::string out;
    std::size_t from = 0;
    while (from < text.size()) {
        const auto to = std::min(text.find("\n\n", from), text.size());
        out += (from == 0 ? "" : ".PP\n") + roff(text.substr(from, to - from)) + "\n";
        from = to + 2;
    }
    return out;
}

std::string synopsis(const std::string& program, const OfferedCommand& command, bool isProgram) {
    auto line = ".B " + roff(isProgram ? program : program + " " + command.name) + "\n";
    for (const auto& option : command.options) {
        if (!option.positional && !option.required)
            continue;
        const auto name = option.positional ? fmt::format("\\fI{}\\fR", roff(option.names[0]))
                                            : fmt::format("\\fB{}\\fR \\fI{}\\fR", roff(option.names[0]), option.value);
        line += (option.required ? name : "[" + name + "]") + (option.many ? " ..." : "") + "\n";
    }
    return line + "[options]\n";
}

std::string optionText(const OfferedOption& option) {
    std::string names;
    for (const auto& name : option.names)
        names += (names.empty() ? "" : ", ") + fmt::format("\\f{}{}\\fR", option.positional ? 'I' : 'B', roff(name));
    if (!option.positional && !option.value.empty())
        names += fmt::format(" \\fI{}\\fR", option.value);
    return fmt::format(".TP\n{}\n{}\n", names, roff(option.meaning));
}

std::string optionsText(const OfferedCommand& command) {
    std::string out;
    for (const auto& option : command.options)
        out += optionText(option);
    return out;
}

std::string others(const std::string& own) {
    std::vector<std::string> list;
    for (const std::string name : {"pyrometer", "pyrometer-cli", "pyrometer-reader", "pyrometer-rig"})
        if (own != name)
            list.push_back(".BR " + roff(name) + " (1)");
    return fmt::format("{}", fmt::join(list, ",\n"));
}

} // namespace

std::string manPage(const Manual& manual) {
    const auto commands = offered(manual);
    auto title = manual.name();
    for (auto& one : title)
        one = static_cast<char>(std::toupper(static_cast<unsigned char>(one)));
    auto page = fmt::format(".TH {} 1 \"\" \"Pyrometer {}\" \"User commands\"\n.SH NAME\n{} \\- {}\n.SH SYNOPSIS\n",
                            roff(title), programVersion(), roff(manual.name()), roff(manual.summary));
    for (std::size_t at = commands.size() > 1 ? 1 : 0; at < commands.size(); ++at)
        page += (at > 1 ? ".br\n" : "") + synopsis(manual.name(), commands[at], at == 0);
    page += ".SH DESCRIPTION\n" + paragraphs(manual.description) + ".SH OPTIONS\n" + optionsText(commands[0]);
    for (std::size_t at = 1; at < commands.size(); ++at)
        page += fmt::format(".SH \"COMMAND {}\"\n{}\n{}", roff(commands[at].name), roff(commands[at].meaning),
                            optionsText(commands[at]));
    page += ".SH \"EXIT STATUS\"\n";
    for (const auto& one : manual.statuses)
        page += fmt::format(".TP\n{}\n{}\n", one.status, roff(one.meaning));
    if (!manual.examples.empty())
        page += ".SH EXAMPLES\n";
    for (const auto& one : manual.examples)
        page += fmt::format(".TP\n\\fB{}\\fR\n{}\n", roff(one.words), roff(one.meaning));
    if (!manual.files.empty())
        page += ".SH FILES\n";
    for (const auto& [where, what] : manual.files)
        page += fmt::format(".TP\n{}\n{}\n", roff(where), roff(what));
    return page + ".SH \"SEE ALSO\"\n" + others(manual.name()) +
           "\n.PP\nThe user guide, the formats and the definitions of all gauges are in /usr/share/doc/pyrometer, or "
           "beside the programs in share/doc/pyrometer.\n";
}

} // namespace pyro

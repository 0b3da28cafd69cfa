#include "core/report/junit.h"

#include "core/report/limit_text.h"

#include <algorithm>
#include <fmt/format.h>
#include <pugixml.hpp>
#include <sstream>

namespace pyro {
namespace {

// "amp: 96.3 degC exceeds the maximum of 90 degC by 6.3 K"
std::string overText(const LimitReading& limit) {
    constexpr auto unit = TemperatureUnit::Celsius;
    return fmt::format("{}: {} {} of {} by {}", limit.target.name, limitLevel(limit, limit.value, unit),
                       limit.isMaximum ? "exceeds the maximum" : "falls below the minimum",
                       limitLevel(limit, limit.limit, unit), limitDifference(limit, -*limit.margin));
}

// XML has no control characters: a blank stands for each.
std::string printable(std::string text) {
    std::ranges::replace_if(
        text, [](unsigned char c) { return c < 0x20; }, ' ');
    return text;
}

void put(pugi::xml_node node, const char* name, const std::string& value) {
    node.append_attribute(name).set_value(printable(value).c_str());
}

pugi::xml_node addTest(pugi::xml_node suite, const std::string& className, const std::string& name) {
    auto test = suite.append_child("testcase");
    if (!className.empty())
        put(test, "classname", className);
    put(test, "name", name);
    return test;
}

void addSuite(pugi::xml_node suites, const CaseRun& run) {
    const auto limits = run.worstLimits();
    const auto unknown = std::ranges::count(limits, Verdict::Unknown, &LimitReading::verdict);
    auto suite = suites.append_child("testsuite");
    put(suite, "name", run.name);
    put(suite, "tests", std::to_string(limits.size() + (run.error ? 1 : 0)));
    put(suite, "failures", std::to_string(std::ranges::count(limits, Verdict::Over, &LimitReading::verdict)));
    put(suite, "errors", std::to_string(unknown + (run.error ? 1 : 0)));
    if (run.error)
        put(addTest(suite, {}, "reading").append_child("error"), "message", run.error->text());
    for (const auto& limit : limits) {
        auto test = addTest(suite, run.name,
                            fmt::format("{} {}", targetKindName(limit.target.kind), limit.target.name));
        if (limit.verdict == Verdict::Over)
            put(test.append_child("failure"), "message", overText(limit));
        else if (limit.verdict == Verdict::Unknown)
            put(test.append_child("error"), "message", limit.why);
    }
}

} // namespace

std::string junitXml(const SurveyRun& run) {
    pugi::xml_document document;
    auto declaration = document.append_child(pugi::node_declaration);
    put(declaration, "version", "1.0");
    put(declaration, "encoding", "UTF-8");
    auto suites = document.append_child("testsuites");
    for (const auto& one : run.cases)
        addSuite(suites, one);
    std::ostringstream text;
    document.save(text, "  ", pugi::format_default, pugi::encoding_utf8);
    return text.str();
}

} // namespace pyro

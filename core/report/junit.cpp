#include "core/report/junit.h"

#include "core/report/limit_text.h"

#include <algorithm>
#include <fmt/format.h>

namespace pyro {
namespace {

std::string escaped(std::string_view text) {
    std::string out;
    for (const char c : text) {
        switch (c) {
        case '&':
            out += "&amp;";
            break;
        case '<':
            out += "&lt;";
            break;
        case '>':
            out += "&gt;";
            break;
        case '"':
            out += "&quot;";
            break;
        default:
            out += static_cast<unsigned char>(c) < 0x20 ? ' ' : c;
        }
    }
    return out;
}

// "amp: 96.3 degC exceeds the maximum of 90 degC by 6.3 K"
std::string overText(const LimitReading& limit) {
    constexpr auto unit = TemperatureUnit::Celsius;
    return fmt::format("{}: {} {} of {} by {}", limit.target.name, limitLevel(limit, limit.value, unit),
                       limit.isMaximum ? "exceeds the maximum" : "falls below the minimum",
                       limitLevel(limit, limit.limit, unit), limitDifference(limit, -*limit.margin));
}

std::string testCase(const CaseRun& run, const LimitReading& limit) {
    std::string body;
    if (limit.verdict == Verdict::Over)
        body = fmt::format("<failure message=\"{}\"/>", escaped(overText(limit)));
    else if (limit.verdict == Verdict::Unknown)
        body = fmt::format("<error message=\"{}\"/>", escaped(limit.why));
    return fmt::format("    <testcase classname=\"{}\" name=\"{} {}\">{}</testcase>\n", escaped(run.name),
                       targetKindName(limit.target.kind), escaped(limit.target.name), body);
}

} // namespace

std::string junitXml(const SurveyRun& run) {
    std::string text = "<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n<testsuites>\n";
    for (const auto& one : run.cases) {
        const auto limits = one.worstLimits();
        const auto over = std::ranges::count(limits, Verdict::Over, &LimitReading::verdict);
        const auto unknown = std::ranges::count(limits, Verdict::Unknown, &LimitReading::verdict);
        text += fmt::format("  <testsuite name=\"{}\" tests=\"{}\" failures=\"{}\" errors=\"{}\">\n", escaped(one.name),
                            limits.size() + (one.error ? 1 : 0), over, unknown + (one.error ? 1 : 0));
        if (one.error)
            text += fmt::format("    <testcase name=\"reading\"><error message=\"{}\"/></testcase>\n",
                                escaped(one.error->text()));
        for (const auto& limit : limits)
            text += testCase(one, limit);
        text += "  </testsuite>\n";
    }
    return text + "</testsuites>\n";
}

} // namespace pyro

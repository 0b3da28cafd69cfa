#include "core/report/pages/report_fields.h"

#include "core/limits/judge.h"
#include "core/report/gauge_text.h"
#include "core/report/limit_text.h"

#include <algorithm>
#include <fmt/format.h>
#include <kainjow/mustache.hpp>

namespace pyro {
namespace {

using Data = kainjow::mustache::data;
using List = kainjow::mustache::list;

Data ofGauge(const GaugeReading& gauge, const ReaderUnits& unit) {
    Data out;
    out.set("id", gauge.id);
    out.set("value", gaugeText(gauge, unit));
    out.set("number", gauge.value ? fmt::format("{:.6g}", *gauge.value) : "unknown");
    out.set("unit", gauge.unit);
    out.set("method", gauge.method);
    out.set("reference", gauge.reference);
    return out;
}

Data ofLimit(const CaseEntry& entry, const LimitReading& limit, const ReaderUnits& unit) {
    Data out;
    out.set("target", targetName(entry, limit.target));
    out.set("value", limitLevel(limit, limit.value, unit));
    out.set("limit", limitLevel(limit, limit.limit, unit));
    out.set("margin", limit.margin ? marginText(limit, unit) : "unknown");
    out.set("verdict", std::string(verdictName(limit.verdict)));
    out.set("source", limit.source);
    out.set("why", limit.why);
    return out;
}

// Everything that has a name, of one case.
void addCase(Data& into, const ReportInput& input, const ReportedCase& one) {
    into.set("case", one.entry.name);
    into.set("file", one.entry.file);
    const auto limits = one.run.worstLimits();
    into.set("verdict", std::string(verdictName(verdictOf(limits))));
    List verdicts;
    Data byTarget;
    const auto order = byMargin(limits);
    for (const auto at : order)
        verdicts.push_back(ofLimit(one.entry, limits[at], input.unit));
    for (auto at = order.rbegin(); at != order.rend(); ++at) // of several limits on one target the tightest
        byTarget.set(limits[*at].target.name, ofLimit(one.entry, limits[*at], input.unit));
    into.set("verdicts", verdicts);
    into.set("limit", byTarget);
    List gauges;
    if (one.readings != nullptr)
        for (const auto& gauge : one.readings->gauges)
            if (!gauge.profile)
                gauges.push_back(ofGauge(gauge, input.unit));
    into.set("gauges", gauges);
    List checks;
    if (one.readings != nullptr)
        for (const auto& check : one.readings->checks) {
            Data told;
            told.set("title", check.title);
            told.set("figure", check.figure);
            told.set("state", std::string(checkStateText(check.state)));
            checks.push_back(std::move(told));
        }
    into.set("checks", checks);
}

Data dataOf(const ReportInput& input) {
    Data out;
    out.set("title", input.survey.title);
    out.set("date", input.date);
    out.set("prepared_by", input.survey.report.preparedBy);
    out.set("number", input.survey.report.number);
    out.set("note", input.survey.report.note);
    out.set("version", input.version);
    const auto cases = casesOf(input, {});
    if (!cases.empty())
        addCase(out, input, cases.front());
    List all;
    for (const auto& one : cases) {
        Data told;
        addCase(told, input, one);
        all.push_back(std::move(told));
    }
    out.set("cases", all);
    List findings;
    for (const auto& finding : input.survey.findings) {
        Data told;
        told.set("text", finding.text);
        told.set("severity", std::string(severityName(finding.severity)));
        told.set("state", finding.state);
        findings.push_back(std::move(told));
    }
    out.set("findings", findings);
    return out;
}

// Gauges by their names, which may hold dots; what is not there gives itself back.
class FieldContext : public kainjow::mustache::context<std::string> {
public:
    FieldContext(const Data& data, const ReportInput& input, std::vector<std::string>& unknown)
        : context(&data), m_input(input), m_unknown(unknown) {}

    const Data* get(const std::string& name) const override {
        if (const auto* known = context::get(name))
            return known;
        const auto gauge = ofName(name);
        return keep(gauge ? *gauge : given(name));
    }

private:
    std::optional<std::string> ofName(const std::string& name) const {
        for (const auto& one : casesOf(m_input, {})) {
            if (one.readings == nullptr)
                continue;
            for (const auto& gauge : one.readings->gauges) {
                if (gauge.id == name)
                    return gauge.profile ? std::string("a profile") : gaugeText(gauge, m_input.unit);
                if (name == gauge.id + ".unit")
                    return gauge.unit;
                if (name == gauge.id + ".number" || name == gauge.id + ".value")
                    return gauge.value ? fmt::format("{:.6g}", *gauge.value) : "unknown";
            }
            break; // fields are those of the first case
        }
        return std::nullopt;
    }
    std::string given(const std::string& name) const {
        if (std::ranges::find(m_unknown, name) == m_unknown.end())
            m_unknown.push_back(name);
        return "{{" + name + "}}";
    }
    const Data* keep(const std::string& text) const {
        m_kept.push_back(std::make_unique<Data>(text));
        return m_kept.back().get();
    }

    const ReportInput& m_input;
    std::vector<std::string>& m_unknown;
    mutable std::vector<std::unique_ptr<Data>> m_kept;
};

} // namespace

Result<std::string> fillFields(const std::string& text, const ReportInput& input, FieldEscape escape,
                               std::vector<std::string>& unknown) {
    kainjow::mustache::mustache filled(text);
    if (!filled.is_valid())
        return fail(ErrorCode::Syntax, "the template cannot be read: " + filled.error_message(), "template",
                    "Each {{#list}} needs its {{/list}}");
    if (escape == FieldEscape::None)
        filled.set_custom_escape([](const std::string& value) { return value; });
    const auto data = dataOf(input);
    FieldContext context(data, input, unknown);
    return filled.render(context);
}

} // namespace pyro

#include "core/survey/names.h"

#include <algorithm>
#include <cctype>

namespace pyro {
namespace {

struct NamingKey {
    std::string_view key;
    NameOf what;
};
constexpr NamingKey namingKeys[]{
    {"gauge", NameOf::Gauge},         {"gauges", NameOf::Gauge},      {"part", NameOf::Part},
    {"interface", NameOf::Part},      {"boundary", NameOf::Boundary}, {"environments", NameOf::Boundary},
    {"boundaries", NameOf::Boundary}, {"against", NameOf::Boundary},  {"case", NameOf::Case},
    {"material", NameOf::Material},
};

class Walk {
public:
    using Visit = std::function<void(NameOf, std::string&)>;
    Walk(Survey& survey, const Visit& visit) : m_survey(survey), m_visit(visit) {}

    void run() {
        for (auto& entry : m_survey.cases)
            ofCase(entry);
        for (auto& [name, material] : m_survey.materials)
            json(material.rest);
        for (auto& gauge : m_survey.gauges) {
            formula(gauge.formula);
            json(gauge.where.written);
            json(gauge.rest);
        }
        for (auto& limit : m_survey.limits)
            ofLimit(limit);
        for (auto& chart : m_survey.charts)
            ofChart(chart);
        for (auto& viewpoint : m_survey.viewpoints) {
            ofView(viewpoint.view);
            json(viewpoint.rest);
        }
        for (auto& finding : m_survey.findings)
            ofFinding(finding);
        ofView(m_survey.view);
        if (m_survey.estimate)
            json(m_survey.estimate->rest);
        ofTogether();
        for (auto& [key, entries] : m_survey.unread)
            json(entries);
        for (auto& block : m_survey.report.blocks) {
            for (auto& name : block.cases)
                one(NameOf::Case, name);
            if (block.kind != "viewpoint" && block.kind != "signatures") // whose rows are names of others
                for (auto& name : block.rows)
                    one(NameOf::Gauge, name);
            json(block.rest);
        }
        json(m_survey.report.rest);
        json(m_survey.rest);
    }

private:
    void one(NameOf what, std::string& name) {
        if (!name.empty())
            m_visit(what, name);
    }
    void all(NameOf what, std::set<std::string>& names) {
        std::set<std::string> next;
        for (auto name : names) {
            one(what, name);
            next.insert(std::move(name));
        }
        names = std::move(next);
    }
    template <class Value>
    void keys(NameOf what, std::map<std::string, Value>& values) {
        std::map<std::string, Value> next;
        for (auto& [key, value] : values) {
            auto name = key;
            one(what, name);
            next.emplace(std::move(name), std::move(value));
        }
        values = std::move(next);
    }

    // A name, or lists of names.
    void names(NameOf what, Json& value) {
        if (value.is_string()) {
            auto name = value.get<std::string>();
            one(what, name);
            value = name;
        } else if (value.is_array()) {
            for (auto& entry : value)
                names(what, entry);
        } else {
            json(value);
        }
    }
    void json(Json& value) {
        if (value.is_array())
            for (auto& entry : value)
                json(entry);
        if (!value.is_object())
            return;
        for (auto& [key, entry] : value.items()) {
            const auto known = std::ranges::find(namingKeys, std::string_view(key), &NamingKey::key);
            if (known != std::end(namingKeys))
                names(known->what, entry);
            else
                json(entry);
        }
    }

    // Whole names only; what stands in quotation marks is a unit.
    void formula(std::string& text) {
        const auto inName = [&](std::size_t at) {
            return at < text.size() && (std::isalnum(static_cast<unsigned char>(text[at])) != 0 || text[at] == '_');
        };
        std::string out;
        for (std::size_t at = 0; at < text.size();) {
            auto end = at + 1;
            if (text[at] == '\'' || text[at] == '"')
                end = std::min(text.find(text[at], end), text.size() - 1) + 1;
            else
                while (inName(at) && inName(end))
                    ++end;
            auto word = text.substr(at, end - at);
            if (std::ranges::find(m_survey.gauges, word, &Gauge::id) != m_survey.gauges.end())
                one(NameOf::Gauge, word);
            out += word;
            at = end;
        }
        text = std::move(out);
    }

    void ofCase(CaseEntry& entry) {
        keys(NameOf::Part, entry.parts);
        for (auto& [part, note] : entry.parts) {
            one(NameOf::Material, note.material);
            json(note.rest);
        }
        keys(NameOf::Boundary, entry.boundaries);
        for (auto& [boundary, note] : entry.boundaries)
            json(note.rest);
        for (auto& cut : entry.split.cuts)
            one(NameOf::Boundary, cut.boundary);
        for (auto& join : entry.split.joins)
            for (auto& boundary : join.boundaries)
                one(NameOf::Boundary, boundary);
        json(entry.splitWritten);
        json(entry.rest);
    }
    void ofTogether() {
        if (auto& compare = m_survey.compare) {
            one(NameOf::Case, compare->baseline);
            for (auto& name : compare->of)
                one(NameOf::Case, name);
            json(compare->rest);
        }
        if (auto& sweep = m_survey.sweep) {
            one(NameOf::Case, sweep->like);
            json(sweep->rest);
        }
        for (auto& grids : m_survey.grids) {
            for (auto& name : grids.cases)
                one(NameOf::Case, name);
            json(grids.rest);
        }
        for (auto& measured : m_survey.measured) {
            one(NameOf::Case, measured.caseName);
            for (auto& [title, sensor] : measured.sensors) {
                one(NameOf::Gauge, sensor.gauge);
                one(NameOf::Part, sensor.part);
            }
            if (measured.picture)
                for (auto& part : measured.picture->parts)
                    one(NameOf::Part, part);
            json(measured.rest);
        }
    }
    void ofLimit(Limit& limit) {
        one(limit.target.kind == TargetKind::Part       ? NameOf::Part
            : limit.target.kind == TargetKind::Boundary ? NameOf::Boundary
                                                        : NameOf::Gauge,
            limit.target.name);
        one(NameOf::Gauge, limit.than); // the ambient of a rise, the other gauge of a difference
        json(limit.rest);
    }
    void ofChart(ChartView& chart) {
        for (auto& gauge : chart.gauges)
            one(NameOf::Gauge, gauge);
        one(NameOf::Gauge, chart.xOver);
        one(NameOf::Gauge, chart.xScale);
        json(chart.rest);
    }
    void ofFinding(Finding& finding) {
        one(NameOf::Case, finding.caseName);
        one(NameOf::Part, finding.part);
        if (finding.view)
            ofView(*finding.view);
        json(finding.rest);
    }
    void ofView(ViewState& view) {
        one(NameOf::Case, view.caseName);
        all(NameOf::Case, view.compare.left);
        all(NameOf::Part, view.hidden);
        if (view.isolated)
            one(NameOf::Part, *view.isolated);
        keys(NameOf::Part, view.opacity);
        all(NameOf::Boundary, view.boundaries);
        for (auto& [quantity, values] : view.field.isotherms.values) {
            for (auto& source : values.marksOf)
                one(source.kind == MarkSource::Kind::Gauge ? NameOf::Gauge : NameOf::Part, source.name);
            json(values.rest);
        }
        for (auto& section : view.field.sections) {
            all(NameOf::Part, section.exempt);
            json(section.rest);
        }
        if (view.field.paths.start == PathStart::Boundary)
            one(NameOf::Boundary, view.field.paths.from);
        all(NameOf::Boundary, view.field.arrows.boundaries);
        one(NameOf::Case, view.field.deformed.caseName);
        for (auto* value : {&view.sweep.value, &view.sweep.x, &view.sweep.y})
            one(NameOf::Gauge, *value);
        all(NameOf::Gauge, view.sweep.hidden);
        keys(NameOf::Gauge, view.sweep.ranges);
        json(view.rest);
    }

    Survey& m_survey;
    const Visit& m_visit;
};

} // namespace

void visitNames(Survey& survey, const std::function<void(NameOf what, std::string& name)>& visit) {
    Walk(survey, visit).run();
}

void rename(Survey& survey, NameOf what, const std::string& from, const std::string& to) {
    visitNames(survey, [&](NameOf of, std::string& name) {
        if (of == what && name == from)
            name = to;
    });
}

} // namespace pyro

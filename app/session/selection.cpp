#include "app/session/selection.h"

#include <algorithm>

namespace pyro {
namespace {

std::optional<std::size_t> gaugeAt(const Survey& survey, const std::string& id) {
    const auto found = std::ranges::find(survey.gauges, id, &Gauge::id);
    return found == survey.gauges.end() ? std::nullopt
                                        : std::optional(static_cast<std::size_t>(found - survey.gauges.begin()));
}

} // namespace

template <class T>
void Selection::take(T& member, const T& value, Change what) {
    if (member == value)
        return;
    member = value;
    emit changed(what);
}

void Selection::clear() {
    m_part.clear();
    m_section.reset();
    m_gauge.clear();
    m_limit.reset();
    m_sweepCase.clear();
    m_measured = {};
    m_marked.reset();
}

void Selection::follow(const Survey& before) {
    const auto& now = m_document.survey();
    if (const auto gauge = gaugeAt(before, m_gauge); gauge && before.gauges.size() == now.gauges.size())
        m_gauge = now.gauges[*gauge].id;
}

void Selection::selectPart(const std::string& part) { take(m_part, part, Change::Selection); }

void Selection::selectBoundary(const std::string& boundary) { take(m_boundary, boundary, Change::Selection); }

void Selection::pointAtBoundary(const std::string& boundary) { take(m_pointedBoundary, boundary, Change::Pointed); }

std::optional<std::size_t> Selection::selectedSection() const {
    return m_section && *m_section < m_document.survey().view.field.sections.size() ? m_section : std::nullopt;
}

void Selection::selectSection(std::optional<std::size_t> section) { take(m_section, section, Change::Selection); }

std::optional<std::size_t> Selection::selectedGaugeAt() const { return gaugeAt(m_document.survey(), m_gauge); }

std::string Selection::selectedGauge() const { return selectedGaugeAt() ? m_gauge : std::string(); }

void Selection::selectSweepCase(const std::string& name) { take(m_sweepCase, name, Change::Selection); }

void Selection::selectMeasured(const std::string& set, const std::string& name) {
    take(m_measured, std::pair(set, name), Change::Selection);
}

void Selection::selectGauge(const std::string& id) {
    if (id == m_gauge)
        return;
    m_marked.reset();
    m_spotFloor = 0;
    take(m_gauge, id, Change::Selection);
}

std::optional<std::size_t> Selection::selectedLimit() const {
    return m_limit && *m_limit < m_document.survey().limits.size() ? m_limit : std::nullopt;
}

void Selection::selectLimit(std::optional<std::size_t> limit) { take(m_limit, limit, Change::Selection); }

void Selection::markPlace(const std::optional<Point>& place) { take(m_marked, place, Change::Marked); }

void Selection::setSpotFloor(double least) {
    m_spotFloor = least;
    emit changed(Change::Marked);
}

void Selection::markEdges(std::vector<std::array<Point, 2>> edges) {
    if (edges.empty() && m_edges.empty())
        return;
    m_edges = std::move(edges);
    emit changed(Change::Marked);
}

} // namespace pyro

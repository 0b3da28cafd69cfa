// What is chosen and what is pointed at. Names of what is gone count as nothing chosen.
#pragma once

#include "app/session/changes.h"
#include "app/session/document.h"
#include "core/case/case.h"

namespace pyro {

class Selection : public QObject {
    Q_OBJECT
public:
    explicit Selection(const Document& document) : m_document(document) {}
    void clear(); // nothing is told
    // The chosen gauge stays so under another name.
    void follow(const Survey& before);

    const std::string& selectedPart() const { return m_part; }
    void selectPart(const std::string& part);
    // The boundary that the stage Cases tells of, and the one that its table is pointed at; empty for none.
    const std::string& selectedBoundary() const { return m_boundary; }
    const std::string& pointedBoundary() const { return m_pointedBoundary; }
    void selectBoundary(const std::string& boundary);
    void pointAtBoundary(const std::string& boundary);
    // The section that is being edited, by its position in the view.
    std::optional<std::size_t> selectedSection() const;
    void selectSection(std::optional<std::size_t> section);
    // The gauge that table, chart and viewport tell of, by its id; empty for none.
    std::string selectedGauge() const;
    std::optional<std::size_t> selectedGaugeAt() const;
    void selectGauge(const std::string& id);
    // Before it is in the survey; nothing is told.
    void expectGauge(const std::string& id) { m_gauge = id; }
    // The limit that table and form tell of, by its position in the survey.
    std::optional<std::size_t> selectedLimit() const;
    void selectLimit(std::optional<std::size_t> limit);
    // The case of the sweep, by its name, and the measured value, by set and name, that table and picture tell of.
    const std::string& selectedSweepCase() const { return m_sweepCase; }
    void selectSweepCase(const std::string& name);
    const std::pair<std::string, std::string>& selectedMeasured() const { return m_measured; }
    void selectMeasured(const std::string& set, const std::string& name);
    // A place on the chosen gauge that chart and viewport both mark, metres; nothing while none is pointed at.
    const std::optional<Point>& markedPlace() const { return m_marked; }
    void markPlace(const std::optional<Point>& place);
    // Pins of hotspots that stand out by less are not drawn while the slider is moved; in the gauge's unit.
    double spotFloor() const { return m_spotFloor; }
    void setSpotFloor(double least);
    // Outlines of the cells of the chosen check, metres.
    const std::vector<std::array<Point, 2>>& markedEdges() const { return m_edges; }
    void markEdges(std::vector<std::array<Point, 2>> edges);

signals:
    void changed(pyro::Changes what);

private:
    template <class T>
    void take(T& member, const T& value, Change what);

    const Document& m_document;
    std::string m_part;
    std::string m_boundary;
    std::string m_pointedBoundary;
    std::optional<std::size_t> m_section;
    std::string m_gauge;
    std::optional<std::size_t> m_limit;
    std::string m_sweepCase;
    std::pair<std::string, std::string> m_measured;
    std::optional<Point> m_marked;
    std::vector<std::array<Point, 2>> m_edges;
    double m_spotFloor = 0;
};

} // namespace pyro

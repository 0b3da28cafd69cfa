#include "app/stages/compare/compare_area.h"

#include "app/stages/compare/compare_view.h"
#include "app/stages/compare/measured_plot.h"
#include "app/stages/compare/sweep_picture.h"

#include <QVBoxLayout>
#include <algorithm>

namespace pyro {

CompareArea::CompareArea(Session& session, QWidget* parent)
    : QWidget(parent), m_session(session), m_view(new CompareView(session)), m_measured(new MeasuredPlot),
      m_sweep(new SweepPicturePanel(session)) {
    m_split = new QSplitter(Qt::Horizontal);
    m_split->setHandleWidth(1);
    m_split->setChildrenCollapsible(false);
    m_split->addWidget(m_view);
    m_split->addWidget(m_measured);
    m_split->addWidget(m_sweep);
    m_split->setStretchFactor(0, 3);
    m_split->setStretchFactor(1, 2);
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->addWidget(m_split);
    session.listen(this, contents, &CompareArea::refresh);
    connect(m_measured, &MeasuredPlot::pointChosen, this, [this](const std::string& name) {
        m_session.selection().selectMeasured(m_session.selection().selectedMeasured().first, name);
    });
    connect(m_sweep->plot(), &SweepPlot::caseChosen, this, &CompareArea::choose);
    connect(m_sweep->plot(), &SweepPlot::caseWanted, this, [this](std::size_t position) {
        if (const auto sweep = m_session.sweep(); sweep && position < sweep->cases.size())
            openSweepCase(m_session, sweep->cases[position].name);
    });
}

void CompareArea::showEvent(QShowEvent*) { refresh(); }

void CompareArea::choose(std::size_t position) {
    if (const auto sweep = m_session.sweep(); sweep && position < sweep->cases.size())
        m_session.selection().selectSweepCase(sweep->cases[position].name);
}

void CompareArea::refresh() {
    if (!isVisible())
        return;
    const auto show = m_session.view().compare.show;
    const bool measured = show == CompareShow::Measured && drawMeasured();
    const bool sweep = show == CompareShow::Sweep && drawSweep();
    if (measured && !m_measured->isVisibleTo(this)) // its share of the room
        m_split->setSizes({3 * width() / 5, 2 * width() / 5, 0});
    m_measured->setVisible(measured);
    m_sweep->setVisible(sweep);
    m_view->setVisible(!sweep);
}

bool CompareArea::drawMeasured() {
    const auto& [set, name] = m_session.selection().selectedMeasured();
    const MeasuredReading* shown = nullptr;
    for (const auto& one : m_session.openRun().cases)
        for (const auto& reading : one.measured)
            if (reading.why.empty() && (shown == nullptr || reading.id == set))
                shown = &reading;
    if (shown != nullptr)
        m_measured->draw(*shown, shown->id == set ? name : std::string(), m_session.view().unit);
    return shown != nullptr;
}

std::optional<std::size_t> CompareArea::chosenCase(const SweepReading& sweep) const {
    const auto found = std::ranges::find(sweep.cases, m_session.selection().selectedSweepCase(), &SweepCase::name);
    return found == sweep.cases.end() ? std::nullopt
                                      : std::optional(static_cast<std::size_t>(found - sweep.cases.begin()));
}

bool CompareArea::drawSweep() {
    const auto sweep = m_session.sweep();
    if (!sweep || !sweep->why.empty())
        return false;
    SweepKey key{sweep, m_session.view().sweep, m_session.selection().selectedSweepCase()};
    if (key == m_drawn)
        return true;
    m_drawn = std::move(key);
    const auto values = sweepValues(m_session.survey(), sweep->cases);
    m_sweep->fill(sweep, values, casesWithin(*sweep, values, m_session.view().sweep.ranges), chosenCase(*sweep));
    return true;
}

void openSweepCase(Session& session, const std::string& name) {
    const auto plan = planSweep(session.survey(), session.document().folder());
    if (!plan)
        return;
    const auto item = std::ranges::find_if(plan->items, [&](const auto& one) { return one.entry.name == name; });
    if (item == plan->items.end())
        return;
    auto next = session.survey();
    if (next.caseNamed(name) == nullptr)
        next.cases.push_back(item->entry);
    next.view.caseName = name;
    next.view.step.reset();
    session.edit("Open case of the sweep", std::move(next));
}

} // namespace pyro

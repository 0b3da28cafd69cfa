#include "app/stages/compare/compare_page.h"

#include "app/stages/compare/sweep_map.h"
#include "app/stages/stage.h"
#include "app/theme/theme.h"
#include "render/text.h"

#include <QTableView>

namespace pyro {
namespace {

struct OrderWord {
    const char* written;
    const char* shown;
    CompareOrder order;
};
constexpr OrderWord orders[]{{"worse", "worse first", CompareOrder::Worse},
                             {"changed", "most changed first", CompareOrder::Changed},
                             {"margin", "least margin first", CompareOrder::Margin},
                             {"defined", "as defined", CompareOrder::AsDefined}};

const OrderWord& orderOf(const ViewState& view) {
    const auto found = std::ranges::find(orders, view.compare.order, &OrderWord::written);
    return found == std::end(orders) ? orders[0] : *found;
}

} // namespace

ComparePage::ComparePage(Session& session, QWidget* parent) : LedgerPage("", parent), m_session(session) {
    m_compare = addTable("compareTable", "What changed");
    m_grids = addTable("gridsTable", "Grid convergence");
    m_measured = addTable("measuredTable", "Measured");
    m_map = new SweepMap;
    m_sweep = addTableBeside("sweepTable", "Sweep", m_map);
    m_order = new QComboBox;
    m_order->setObjectName("compareOrder");
    for (const auto& one : orders)
        m_order->addItem(one.shown, QString(one.written));
    addTool(m_order);
    connect(m_order, &QComboBox::activated, this, [this](int at) {
        auto view = m_session.view();
        view.compare.order = m_order->itemData(at).toString().toStdString();
        m_session.editView("Order of comparison", view);
    });
    connect(addLink("exportCompare", "Export\u2026"), &QPushButton::clicked, this, &ComparePage::exportRequested);
    addCopyLink("copyCompare");
    session.listen(this, Change::Cases | Change::Survey | Change::Readings | Change::View, &ComparePage::fill);
    fill();
}

void ComparePage::fill() {
    m_order->setCurrentIndex(m_order->findData(orderOf(m_session.view()).written));
    if (stageOf(m_session).id != QString("Compare"))
        return;
    fillCompare();
    fillGrids();
    fillMeasured();
    fillSweep();
}

void ComparePage::fillSweep() {
    m_session.wantSweep();
    const auto sweep = m_session.sweep();
    m_map->setVisible(sweep && sweep->why.empty());
    if (!sweep || !sweep->why.empty()) {
        m_sweep->reset(ShownTable{{{sweep ? sweep->why
                                    : planSweep(m_session.survey(), m_session.document().folder())
                                        ? std::string("Being evaluated\u2026")
                                        : std::string("No sweep is named; see the guide")}},
                                  {}});
        return;
    }
    m_sweep->reset(shownSweep(m_session.survey(), *sweep, m_session.view().unit));
    m_map->fill(sweep);
}

void ComparePage::fillMeasured() {
    ShownTable all;
    std::string why;
    for (const auto& one : m_session.openRun().cases)
        for (const auto& reading : one.measured) {
            if (!reading.why.empty())
                why = reading.why;
            auto shown = shownMeasured(reading, m_session.view().unit);
            all.columns = shown.columns;
            all.rows.insert(all.rows.end(), shown.rows.begin(), shown.rows.end());
        }
    if (all.rows.empty())
        all = {{{why.empty() ? "No measured data are named; see the guide" : why}}, {}};
    m_measured->reset(std::move(all));
}

void ComparePage::fillCompare() {
    const auto& run = m_session.openRun();
    if (!run.compare || !run.compare->why.empty()) {
        m_compare->reset(ShownTable{{{run.compare ? run.compare->why : "Two cases or more are compared"}}, {}});
        return;
    }
    const auto rows = comparedRows(m_session.survey(), *run.compare, orderOf(m_session.view()).order);
    auto shown = std::make_shared<const ShownTable>(
        shownCompare(m_session.survey(), *run.compare, rows, m_session.view().unit));
    // per row and case
    std::vector<std::vector<std::optional<Verdict>>> marks;
    for (const auto& row : rows) {
        auto& own = marks.emplace_back(run.compare->cases.size());
        if (row.limit != ComparedThing::noLimit)
            for (std::size_t i = 0; i < own.size(); ++i)
                own[i] = run.compare->limits[row.limit].cases[i].verdict;
    }
    std::size_t verdicts = 0; // columns of them so far
    std::vector<TableColumn> columns;
    for (std::size_t i = 0; i < shown->columns.size(); ++i) {
        TableColumn column{q(shown->columns[i].title),
                           [shown, i](int row) { return q(shown->rows[static_cast<std::size_t>(row)][i]); }};
        column.number = shown->columns[i].isNumber;
        if (shown->columns[i].title == "Verdict")
            column.decoration = [marks, which = verdicts++](int row) {
                const auto& mark = marks[static_cast<std::size_t>(row)][which];
                return mark ? QVariant(theme::verdictPixmap(*mark)) : QVariant();
            };
        columns.push_back(std::move(column));
    }
    m_compare->reset(static_cast<int>(rows.size()), std::move(columns));
}

void ComparePage::fillGrids() {
    const auto& studies = m_session.openRun().grids;
    if (studies.empty() || !studies.front().why.empty()) {
        m_grids->reset(ShownTable{
            {{studies.empty() ? "No meshes are named for a study; see the guide" : studies.front().why}}, {}});
        return;
    }
    ShownTable all;
    for (const auto& study : studies) {
        auto one = shownGrids(m_session.survey(), study, m_session.view().unit);
        all.columns = one.columns;
        all.rows.insert(all.rows.end(), one.rows.begin(), one.rows.end());
    }
    m_grids->reset(std::move(all));
}

} // namespace pyro

#include "app/stages/compare/compare_page.h"

#include "app/stages/compare/compare_area.h"
#include "app/stages/stage.h"
#include "app/theme/theme.h"
#include "core/compare/value_map.h"
#include "render/text.h"

#include <QHeaderView>
#include <QMenu>
#include <QTableView>
#include <fmt/format.h>

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
    connect(view("measuredTable")->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this](const QModelIndex& row) {
                if (const auto at = static_cast<std::size_t>(row.row()); row.isValid() && at < m_measuredRows.size())
                    m_session.selection().selectMeasured(m_measuredRows[at].first, m_measuredRows[at].second);
            });
    addSweep();
    m_order = new QComboBox;
    m_order->setObjectName("compareOrder");
    for (const auto& one : orders)
        m_order->addItem(one.shown, QString(one.written));
    addTool(m_order);
    m_clear = addLink("clearRanges", "All cases");
    m_clear->setToolTip("Shows the cases beyond the ranges and the hidden columns again");
    connect(m_clear, &QPushButton::clicked, this, [this] {
        auto view = m_session.view();
        view.sweep.ranges.clear();
        view.sweep.hidden.clear();
        m_session.editView("All cases of the sweep", view);
    });
    connect(this, &LedgerPage::tableShown, this, &ComparePage::followTab);
    addSetUp();
    connect(m_order, &QComboBox::activated, this, [this](int at) {
        auto view = m_session.view();
        view.compare.order = m_order->itemData(at).toString().toStdString();
        m_session.editView("Order of comparison", view);
    });
    connect(addLink("exportCompare", "Export\u2026"), &QPushButton::clicked, this, &ComparePage::exportRequested);
    addCopyLink("copyCompare");
    session.listen(this, contents, &ComparePage::fill);
    fill();
}

void ComparePage::fill() {
    m_order->setCurrentIndex(m_order->findData(orderOf(m_session.view()).written));
    tellSweep();
    if (stageOf(m_session).id != QString("Compare"))
        return;
    fillCompare();
    fillGrids();
    fillMeasured();
    fillSweep();
    followView();
    markChosen();
}

// What the tables are made of, each with its form.
void ComparePage::addSetUp() {
    auto* link = addLink("setUpCompare", "Set up");
    auto* menu = new QMenu(link);
    for (const auto& [title, action] : {std::pair("Meshes of one case\u2026", "setUpGrids"),
                                        {"Measured data\u2026", "addMeasured"},
                                        {"Sweep\u2026", "setUpSweep"},
                                        {"Placement of a case\u2026", "placeCase"}})
        menu->addAction(title, this, [this, action = QString(action)] { emit setUpRequested(action); });
    link->setMenu(menu);
}

void ComparePage::addSweep() {
    m_sweep = addTable("sweepTable", "Sweep");
    auto* table = view("sweepTable");
    table->horizontalHeader()->setSectionsMovable(true);
    table->horizontalHeader()->setContextMenuPolicy(Qt::CustomContextMenu);
    connect(table->horizontalHeader(), &QWidget::customContextMenuRequested, this, [this, table](const QPoint& at) {
        const int column = table->horizontalHeader()->logicalIndexAt(at);
        if (column <= 0) // the name of the case stays
            return;
        const auto title = m_sweep->column(column).title;
        auto* menu = new QMenu(this);
        menu->setAttribute(Qt::WA_DeleteOnClose);
        menu->addAction("Hide column " + title, this, [this, title] {
            auto view = m_session.view();
            view.sweep.hidden.insert(title.toStdString());
            m_session.editView("Hide column", view);
        });
        menu->popup(table->horizontalHeader()->mapToGlobal(at));
    });
    const auto nameIn = [this](const QModelIndex& row) {
        const auto sweep = m_session.sweep();
        const auto at = static_cast<std::size_t>(row.row());
        return sweep && row.isValid() && at < m_left.size() ? sweep->cases[m_left[at]].name : std::string();
    };
    connect(table->selectionModel(), &QItemSelectionModel::currentRowChanged, this,
            [this, nameIn](const QModelIndex& row) {
                if (const auto name = nameIn(row); !name.empty())
                    m_session.selection().selectSweepCase(name);
            });
    connect(table, &QTableView::doubleClicked, this, [this, nameIn](const QModelIndex& row) {
        if (const auto name = nameIn(row); !name.empty())
            openSweepCase(m_session, name);
    });
}

// The tables of sweep and measured data have their picture above them.
void ComparePage::followTab(int at) {
    const auto table = at == 2 ? CompareShow::Measured : at == 3 ? CompareShow::Sweep : CompareShow::SideBySide;
    const auto now = m_session.view().compare.show;
    const bool cases = now != CompareShow::Measured && now != CompareShow::Sweep;
    if (table != now && !(table == CompareShow::SideBySide && cases)) {
        auto view = m_session.view();
        view.compare.show = table;
        m_session.editView("Show cases", view);
    }
    tellSweep();
}

void ComparePage::followView() {
    const auto show = m_session.view().compare.show;
    const auto isShown = [this](const char* table) { return view(table)->isVisibleTo(this); };
    if (show == CompareShow::Measured && !isShown("measuredTable"))
        showTable("measuredTable");
    else if (show == CompareShow::Sweep && !isShown("sweepTable"))
        showTable("sweepTable");
    else if (show != CompareShow::Measured && show != CompareShow::Sweep &&
             (isShown("measuredTable") || isShown("sweepTable")))
        showTable("compareTable");
}

// The row of what is chosen in a picture.
void ComparePage::markChosen() {
    const auto sweep = m_session.sweep();
    const auto select = [this](const char* table, std::size_t row) {
        if (static_cast<std::size_t>(view(table)->currentIndex().row()) != row)
            view(table)->selectRow(static_cast<int>(row));
    };
    for (std::size_t row = 0; sweep && row < m_left.size(); ++row)
        if (sweep->cases[m_left[row]].name == m_session.selection().selectedSweepCase())
            select("sweepTable", row);
    for (std::size_t row = 0; row < m_measuredRows.size(); ++row)
        if (m_measuredRows[row] == m_session.selection().selectedMeasured())
            return select("measuredTable", row); // the first of several times
}

void ComparePage::tellSweep() {
    m_order->setVisible(view("compareTable")->isVisible() || !isVisible());
    const auto& look = m_session.view().sweep;
    const auto sweep = m_session.sweep();
    m_clear->setVisible(sweep && view("sweepTable")->isVisible() && !(look.ranges.empty() && look.hidden.empty()));
    if (sweep)
        m_clear->setText(q(fmt::format("{} of {} cases: show all", m_left.size(), sweep->cases.size())));
}

void ComparePage::fillSweep() {
    m_session.wantSweep();
    const auto sweep = m_session.sweep();
    if (!sweep || !sweep->why.empty()) {
        m_drawn.reset();
        m_left.clear();
        m_sweep->reset(ShownTable{{{sweep ? sweep->why
                                    : planSweep(m_session.survey(), m_session.document().folder())
                                        ? std::string("Being evaluated\u2026")
                                        : std::string("No sweep is named; Set up names one")}},
                                  {}});
        return tellSweep();
    }
    SweepKey key{sweep, m_session.view().sweep, m_session.view().unit};
    if (key == m_drawn)
        return;
    m_drawn = std::move(key);
    const auto values = sweepValues(m_session.survey(), sweep->cases);
    m_left = casesWithin(*sweep, values, m_session.view().sweep.ranges);
    auto shown = shownSweep(m_session.survey(), *sweep, m_session.view().unit);
    ShownTable kept{shown.columns, {}};
    for (const auto which : m_left)
        kept.rows.push_back(std::move(shown.rows[which]));
    m_sweep->reset(std::move(kept));
    hideColumns();
    tellSweep();
}

void ComparePage::hideColumns() {
    auto* table = view("sweepTable");
    for (int column = 0; column < m_sweep->columnCount(); ++column)
        table->setColumnHidden(column,
                               m_session.view().sweep.hidden.contains(m_sweep->column(column).title.toStdString()));
}

void ComparePage::fillMeasured() {
    ShownTable all;
    std::string why;
    m_measuredRows.clear();
    for (const auto& one : m_session.openRun().cases)
        for (const auto& reading : one.measured) {
            if (!reading.why.empty())
                why = reading.why;
            auto shown = shownMeasured(reading, m_session.view().unit);
            all.columns = shown.columns;
            for (auto& row : shown.rows) {
                m_measuredRows.emplace_back(reading.id, row.front());
                all.rows.push_back(std::move(row));
            }
        }
    if (all.rows.empty())
        all = {{{why.empty() ? "No measured data are named; Set up names some" : why}}, {}};
    const auto isEmpty = [&](std::size_t column) {
        return std::ranges::all_of(all.rows,
                                   [&](const auto& row) { return column < row.size() && row[column].empty(); });
    };
    std::vector<bool> empty;
    for (std::size_t column = 0; column < all.columns.size(); ++column)
        empty.push_back(isEmpty(column));
    m_measured->reset(std::move(all));
    for (std::size_t column = 0; column < empty.size(); ++column)
        view("measuredTable")->setColumnHidden(static_cast<int>(column), empty[column]);
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
            {{studies.empty() ? "No meshes are named for a study; Set up names them" : studies.front().why}}, {}});
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
